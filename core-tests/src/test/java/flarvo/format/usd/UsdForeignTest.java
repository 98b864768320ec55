package flarvo.format.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialect;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.report.Note;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What other writers put into USD. {@code ./flarvo peers} reads 500 such stages elsewhere too. */
class UsdForeignTest {

  @TempDir private Path dir;

  private FileScene read(String body) throws IOException {
    String text = "#usda 1.0\n(\n startTimeCode = 1\n endTimeCode = 7\n)\n" + body;
    Path file = Files.writeString(dir.resolve("f.usda"), text);
    return new UsdTextFormat().read(file, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
  }

  private Vec3 place(String body) throws IOException {
    TrackerSet t = read(body).trackers().get(0);
    return t.position(0, 1);
  }

  @Test
  void commentsOfAllKindsAndStatementsOfOrderAreSteppedOver() throws IOException {
    assertThat(
            place(
                """
                // a line
                /* some
                   lines { */
                reorder rootPrims = ["b",
                  "a"]
                def Xform "a" // behind
                {
                    reorder nameChildren = ["c"]
                    reorder properties = ["xformOpOrder", "x"]
                    def Xform "c"
                    {
                        double3 xformOp:translate = /* here */ (1, 2, 3) # too
                        uniform token[] xformOpOrder = ["xformOp:translate"]
                    }
                }
                """))
        .isEqualTo(new Vec3(1, 2, 3));
  }

  @Test
  void operationsOnOneAxis() throws IOException {
    assertThat(
            place(
                """
                def Xform "a" {
                    double xformOp:translateY = 5
                    double xformOp:scaleX = 2
                    uniform token[] xformOpOrder = ["xformOp:translateY", "xformOp:scaleX"]
                    def Xform "b" {
                        double xformOp:translateX = 3
                        double xformOp:translateZ = 7
                        uniform token[] xformOpOrder = ["xformOp:translateX", "xformOp:translateZ"]
                    }
                }
                """))
        .isEqualTo(new Vec3(6, 5, 7));
  }

  /** 769 pixels in the wild: what has no transform by its type is not moved by its properties. */
  @Test
  void whatIsNoTransformDoesNotMove() throws IOException {
    String body =
        """
        def %s "a" {
            double3 xformOp:translate = (9, 9, 9)
            uniform token[] xformOpOrder = ["xformOp:translate"]
            def Xform "b" {
                double3 xformOp:translate = (1, 2, 3)
                uniform token[] xformOpOrder = ["xformOp:translate"]
            }
        }
        """;
    for (String type : new String[] {"Scope", "", "Material"}) {
      FileScene s = read(body.formatted(type));
      assertThat(s.trackers().get(0).position(0, 1)).as(type).isEqualTo(new Vec3(1, 2, 3));
      assertThat(s.notes()).extracting(Note::text).anyMatch(t -> t.contains("no transform"));
    }
    assertThat(place(body.formatted("Xform"))).isEqualTo(new Vec3(10, 11, 12));
  }

  /** A material that shows no picture is said once for all meshes, however many have it. */
  @Test
  void materialsWithoutAPictureAreSaidOnce() throws IOException {
    StringBuilder body = new StringBuilder("def Material \"grey\" {\n}\n");
    for (int i = 0; i < 5; i++) {
      body.append("def Mesh \"m").append(i).append("\" {\n");
      body.append("  point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]\n");
      body.append("  int[] faceVertexCounts = [3]\n  int[] faceVertexIndices = [0, 1, 2]\n");
      body.append("  rel material:binding = </grey>\n}\n");
    }
    FileScene s = read(body.toString());
    assertThat(s.meshes()).hasSize(5).allMatch(m -> m.texture().isEmpty());
    assertThat(s.notes())
        .extracting(Note::text)
        .filteredOn(t -> t.contains("material"))
        .containsExactly(
            "its material, and those of 4 more, show no picture that is read; they are left out");
  }

  /**
   * A value holds up to a block; from there an operation does nothing and a lens is the schema's.
   */
  @Test
  void blockedSamplesTakeTheValueAway() throws IOException {
    FileScene s =
        read(
            """
            def Camera "cam" {
                double3 xformOp:translate.timeSamples = { 1: (1, 0, 0), 3: None, 5: (5, 0, 0) }
                uniform token[] xformOpOrder = ["xformOp:translate"]
                float focalLength.timeSamples = { 1: 10, 3: None, 5: 30 }
                float horizontalAperture = None
            }
            """);
    ShotCamera c = s.cameras().get(0).camera();
    double[] x = {1, 1, 0, 0, 5, 5, 5};
    double[] mm = {10, 10, 50, 50, 30, 30, 30};
    for (int f = 1; f <= 7; f++) {
      assertThat(c.poses().at(f).position().x()).as("frame " + f).isEqualTo(x[f - 1]);
      assertThat(c.optics().at(f).focalLengthMm()).as("frame " + f).isEqualTo(mm[f - 1]);
    }
    assertThat(c.optics().at(1).filmWidthMm()).isCloseTo(20.955, within(1e-9));
    assertThat(s.notes())
        .extracting(Note::text)
        .anyMatch(t -> t.contains("horizontalAperture is not stated"))
        .noneMatch(t -> t.contains("focalLength"));
  }

  /** Half way between two turns, number by number; the axes are those of the reference library. */
  @Test
  void aShearedCameraStandsAsTheReferenceLibrarySaysItDoes() throws IOException {
    FileScene s =
        read(
            """
            def Camera "cam" {
                matrix4d xformOp:transform = (
                    (0.4139557015358368, 0.05205254802043707, -0.17541022485084345, 0),
                    (0.018378664693811053, 0.4667791110715228, 0.5452771461811181, 0),
                    (0.16200942487459652, -0.0958882699431359, 0.7929133650595709, 0),
                    (0, 0, 0, 1))
                uniform token[] xformOpOrder = ["xformOp:transform"]
            }
            """);
    double[] m = s.cameras().get(0).camera().poses().at(1).rotation().toRows();
    double[][] axes = {
      {0.9404734807993089, 0.15111882375249994, -0.30442196540475364},
      {0.009445752809656592, 0.8837408219484192, 0.46788132830429463},
      {0.3397357939150525, -0.44290547606638736, 0.8297073758882199}
    };
    for (int row = 0; row < 3; row++) {
      for (int column = 0; column < 3; column++) {
        assertThat(m[3 * row + column]).isCloseTo(axes[column][row], within(1e-12));
      }
    }
  }
}
