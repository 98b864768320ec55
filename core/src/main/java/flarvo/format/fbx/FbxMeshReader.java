package flarvo.format.fbx;

import flarvo.format.FileGroups;
import flarvo.format.FileMesh;
import flarvo.report.Note;
import flarvo.scene.Mesh;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** A mesh model and its geometry, with normals and texture coordinates. */
final class FbxMeshReader {

  private static final double[] NONE = {};

  private final String file;
  private final List<Note> notes;

  FbxMeshReader(String file, List<Note> notes) {
    this.file = file;
    this.notes = notes;
  }

  /** Empty for a model without geometry. The last corner of a face is stored as −1 − its point. */
  Optional<Mesh> read(FbxTreeNode node, FileGroups groups) {
    FbxObject model = node.model();
    FbxObject shape =
        model.children().stream()
            .filter(c -> c.kind.equals("Geometry") && c.node.child("Vertices").isPresent())
            .findFirst()
            .orElse(null);
    if (shape == null) {
      return Optional.empty();
    }
    if (shape.children().stream().anyMatch(c -> c.kind.equals("Deformer"))) {
      notes.add(Note.lost(node.place(), FileMesh.DEFORMED));
    }
    FbxNode geometry = shape.node;
    double[] xyz = geometry.child("Vertices").map(FbxNode::array).orElseThrow().clone();
    double[] corners = geometry.child("PolygonVertexIndex").map(FbxNode::array).orElse(NONE);
    int[] stored = FileMesh.integers(corners);
    int[] sizes = new int[stored.length];
    int faces = 0;
    int corner = 0;
    for (int i = 0; i < stored.length; i++) {
      corner++;
      if (stored[i] < 0) {
        stored[i] = -1 - stored[i];
        sizes[faces++] = corner;
        corner = 0;
      }
    }
    int whole = stored.length - corner; // a face that never ends is left out
    int[] indices = Arrays.copyOf(stored, whole);
    FileGroups.Placement in = groups.ofContents(node);
    return Optional.of(
        FileMesh.of(
                model.name,
                xyz,
                in.of(node.world(groups.frames().first())).mul(FbxTransform.geometric(model)),
                Arrays.copyOf(sizes, faces),
                indices,
                layer(model, geometry, "LayerElementNormal", "Normals", "NormalsIndex", 3, indices),
                layer(model, geometry, "LayerElementUV", "UV", "UVIndex", 2, indices),
                file,
                node.place())
            .withTexture(FbxTextures.of(model))
            .inGroup(in.group()));
  }

  /** The first layer of its kind, as values a corner. */
  private Optional<double[]> layer(
      FbxObject model,
      FbxNode geometry,
      String element,
      String values,
      String index,
      int each,
      int[] corners) {
    Optional<FbxNode> layer = geometry.child(element);
    if (layer.isEmpty() || corners.length == 0) {
      return Optional.empty();
    }
    double[] v = layer.get().child(values).map(FbxNode::array).orElse(NONE);
    String mapping = text(layer.get(), "MappingInformationType");
    boolean indexed = text(layer.get(), "ReferenceInformationType").startsWith("Index");
    int[] own =
        indexed
            ? layer.get().child(index).map(FbxNode::array).map(FileMesh::integers).orElse(null)
            : null;
    Optional<double[]> found =
        switch (mapping) {
          case "ByPolygonVertex" ->
              FileMesh.perCorner(v, each, own == null ? counting(corners.length) : own, corners);
          case "ByVertex", "ByVertice" -> FileMesh.perPoint(v, each, own, corners);
          default -> Optional.empty();
        };
    if (found.isEmpty() && v.length > 0) {
      notes.add(
          Note.lost(
              "Model " + model.name,
              element + " is mapped '" + mapping + "' or does not fit the faces"));
    }
    return found;
  }

  private static int[] counting(int n) {
    int[] out = new int[n];
    Arrays.setAll(out, i -> i);
    return out;
  }

  private static String text(FbxNode layer, String name) {
    return layer.child(name).map(n -> n.text(0)).orElse("");
  }
}
