package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialect;
import flarvo.report.InputError;
import flarvo.scene.Mesh;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;
import org.lwjgl.assimp.AIMatrix4x4;
import org.lwjgl.assimp.AIMesh;
import org.lwjgl.assimp.AINode;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.AIVector3D;
import org.lwjgl.assimp.Assimp;

/**
 * Files that nobody here wrote, read by us and by the asset import library: the extents of all mesh
 * points in the world must agree. Run by {@code ./flarvo peers} over a package of models; the table
 * goes to the file named by {@code flarvo.corpus.out}.
 */
@EnabledIfSystemProperty(named = "flarvo.corpus", matches = ".+")
class CorpusTest {

  /** Relative to the model's size; the other library keeps 32-bit floats. */
  private static final double LIMIT = 1e-6;

  private static final List<String> EXTENSIONS = List.of(".fbx", ".gltf", ".glb", ".obj", ".ply");

  /** Where the difference was looked into, and whose it is. */
  private static final Map<String, String> EXPLAINED =
      Map.of(
          "Cameras.gltf", "its quaternion is not of unit length; the other does not mend it",
          "box.FBX", "it states +Z up and metres; the other turns and rescales the root",
          "box_UTF16BE.obj", "a box of six faces in UTF-16; the other finds no face in it");

  private static final class Extent {
    final double[] lo = {1e300, 1e300, 1e300};
    final double[] hi = {-1e300, -1e300, -1e300};
    long points;

    void add(double x, double y, double z) {
      double[] p = {x, y, z};
      for (int k = 0; k < 3; k++) {
        lo[k] = Math.min(lo[k], p[k]);
        hi[k] = Math.max(hi[k], p[k]);
      }
      points++;
    }

    double size() {
      double s = 1e-12;
      for (int k = 0; k < 3; k++) {
        s = Math.max(s, Math.max(hi[k] - lo[k], Math.max(Math.abs(hi[k]), Math.abs(lo[k]))));
      }
      return s;
    }

    double differs(Extent o) {
      double worst = 0;
      for (int k = 0; k < 3; k++) {
        worst = Math.max(worst, Math.abs(lo[k] - o.lo[k]));
        worst = Math.max(worst, Math.abs(hi[k] - o.hi[k]));
      }
      return worst / size();
    }
  }

  @Test
  void theWorldIsTheSameForTwoReaders() throws IOException {
    List<Path> files;
    try (Stream<Path> all = Files.walk(Path.of(System.getProperty("flarvo.corpus")))) {
      files =
          all.filter(
                  f ->
                      EXTENSIONS.stream().anyMatch(f.toString().toLowerCase(Locale.ROOT)::endsWith))
              .sorted()
              .toList();
    }
    TreeMap<String, Integer> sums = new TreeMap<>();
    List<String> table = new ArrayList<>();
    for (Path f : files) {
      String[] row = compare(f);
      sums.merge(row[0], 1, Integer::sum);
      table.add(row[0] + " | " + f.getFileName() + " | " + row[1]);
    }
    table.add(files.size() + " files: " + sums);
    Files.write(Path.of(System.getProperty("flarvo.corpus.out", "target/corpus.txt")), table);
    assertThat(files).isNotEmpty();
    assertThat(table).noneMatch(r -> r.startsWith("differs"));
  }

  private static String[] compare(Path f) {
    Extent mine = new Extent();
    try {
      FileScene s =
          Formats.recognise(f).read(f, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
      for (Mesh m : s.meshes()) {
        for (int i : m.faceIndices()) {
          mine.add(m.x(i), m.y(i), m.z(i));
        }
        for (int i = 0; m.faces() == 0 && i < m.points(); i++) {
          mine.add(m.x(i), m.y(i), m.z(i)); // points and lines
        }
      }
      for (TrackerSet t : s.trackers()) {
        for (int i = 0; s.meshes().isEmpty() && i < t.size(); i++) {
          mine.add(t.x(i), t.y(i), t.z(i));
        }
      }
    } catch (InputError e) {
      return new String[] {"refused", e.place() + ": " + e.reason()};
    }
    AIScene scene = Assimp.aiImportFile(f.toString(), 0);
    if (scene == null) {
      return new String[] {"alone", "the other reader says: " + Assimp.aiGetErrorString()};
    }
    try {
      Extent other = new Extent();
      visit(scene, scene.mRootNode(), new Matrix4d(), other);
      if (mine.points == 0 || other.points == 0) {
        boolean same = mine.points == other.points;
        String why = EXPLAINED.get(f.getFileName().toString());
        return new String[] {
          same ? "agreed" : why == null ? "differs" : "explained",
          mine.points + " corners, other " + other.points + (why == null ? "" : "; " + why)
        };
      }
      double d = mine.differs(other);
      if (d <= LIMIT) {
        return new String[] {"agreed", String.format("%.1e", d)};
      }
      String known = EXPLAINED.get(f.getFileName().toString());
      String both = Arrays.toString(mine.hi) + " against " + Arrays.toString(other.hi);
      return new String[] {
        known == null ? "differs" : "explained",
        String.format("%.1e", d) + ", " + (known == null ? both : known)
      };
    } finally {
      Assimp.aiReleaseImport(scene);
    }
  }

  private static void visit(AIScene scene, AINode n, Matrix4d above, Extent into) {
    AIMatrix4x4 t = n.mTransformation();
    Matrix4d m =
        new Matrix4d(above)
            .mul(
                new Matrix4d(
                    t.a1(), t.b1(), t.c1(), t.d1(), t.a2(), t.b2(), t.c2(), t.d2(), t.a3(), t.b3(),
                    t.c3(), t.d3(), t.a4(), t.b4(), t.c4(), t.d4()));
    Vector3d v = new Vector3d();
    for (int i = 0; i < n.mNumMeshes(); i++) {
      AIMesh mesh = AIMesh.create(scene.mMeshes().get(n.mMeshes().get(i)));
      AIVector3D.Buffer all = mesh.mVertices();
      for (int k = 0; k < mesh.mNumVertices(); k++) {
        AIVector3D p = all.get(k);
        m.transformPosition(p.x(), p.y(), p.z(), v);
        into.add(v.x, v.y, v.z);
      }
    }
    for (int i = 0; i < n.mNumChildren(); i++) {
      visit(scene, AINode.create(n.mChildren().get(i)), m, into);
    }
  }
}
