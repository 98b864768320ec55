package flarvo.format.usd;

import flarvo.report.Note;
import flarvo.scene.Texture;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.TreeMap;

/** The picture on a mesh: from its material's surface to the file that colours it. */
final class UsdTextures {

  /** Inputs of a surface that a picture may feed, the one that needs no light first. */
  private static final List<String> COLOURS =
      List.of("inputs:emissiveColor", "inputs:diffuseColor", "inputs:base_color");

  private final UsdLayer layer;
  private final UsdTime time;
  private final List<Note> notes;
  private int bare;
  private String example = "";

  UsdTextures(UsdLayer layer, UsdTime time, List<Note> notes) {
    this.layer = layer;
    this.time = time;
    this.notes = notes;
  }

  /** Empty for a mesh without a material, and for one whose material shows no picture. */
  Optional<Texture> of(UsdNode mesh) {
    String bound = null;
    for (UsdNode n = mesh; n != null && bound == null; n = n.parent) {
      bound = target(n.prim.metadata.get(UsdTextWriter.REL + UsdMaterialMaker.BINDING));
    }
    UsdPrim material = bound == null ? null : layer.at(bound);
    if (bound == null) {
      return Optional.empty();
    }
    UsdPrim surface = material == null ? null : source(material, "outputs:surface");
    for (String colour : COLOURS) {
      UsdPrim picture = surface == null ? null : source(surface, colour);
      Optional<UsdAttribute> file =
          picture == null ? Optional.empty() : picture.attribute("inputs:file");
      if (file.isPresent()) {
        return texture(file.get(), source(surface, "inputs:opacity") != null);
      }
    }
    bare++;
    example = mesh.prim.path;
    return Optional.empty();
  }

  /** Says how many meshes have a material of which nothing was taken. */
  void say() {
    if (bare > 0) {
      notes.add(
          Note.lost(
              example,
              bare == 1
                  ? "its material shows no picture that is read; it is left out"
                  : "its material, and those of "
                      + (bare - 1)
                      + " more, show no picture that is read; they are left out"));
    }
  }

  private Optional<Texture> texture(UsdAttribute file, boolean alpha) {
    NavigableMap<Integer, String> files = new TreeMap<>();
    for (int i = 0; i < file.times().length; i++) {
      if (file.samples().get(i) instanceof UsdAsset a && !a.path().isEmpty()) {
        files.put(time.firstFrameFrom(file.times()[i]), a.path());
      }
    }
    if (files.isEmpty() && file.value() instanceof UsdAsset a && !a.path().isEmpty()) {
      return Optional.of(Texture.still(a.path(), alpha));
    }
    return files.isEmpty() ? Optional.empty() : Optional.of(new Texture(files, alpha));
  }

  /** The prim that an input or output is connected to; null where there is none. */
  private UsdPrim source(UsdPrim prim, String name) {
    String path = target(prim.metadata.get(UsdPrim.CONNECTION + name));
    int dot = path == null ? -1 : path.lastIndexOf('.');
    return dot < 0 ? null : layer.at(path.substring(0, dot));
  }

  /** The first target of a relationship or a connection, however the layer has it. */
  private static String target(Object stored) {
    Deque<Object> in = new ArrayDeque<>();
    if (stored != null) {
      in.add(stored);
    }
    while (!in.isEmpty()) {
      Object o = in.removeFirst();
      if (o instanceof String s) {
        return s;
      }
      if (o instanceof UsdListOp op) {
        in.addAll(op.applyTo(List.of()));
      } else if (o instanceof List<?> l) {
        l.stream().filter(java.util.Objects::nonNull).forEach(in::add);
      }
    }
    return null;
  }
}
