package flarvo.format.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialect;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.scene.Mesh;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Meshes and clouds of points, in the world, through any stack above them. */
class UsdGeometryTest {

  @TempDir private Path dir;

  private FileScene read(String body) throws IOException {
    Path f = Files.writeString(dir.resolve("g.usda"), "#usda 1.0\n" + body);
    return new UsdTextFormat().read(f, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
  }

  private static final String SQUARE =
      """
      def Xform "rig" {
        double3 xformOp:translate = (10, 0, 0)
        float3 xformOp:scale = (2, 1, -1)
        uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:scale"]
        def Mesh "square" {
          point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 3), (0, 1, 0)]
          int[] faceVertexCounts = [%s]
          int[] faceVertexIndices = [%s]
        }
      }
      """;

  @Test
  void aMeshStandsInTheWorld() throws IOException {
    Mesh m = read(SQUARE.formatted("4", "0, 1, 2, 3")).meshes().get(0);
    assertThat(m.name()).isEqualTo("square");
    assertThat(m.points()).isEqualTo(4);
    assertThat(m.faces()).isEqualTo(1);
    assertThat(m.corners(0)).isEqualTo(4);
    assertThat(m.x(2)).isCloseTo(12, within(1e-12));
    assertThat(m.z(2)).isCloseTo(-3, within(1e-12));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "int[] primvars:skel:jointIndices = [0, 0, 0, 0]",
        "uniform token[] skel:blendShapes = [\"smile\"]"
      })
  void aMeshThatIsDeformedIsReadAsModelledAndSaid(String property) throws IOException {
    String square = SQUARE.formatted("4", "0, 1, 2, 3");
    assertThat(read(square).notes()).noneMatch(n -> n.toString().contains("deform"));
    FileScene s = read(square.replace("point3f[] points", property + "\n    point3f[] points"));
    assertThat(s.meshes().get(0).x(2)).isCloseTo(12, within(1e-12));
    assertThat(s.notes())
        .filteredOn(n -> n.toString().contains("deform"))
        .singleElement()
        .asString()
        .contains("/rig/square");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "4|0, 1, 2, 4|names point 4 of 4",
        "4|0, 1, 2|4 corners but 3",
        "-4|0, 1, 2, 3|corners",
        "4|0, 1, -2, 3|names point -2"
      })
  void facesThatMeanNothingAreRefused(String sizes, String indices, String why) {
    assertThatThrownBy(() -> read(SQUARE.formatted(sizes, indices)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("/rig/square")
        .hasMessageContaining(why);
  }

  private static final String MANY =
      """
      def PointInstancer "many" {
        double3 xformOp:translate = (10, 0, 0)
        uniform token[] xformOpOrder = ["xformOp:translate"]
        point3f[] positions = [(1, 2, 3), (4, 5, 6)]
        int[] protoIndices = [0, 0]
        rel prototypes = </many/stone>
        def Sphere "stone" {
          %s
        }
      }
      """;

  /** What is not followed of instances is said, each by its name. */
  @Test
  void whatDoesNotCountOfInstancesIsSaid() throws IOException {
    String moved =
        "double3 xformOp:translate = (0, 5, 0) uniform token[] xformOpOrder ="
            + " [\"xformOp:translate\"]";
    FileScene s =
        read(
            MANY.formatted(moved)
                .replace("int[] proto", "int64[] invisibleIds = [1]\n int[] proto"));
    assertThat(s.trackers().get(0).position(1)).isEqualTo(new Vec3(14, 5, 6));
    assertThat(s.notes().toString())
        .contains("transforms of its prototypes do not count")
        .contains("invisibleIds of instances do not count");
  }

  @Test
  void instancesAreTheirPlacesAndPrototypesStandNowhere() throws IOException {
    FileScene s = read(MANY.formatted(""));
    assertThat(s.notes().toString()).doesNotContain("prototypes");
    assertThat(s.trackerCount()).isEqualTo(2);
    assertThat(s.trackers().get(0).names()).containsExactly("many_1", "many_2");
    assertThat(s.trackers().get(0).position(1)).isEqualTo(new Vec3(14, 5, 6));
    assertThat(s.notes().toString()).contains("2 instances are read as points");
  }

  @ParameterizedTest
  @ValueSource(strings = {"Sphere", "Cube", "Cone", "Cylinder", "Capsule", "Plane"})
  void shapesMarkPlaces(String type) throws IOException {
    FileScene s =
        read(
            "def "
                + type
                + " \"spot\" { double3 xformOp:translate = (1, 2, 3)\n"
                + " uniform token[] xformOpOrder = [\"xformOp:translate\"] }\n");
    assertThat(s.trackers().get(0).names()).containsExactly("spot");
    assertThat(s.trackers().get(0).position(0)).isEqualTo(new Vec3(1, 2, 3));
    assertThat(s.notes().toString()).contains("1 × " + type + " read as locators");
  }

  @Test
  void pointsTakeTheirNamesWhereTheyHaveSome() throws IOException {
    FileScene s =
        read(
            """
            def Points "cloud" {
              point3f[] points = [(1, 2, 3), (4, 5, 6)]
              custom string[] userProperties:names = ["door", "stone"]
            }
            def Points "plain" { point3f[] points = [(7, 8, 9)] }
            """);
    assertThat(s.trackers()).hasSize(2);
    assertThat(s.trackers().get(0).names()).containsExactly("door", "stone");
    assertThat(s.trackers().get(0).position(1)).isEqualTo(new Vec3(4, 5, 6));
    assertThat(s.trackers().get(1).names()).containsExactly("plain_1");
  }

  @Test
  void namesThatRepeatAreNumberedAndPrimsThatAreOffAreSaid() throws IOException {
    String place =
        "double3 xformOp:translate = (1, 0, 0) uniform token[] xformOpOrder ="
            + " [\"xformOp:translate\"]";
    FileScene s =
        read(
            "def Scope \"a\" { def Xform \"p\" { "
                + place
                + " } }\n"
                + "def Scope \"b\" { def Xform \"p\" { "
                + place
                + " }\n"
                + " def Xform \"off\" ( active = false ) { "
                + place
                + " } }");
    assertThat(s.trackerCount()).isEqualTo(2);
    assertThat(s.trackers().get(1).names()).containsExactly("p_2");
    assertThat(s.notes().toString()).contains("/b/off").contains("not active");
  }

  @Test
  void valueClipsThatStateNothingAreSaid() throws IOException {
    FileScene s =
        read("def Xform \"w\" ( clips = { dictionary default = { } } ) { def Scope \"x\" { } }");
    assertThat(s.notes().toString()).contains("its value clips state no layers, times or prim");
  }

  @Test
  void ratesFallBackFromOneMemberToTheOther() throws IOException {
    String camera =
        "def Camera \"c\" { float focalLength = 35 float horizontalAperture = 36 float"
            + " verticalAperture = 20\n double3 xformOp:translate.timeSamples = { 10: (0,0,0),"
            + " 20: (1,0,0) } uniform token[] xformOpOrder = [\"xformOp:translate\"] }";
    Path f = dir.resolve("r.usda");
    Files.writeString(f, "#usda 1.0\n( framesPerSecond = 30 )\n" + camera);
    FileScene s = new UsdTextFormat().read(f, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
    // Time codes a second are frames a second where only those are stated.
    assertThat(s.rate().orElseThrow().value().toString()).isEqualTo("30");
    assertThat(s.cameras().get(0).camera().frames().first()).isEqualTo(10);
    Files.writeString(
        f, "#usda 1.0\n( framesPerSecond = 24\n timeCodesPerSecond = 48 )\n" + camera);
    s = new UsdTextFormat().read(f, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
    assertThat(s.cameras().get(0).camera().frames().first()).isEqualTo(5);
  }
}
