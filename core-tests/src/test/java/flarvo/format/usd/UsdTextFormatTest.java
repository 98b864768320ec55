package flarvo.format.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.SignedAxis;
import flarvo.format.FileCamera;
import flarvo.format.FileScene;
import flarvo.format.SceneFormat;
import flarvo.format.SceneFormatContract;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.Pose;
import flarvo.scene.Rate;
import flarvo.scene.Vec3;
import java.io.IOException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class UsdTextFormatTest extends SceneFormatContract {

  @Override
  protected SceneFormat format() {
    return new UsdTextFormat();
  }

  @Override
  protected double limitPx() {
    return 1e-4;
  }

  private FileScene scene(String body) throws IOException {
    return read(file("#usda 1.0\n" + body));
  }

  private static Vec3 position(FileScene s, int frame) {
    return s.cameras().get(0).camera().poses().at(frame).position();
  }

  /** As another program might write it: comments, odd spacing, and everything we do not need. */
  @Test
  void readsWhatOthersWrite() throws IOException {
    FileScene s =
        scene(
            """
            (
                "made elsewhere"
                customLayerData = { dictionary nested = { int a = 3 } string b = "x" }
                defaultPrim = "World"   # the root
                endTimeCode = 12; metersPerUnit = 1
                startTimeCode = 10
                timeCodesPerSecond = 25
                upAxis = "Z"
                subLayers = [ @./other.usda@ (offset = 10; scale = 2) ]
            )
            over "ignored" { int x = 1 }
            def Xform "World" (
                kind = "assembly"
                prepend references = [ @./a.usda@</P>, </local> ]
                variants = { string look = "day" }
                prepend variantSets = "look"
            )
            {
                custom rel material:binding = </World/m>
                rel two = [ </a>, </b> ]
                double3 xformOp:translate = (100, 0, 0)
                float3 xformOp:scale = (2, 2, 2)
                uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:scale"]
                variantSet "look" = {
                    "day" { int n = 1 }
                    "night" ( doc = '''long
            text''' ) { def Scope "s" { } }
                }
                def Camera "cam"
                {
                    float focalLength.timeSamples = { 10: 0.35, 12: 0.45, }
                    float horizontalAperture = 0.36
                    float verticalAperture = 0.2025
                    float horizontalApertureOffset = 0.01
                    matrix4d xformOp:transform.timeSamples = {
                        12: ( (1,0,0,0), (0,1,0,0), (0,0,1,0), (3, 0, 5, 1) ),
                        10: ( (1,0,0,0), (0,1,0,0), (0,0,1,0), (1, 2, 3, 1) ),
                    }
                    uniform token[] xformOpOrder = ["xformOp:transform"]
                    float2[] notForUs = [(1, 2), (3, 4)]
                    asset file = @@@odd@name.png@@@
                    point3f connected.connect = </World/x.y>
                    string empty = ""
                    float nothing = None
                }
                def Points "cloud" {
                    point3f[] points = [(0, 0, 0), (1, 2, 3)]
                    float[] widths = []
                }
                def Sphere "ball" { double radius = 2 }
            }
            """);
    assertThat(s.up().orElseThrow().value()).isEqualTo(SignedAxis.POSITIVE_Z);
    assertThat(s.rate().orElseThrow().value()).isEqualTo(Rate.FPS_25);
    assertThat(s.range().orElseThrow().value()).isEqualTo(new FrameRange(10, 12));
    FileCamera c = s.cameras().get(0);
    assertThat(c.keys()).isEqualTo(2);
    // Half-way between (102, 4, 6) and (106, 0, 10) in the world.
    assertThat(position(s, 11).minus(new Vec3(104, 2, 8)).length()).isLessThan(1e-12);
    Optics o = c.camera().optics().at(11);
    assertThat(o.focalLengthMm()).isCloseTo(40, within(1e-5));
    assertThat(o.filmWidthMm()).isCloseTo(36, within(1e-5));
    assertThat(o.principalXMm()).isCloseTo(-1, within(1e-6));
    assertThat(s.trackers().get(0).position(1)).isEqualTo(new Vec3(102, 4, 6));
    assertThat(s.notes().toString())
        .contains(
            "sublayer", "'./a.usda' is not beside", "no </local>", "Sphere", "nothing defines")
        .contains("scale");
  }

  @Test
  void evaluatesStacksWithSuffixesInversesAndResets() throws IOException {
    FileScene s =
        scene(
            """
            def Xform "far" {
                double3 xformOp:translate = (1000, 0, 0)
                uniform token[] xformOpOrder = ["xformOp:translate"]
                def Xform "grp" {
                    double3 xformOp:translate:pivot = (1, 0, 0)
                    float xformOp:rotateY = 90
                    uniform token[] xformOpOrder = ["!resetXformStack!", "xformOp:translate:pivot",
                        "xformOp:rotateY", "!invert!xformOp:translate:pivot"]
                    def Camera "cam" {
                        float horizontalAperture = 36
                        float focalLength = 50
                        quatf xformOp:orient = (0.70710678, 0, 0, 0.70710678)
                        double3 xformOp:translate = (0, 0, 2)
                        uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:orient"]
                    }
                }
            }
            """);
    Pose p = s.cameras().get(0).camera().poses().at(0);
    // About (1,0,0), +Z goes to +X and +X to −Z: (0,0,2) → (1,0,0) + R(−1,0,2) = (3, 0, 1).
    assertThat(p.position().minus(new Vec3(3, 0, 1)).length()).isLessThan(1e-12);
    // Rolled by 90° about its own view, then turned: looks along −X.
    assertThat(p.rotation().apply(new Vec3(0, 0, -1)).minus(new Vec3(-1, 0, 0)).length())
        .isLessThan(1e-7);
    assertThat(p.rotation().apply(new Vec3(0, 1, 0)).minus(new Vec3(0, 0, 1)).length())
        .isLessThan(1e-7);
  }

  @Test
  void aScaleAboveTheCameraIsTakenOffAndSaid() throws IOException {
    FileScene s =
        scene(
            """
            def Xform "g" {
                double3 xformOp:scale = (100, 100, 100)
                uniform token[] xformOpOrder = ["xformOp:scale"]
                def Camera "cam" {
                    float horizontalAperture = 36
                    float focalLength = 50
                    double3 xformOp:translate = (1, 0, 0)
                    uniform token[] xformOpOrder = ["xformOp:translate"]
                }
            }
            """);
    assertThat(position(s, 0)).isEqualTo(new Vec3(100, 0, 0));
    assertThat(
            s.cameras()
                .get(0)
                .camera()
                .poses()
                .at(0)
                .rotation()
                .angleTo(flarvo.scene.Rotation.IDENTITY))
        .isLessThan(1e-12);
    assertThat(s.notes()).anyMatch(n -> n.text().contains("scale"));
  }

  @Test
  void valuesOfSinglePrecisionAreReadAsOthersReadThem() throws IOException {
    FileScene s =
        scene(
            """
            def Points "p" { point3f[] points = [(0.1, 1234567.89, 3)] }
            """);
    assertThat(s.trackers().get(0).x(0)).isEqualTo((double) 0.1f);
    assertThat(s.trackers().get(0).y(0)).isEqualTo((double) 1234567.89f);
  }

  @Test
  void keysBetweenFramesAreCounted() throws IOException {
    FileScene s =
        scene(
            """
            (
                timeCodesPerSecond = 48
                framesPerSecond = 24
            )
            def Camera "c" {
                float horizontalAperture = 36
                float focalLength = 50
                double3 xformOp:translate.timeSamples = { 2: (1,0,0), 3: (2,0,0), 4: (3,0,0) }
                uniform token[] xformOpOrder = ["xformOp:translate"]
            }
            """);
    // Two codes a frame: codes 2, 3, 4 are frames 1, 1½, 2.
    assertThat(s.cameras().get(0).offGridKeys()).isEqualTo(1);
    assertThat(s.cameras().get(0).camera().frames()).isEqualTo(new FrameRange(1, 2));
    assertThat(position(s, 2)).isEqualTo(new Vec3(3, 0, 0));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "( metersPerUnit = -1 )|metersPerUnit",
        "( metersPerUnit = 0 )|metersPerUnit",
        "( timeCodesPerSecond = 0 )|timeCodesPerSecond",
        "( timeCodesPerSecond = -24 )|timeCodesPerSecond",
        "( startTimeCode = 10 endTimeCode = 1 )|zero frames",
        "( startTimeCode = 0 endTimeCode = 2000000000 )|more frames",
        "( upAxis = \"X\" )|upAxis",
        "def Camera \"c\" { double3 xformOp:translate.timeSamples = { } }|no samples",
        "def Camera \"c\" { float focalLength = -5 }|focal length",
        "def Camera \"c\" { double3 xformOp:translate.timeSamples = { 3: (0, nan, 0) }"
            + " uniform token[] xformOpOrder = [\"xformOp:translate\"] }|at time 3",
        "def Camera \"c\" { uniform token[] xformOpOrder = [\"xformOp:translate\"] }|xformOpOrder",
        "def Camera \"c\" { double2 xformOp:translate = (1, 2)"
            + " uniform token[] xformOpOrder = [\"xformOp:translate\"] }|3 numbers",
        "def Camera \"c\" { double3 xformOp:scale = (-1, 1, 1)"
            + " uniform token[] xformOpOrder = [\"xformOp:scale\"] }|mirrored",
        "def Camera \"c\" { double3 xformOp:scale = (0, 0, 0)"
            + " uniform token[] xformOpOrder = [\"xformOp:scale\"] }|collapsed",
        "def Camera \"c\" { token projection = \"orthographic\" }|orthographic",
        "def Camera \"c\" { int[] x = [1, (2, 3)] }|line 2",
        "def Camera \"c\" { float x = 1e }|line 2",
        "def Camera c { }|line 2",
        "def \"x\" { string s = \"open|ends in the middle",
      })
  void badInputIsRefusedWithItsPlace(String body, String place) {
    assertThatThrownBy(() -> scene(body))
        .isInstanceOf(InputError.class)
        .hasMessageContaining(place);
  }

  @Test
  void anotherVersionIsRefused() {
    assertThatThrownBy(() -> read(file("#usda 2.0\ndef Xform \"a\" {}\n")))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("only version 1 text layers")
        .hasMessageContaining("Save it");
  }

  @Test
  void nestingHasAnEnd() {
    assertThatThrownBy(() -> scene("def \"a\" { x y = " + "(".repeat(100_000)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("nested");
    assertThatThrownBy(() -> scene("def \"a\" {\n".repeat(100_000)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("nested");
  }

  @Test
  void aCameraWithoutFilmBackSaysSo() throws IOException {
    FileScene s = scene("def Camera \"c\" { float focalLength = 35 }");
    assertThat(s.cameras().get(0).filmBackStated()).isFalse();
    assertThat(s.cameras().get(0).focalLengthStated()).isTrue();
  }
}
