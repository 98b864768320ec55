package flarvo.format.fbx;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.convention.Dialects;
import flarvo.convention.SignedAxis;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.FileScene;
import flarvo.format.SceneFormat;
import flarvo.format.SceneFormatContract;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.Pose;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FbxTextFormatTest extends SceneFormatContract {

  @Override
  protected SceneFormat format() {
    return new FbxTextFormat();
  }

  @Override
  protected double limitPx() {
    return 0.005;
  }

  /** The takes at the end say again what the animation stack said. */
  @Override
  protected boolean readsTheSame(int cut, byte[] whole) {
    String all = new String(whole, StandardCharsets.UTF_8);
    int end = all.indexOf("}", all.lastIndexOf("C: \"OP\"")) + 1;
    return cut >= end && all.substring(end, cut).isBlank();
  }

  private static String head(String settings) {
    return "; FBX 7.4.0 project file\nFBXHeaderExtension: {\n\tFBXVersion: 7400\n}\n"
        + "GlobalSettings: {\n Properties70: {\n"
        + settings
        + "\n }\n}\n";
  }

  /** A camera under a pivoted, pre-rotated null, with one curve of every interpolation. */
  private FileScene foreign() throws IOException {
    return read(
        file(
            head(
                    """
                    P: "UpAxis", "int", "Integer", "",2
                    P: "UpAxisSign", "int", "Integer", "",1
                    P: "FrontAxis", "int", "Integer", "",1
                    P: "FrontAxisSign", "int", "Integer", "",-1
                    P: "CoordAxis", "int", "Integer", "",0
                    P: "CoordAxisSign", "int", "Integer", "",1
                    P: "UnitScaleFactor", "double", "Number", "",2.54
                    P: "TimeMode", "enum", "", "",10
                    """)
                + """
                Objects:  {
                  NodeAttribute: 1, "NodeAttribute::", "Camera" {
                    Properties70: {
                      P: "FilmWidth", "double", "Number", "",1
                      P: "FilmHeight", "double", "Number", "",0.5625
                      P: "ApertureMode", "enum", "", "",1
                      P: "FieldOfView", "FieldOfView", "", "A",90
                      P: "FilmOffsetX", "Number", "", "A",0.1
                    }
                  }
                  Model: 2, "Model::cam", "Camera" {
                    Properties70: { P: "Lcl Translation", "Lcl Translation", "", "A",10,0,0 }
                  }
                  Model: 3, "Model::group", "Null" {
                    Properties70: {
                      P: "RotationActive", "bool", "", "",1
                      P: "PreRotation", "Vector3D", "Vector", "",0,0,90
                      P: "RotationPivot", "Vector3D", "Vector", "",5,0,0
                      P: "RotationOffset", "Vector3D", "Vector", "",0,0,1
                      P: "RotationOrder", "enum", "", "",5
                    }
                  }
                  AnimationCurveNode: 4, "AnimCurveNode::T", "" { }
                  AnimationCurve: 5, "AnimCurve::", "" {
                    KeyTime: *4 { a: 0,46186158000,92372316000,138558474000 }
                    KeyValueFloat: *4 { a: 0,10,
                20,30 }
                    KeyAttrFlags: *3 { a: 2,4,1032 }
                    KeyAttrDataFloat: *12 { a: 0,0,0,0,0,0,0,0,10,-10,0,0 }
                    KeyAttrRefCount: *3 { a: 1,1,2 }
                  }
                }
                Connections: {
                  C: "OO",1,2
                  C: "OO",2,3
                  C: "OO",3,0
                  C: "OP",4,2, "Lcl Translation"
                  C: "OP",5,4, "d|Y"
                }
                """));
  }

  @Test
  void readsAxesUnitRateAndLensOfOthers() throws IOException {
    FileScene s = foreign();
    assertThat(s.up().orElseThrow().value()).isEqualTo(SignedAxis.POSITIVE_Z);
    assertThat(s.world().orElseThrow().away()).isEqualTo(SignedAxis.POSITIVE_Y);
    assertThat(s.handedness().orElseThrow().value().word()).isEqualTo("right");
    assertThat(s.unit().orElseThrow().value().metresPerUnit()).isEqualTo(0.0254);
    assertThat(s.rate().orElseThrow().value()).isEqualTo(Rate.FPS_25);
    Optics o = s.cameras().get(0).camera().optics().at(0);
    assertThat(o.filmWidthMm()).isCloseTo(25.4, within(1e-12));
    // Half a picture over the focal length is the tangent of 45 degrees.
    assertThat(o.focalLengthMm()).isCloseTo(12.7, within(1e-9));
    assertThat(o.principalXMm()).isCloseTo(-2.54, within(1e-12));
  }

  @Test
  void evaluatesCurvesBetweenKeysAsTheyRun() throws IOException {
    FileScene s = foreign();
    assertThat(s.cameras().get(0).camera().frames()).isEqualTo(new FrameRange(0, 75));
    // The pivoted group turns +Y into −X about (5, 0, 0) and lifts by 1.
    assertThat(localY(s, 0)).isCloseTo(0, within(1e-9));
    assertThat(localY(s, 24)).as("constant").isCloseTo(0, within(1e-9));
    assertThat(localY(s, 30)).as("linear").isCloseTo(12, within(1e-6));
    // Cubic from 20 to 30 over one second with slopes 10 and −10, at u = 0.6.
    double u = 0.6;
    double expected =
        (2 * u * u * u - 3 * u * u + 1) * 20
            + (u * u * u - 2 * u * u + u) * 10
            + (3 * u * u - 2 * u * u * u) * 30
            + (u * u * u - u * u) * -10;
    assertThat(localY(s, 65)).as("cubic").isCloseTo(expected, within(1e-6));
    assertThat(localY(s, 75)).isCloseTo(30, within(1e-6));
  }

  private static double localY(FileScene s, int frame) {
    Pose p = s.cameras().get(0).camera().poses().at(frame);
    // (10, y, 0) minus the pivot is (5, y, 0); turned by 90° about z it is (−y, 5, 0).
    assertThat(p.position().y()).isCloseTo(5, within(1e-6));
    assertThat(p.position().z()).isCloseTo(1, within(1e-6));
    return 5 - p.position().x();
  }

  @Test
  void aCameraLooksAlongItsOwnX() throws IOException {
    Rotation r = foreign().cameras().get(0).camera().poses().at(0).rotation();
    // Local +X after a turn by 90° about z is +Y.
    assertThat(r.apply(new Vec3(1, 0, 0)).minus(new Vec3(0, 1, 0)).length()).isLessThan(1e-12);
  }

  @Test
  void farFromTheOriginItIsRecentredAndSaid() {
    Shot far = TestShots.moved(TestShots.walk(4, 4, 1), new Vec3(5000, 0, 0));
    var sent =
        Dispatcher.send(
            far,
            new Delivery(
                "x",
                Dialects.shipped().get("anim-yup-cm"),
                format(),
                Contents.CAMERA_AND_TRACKERS,
                "x.fbx"),
            dir.resolve("x.fbx"),
            Progress.NONE);
    assertThat(sent.notes()).anyMatch(n -> n.toString().contains("far from the origin"));
  }

  @Test
  void framesAreTicksToTheNearest() {
    for (Rate rate : new Rate[] {Rate.FPS_24, Rate.NTSC_24, Rate.NTSC_30, new Rate(60000, 1001)}) {
      for (int f = -10; f < 100_000; f += 13) {
        long tick = FbxTime.tickOf(f, rate);
        assertThat(FbxTime.frameOf(tick, rate)).isCloseTo(f, within(1e-6));
      }
    }
    assertThat(FbxTime.tickOf(24, Rate.FPS_24)).isEqualTo(46_186_158_000L);
  }

  @Test
  void everyRateHasAModeThatComesBack() {
    for (int mode = 1; mode <= 18; mode++) {
      if (mode == FbxTime.CUSTOM || mode == 7 || mode == 8) {
        continue; // custom, and two that only count timecode otherwise
      }
      assertThat(FbxTime.modeOf(FbxTime.rateOf(mode).orElseThrow())).isEqualTo(mode);
    }
    assertThat(FbxTime.modeOf(new Rate(37, 1))).isEqualTo(FbxTime.CUSTOM);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "P: \"UnitScaleFactor\", \"double\", \"Number\", \"\",-1|UnitScaleFactor",
        "P: \"UnitScaleFactor\", \"double\", \"Number\", \"\",0|UnitScaleFactor",
        "P: \"UpAxis\", \"int\", \"Integer\", \"\",7|UpAxis",
        "P: \"UpAxis\", \"int\", \"Integer\", \"\",2|three different axes",
        "P: \"TimeMode\", \"enum\", \"\", \"\",14|CustomFrameRate",
        "P: \"UnitScaleFactor\", \"double\", \"Number\", \"\",nan|not a number",
        "P: \"UnitScaleFactor\", \"double\", \"Number\", \"\",1.#QNAN|line",
      })
  void badSettingsAreRefusedWithTheirPlace(String setting, String place) {
    assertThatThrownBy(() -> read(file(head(setting) + "Objects: { }\nConnections: { }\n")))
        .isInstanceOf(InputError.class)
        .hasMessageContaining(place);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "KeyTime: *2 { a: 0,1 } KeyValueFloat: *2 { a: 0,nan }|not a number",
        "KeyTime: *2 { a: 0,1 } KeyValueFloat: *1 { a: 0 }|2 times but 1 values",
        "KeyTime: *2 { a: 1,0 } KeyValueFloat: *2 { a: 0,0 }|not in order",
        "KeyTime: *0 { } KeyValueFloat: *0 { }|no keys",
        "KeyTime: *2147483647 { a: 0 }|claims 2147483647",
        "KeyTime: *99999999999999999999 { a: 0 }|length",
        "KeyTime: *1 { a: 0 } KeyValueFloat: *1 { a: 1 } KeyAttrFlags: *1 { a: 4 }|attributes",
      })
  void badCurvesAreRefused(String curve, String cause) {
    String text =
        head("")
            + "Objects: {\n Model: 2, \"Model::c\", \"Camera\" { }\n"
            + " AnimationCurveNode: 4, \"AnimCurveNode::T\", \"\" { }\n"
            + " AnimationCurve: 5, \"AnimCurve::\", \"\" {\n"
            + curve.replace(" Key", "\n Key")
            + "\n }\n}\nConnections: {\n C: \"OP\",4,2, \"Lcl Translation\"\n"
            + " C: \"OP\",5,4, \"d|X\"\n}\n";
    assertThatThrownBy(() -> read(file(text)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining(cause);
  }

  @Test
  void cyclesAndTwinsAreRefused() {
    String cycle =
        head("")
            + "Objects: {\n Model: 1, \"Model::a\", \"Null\" { }\n Model: 2, \"Model::b\","
            + " \"Null\" { }\n}\nConnections: {\n C: \"OO\",1,2\n C: \"OO\",2,1\n}\n";
    assertThatThrownBy(() -> read(file(cycle)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("cyclic");
    String twins =
        head("")
            + "Objects: {\n Model: 1, \"Model::a\", \"Null\" { }\n Model: 1, \"Model::b\","
            + " \"Null\" { }\n}\nConnections: { }\n";
    assertThatThrownBy(() -> read(file(twins)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("two objects");
  }
}
