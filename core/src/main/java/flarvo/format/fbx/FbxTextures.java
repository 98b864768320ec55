package flarvo.format.fbx;

import flarvo.format.NumberedPath;
import flarvo.scene.Texture;
import java.util.List;
import java.util.Optional;

/** The picture on a model: from its material to the file that colours it. */
final class FbxTextures {

  /** Properties of a material that a picture may feed. */
  private static final List<String> COLOURS = List.of("DiffuseColor", "EmissiveColor");

  private FbxTextures() {}

  /** Empty for a model without a material that shows a picture. */
  static Optional<Texture> of(FbxObject model) {
    for (FbxObject material : model.children()) {
      if (!material.kind.equals("Material")) {
        continue;
      }
      for (String colour : COLOURS) {
        FbxObject texture = material.links().get(colour);
        if (texture != null) {
          boolean alpha = material.links().containsKey("TransparentColor");
          return texture(texture, alpha);
        }
      }
    }
    return Optional.empty();
  }

  private static Optional<Texture> texture(FbxObject texture, boolean alpha) {
    Optional<FbxObject> video =
        texture.children().stream().filter(c -> c.kind.equals("Video")).findFirst();
    Optional<String> path =
        file(texture.node)
            .or(() -> video.flatMap(v -> file(v.node)))
            .map(p -> p.replace('\\', '/'));
    if (path.isEmpty()) {
      return Optional.empty();
    }
    FbxObject v = video.orElse(texture);
    Optional<NumberedPath> numbered = NumberedPath.of(path.get());
    if (v.number("ImageSequence", 0) == 0 || numbered.isEmpty()) {
      return Optional.of(Texture.still(path.get(), alpha));
    }
    int offset = (int) v.number("ImageSequenceOffset", 0);
    int last = (int) v.number("StopFrame", v.number("LastFrame", 0));
    return Optional.of(numbered.get().sequence(offset, last, alpha));
  }

  /** The relative path goes along with the files; the other one is of the machine that wrote it. */
  private static Optional<String> file(FbxNode n) {
    for (String name : List.of("RelativeFilename", "FileName", "Filename")) {
      Optional<String> path = n.child(name).map(c -> c.text(0)).filter(p -> !p.isBlank());
      if (path.isPresent()) {
        return path;
      }
    }
    return Optional.empty();
  }
}
