package flarvo.format.gltf;

import de.javagl.jgltf.model.MaterialModel;
import de.javagl.jgltf.model.TextureModel;
import de.javagl.jgltf.model.v2.MaterialModelV2;
import flarvo.report.Note;
import flarvo.scene.Texture;
import java.util.List;
import java.util.Optional;

/** The picture on a mesh: that of its material's colour. */
final class GltfTextures {

  private final List<Note> notes;
  private boolean said;

  GltfTextures(List<Note> notes) {
    this.notes = notes;
  }

  /** Empty without a picture, and where it is inside the file. */
  Optional<Texture> of(MaterialModel material, String mesh) {
    if (!(material instanceof MaterialModelV2 m)) {
      return Optional.empty();
    }
    TextureModel t =
        m.getBaseColorTexture() != null ? m.getBaseColorTexture() : m.getEmissiveTexture();
    if (t == null || t.getImageModel() == null) {
      return Optional.empty();
    }
    String uri = t.getImageModel().getUri();
    if (uri == null || uri.startsWith("data:")) {
      if (!said) {
        notes.add(
            Note.lost(
                "mesh " + mesh, "pictures that are inside the file, such as its, are left out"));
        said = true;
      }
      return Optional.empty();
    }
    boolean alpha =
        m.getAlphaMode() != null && m.getAlphaMode() != MaterialModelV2.AlphaMode.OPAQUE;
    return Optional.of(Texture.still(GltfFile.path(uri), alpha));
  }
}
