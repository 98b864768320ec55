package flarvo.format.gltf;

import de.javagl.jgltf.model.AccessorModel;
import de.javagl.jgltf.model.MeshModel;
import de.javagl.jgltf.model.MeshPrimitiveModel;
import flarvo.format.FileGroups;
import flarvo.format.FileMesh;
import flarvo.format.TrackerCollector;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.Mesh;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.joml.Matrix4d;

/** Faces and loose points of a mesh. */
final class GltfMeshReader {

  /** Member of a mesh's extras that names its points. */
  static final String NAMES = "names";

  static final int POINTS = 0;
  private static final int TRIANGLES = 4;
  private static final int STRIP = 5;
  private static final int FAN = 6;

  private final String file;
  private final GltfNumbers numbers;
  private final GltfTextures textures;
  private final Set<String> clouds;
  private final List<Note> notes;

  /**
   * @param clouds takes the names of what came as points
   * @param notes takes what is not carried on
   */
  GltfMeshReader(
      String file,
      GltfNumbers numbers,
      GltfTextures textures,
      Set<String> clouds,
      List<Note> notes) {
    this.file = file;
    this.notes = notes;
    this.clouds = clouds;
    this.textures = textures;
    this.numbers = numbers;
  }

  /**
   * Adds the faces of a node's mesh, and its loose points as trackers.
   *
   * @param groups by which it hangs in the tree
   */
  void read(
      GltfTreeNode n,
      MeshModel mesh,
      FileGroups groups,
      TrackerCollector trackers,
      List<Mesh> meshes) {
    String name = mesh.getName() == null ? n.name() : mesh.getName();
    if (n.isSkinned()
        || mesh.getMeshPrimitiveModels().stream().anyMatch(p -> !p.getTargets().isEmpty())) {
      notes.add(Note.lost("mesh " + name, FileMesh.DEFORMED));
    }
    for (MeshPrimitiveModel p : mesh.getMeshPrimitiveModels()) {
      AccessorModel at = p.getAttributes().get("POSITION");
      if (at == null) {
        continue;
      }
      double[] xyz = numbers.of(at);
      if (p.getMode() == POINTS) {
        points(n, mesh, name, xyz, p, groups, trackers);
        continue;
      }
      int[] corners =
          p.getIndices() == null
              ? IntStream.range(0, xyz.length / 3).toArray()
              : FileMesh.integers(numbers.of(p.getIndices()));
      int[] triangles = triangles(p.getMode(), corners);
      int[] sizes = new int[triangles.length / 3];
      Arrays.fill(sizes, 3);
      FileGroups.Placement in = groups.ofContents(n);
      meshes.add(
          FileMesh.of(
                  name,
                  xyz,
                  in.of(n.world(groups.frames().first())),
                  sizes,
                  triangles,
                  perCorner(p, "NORMAL", 3, triangles),
                  perCorner(p, "TEXCOORD_0", 2, triangles).map(GltfMeshReader::upwards),
                  file,
                  "mesh " + name)
              .withTexture(textures.of(p.getMaterialModel(), name))
              .inGroup(in.group()));
    }
  }

  private void points(
      GltfTreeNode n,
      MeshModel mesh,
      String name,
      double[] xyz,
      MeshPrimitiveModel p,
      FileGroups groups,
      TrackerCollector trackers) {
    FileGroups.Placement in = groups.ofContents(n);
    clouds.add(in.name());
    Matrix4d toGroup = in.of(n.world(groups.frames().first()));
    int[] which =
        p.getIndices() == null
            ? IntStream.range(0, xyz.length / 3).toArray()
            : FileMesh.integers(numbers.of(p.getIndices()));
    List<String> names = names(mesh);
    for (int k = 0; k < which.length; k++) {
      int at = 3 * which[k];
      if (at < 0 || at + 2 >= xyz.length) {
        throw new InputError(file, "mesh " + name, "point " + which[k] + " does not exist", "");
      }
      String own = which.length == 1 ? name : name + "_" + (k + 1);
      own = names.size() == which.length ? names.get(k) : own;
      trackers.add(in, own, toGroup, xyz[at], xyz[at + 1], xyz[at + 2], n::place);
    }
  }

  private static List<String> names(MeshModel mesh) {
    return mesh.getExtras() instanceof Map<?, ?> m && m.get(NAMES) instanceof List<?> l
        ? l.stream().map(String::valueOf).toList()
        : List.of();
  }

  private Optional<double[]> perCorner(
      MeshPrimitiveModel p, String attribute, int each, int[] corners) {
    AccessorModel a = p.getAttributes().get(attribute);
    if (a == null) {
      return Optional.empty();
    }
    return FileMesh.perCorner(numbers.of(a), each, corners, corners);
  }

  /** v runs down in this format. */
  private static double[] upwards(double[] uvs) {
    for (int i = 1; i < uvs.length; i += 2) {
      uvs[i] = 1 - uvs[i];
    }
    return uvs;
  }

  /** Points and lines have no faces; strips and fans are taken apart. */
  private static int[] triangles(int mode, int[] c) {
    if (mode == TRIANGLES) {
      return Arrays.copyOf(c, c.length / 3 * 3);
    }
    if ((mode != STRIP && mode != FAN) || c.length < 3) {
      return new int[0];
    }
    int[] out = new int[3 * (c.length - 2)];
    for (int i = 0; i + 2 < c.length; i++) {
      boolean odd = mode == STRIP && i % 2 == 1;
      out[3 * i] = mode == FAN ? c[0] : c[i];
      out[3 * i + 1] = odd ? c[i + 2] : c[i + 1];
      out[3 * i + 2] = odd ? c[i + 1] : c[i + 2];
    }
    return out;
  }
}
