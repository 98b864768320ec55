package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.Shot;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a file states of its picture and its range counts, whatever else is at hand. */
class StatedByTheFileTest {

  @TempDir private Path dir;

  /**
   * Anamorphic: pixels twice as wide as high, a back of 49.152 × 13.824 mm; 24 frames stated, keys
   * on some of them.
   */
  private Path usd(int first, int last, int firstKey, int lastKey) throws IOException {
    StringBuilder keys = new StringBuilder();
    for (int f = firstKey; f <= lastKey; f++) {
      keys.append(f).append(": (").append(0.1 * (f - 1001)).append(", 0, 0), ");
    }
    String text =
        """
        #usda 1.0
        (
            defaultPrim = "shot"
            startTimeCode = %d
            endTimeCode = %d
            timeCodesPerSecond = 24
            metersPerUnit = 1
            upAxis = "Y"
        )
        def Xform "shot"
        {
            def Camera "cam"
            {
                float focalLength = 0.35
                float horizontalAperture = 0.49152
                float verticalAperture = 0.13824
                double3 xformOp:translate.timeSamples = { %s }
                uniform token[] xformOpOrder = ["xformOp:translate"]
            }
            def Scope "trackers"
            {
                def Xform "t1"
                {
                    double3 xformOp:translate = (1, 0.2, -5)
                    uniform token[] xformOpOrder = ["xformOp:translate"]
                }
                def Xform "t2"
                {
                    double3 xformOp:translate = (-0.5, -0.3, -4)
                    uniform token[] xformOpOrder = ["xformOp:translate"]
                }
            }
            def RenderSettings "picture"
            {
                int2 resolution = (1920, 1080)
                float pixelAspectRatio = 2
            }
        }
        """
            .formatted(first, last, keys);
    return Files.writeString(dir.resolve("cam.usda"), text);
  }

  private static ReceivedSet came(Path file, IntakeOptions options) {
    return new ShotIntake().add(file, options, Progress.NONE).received(options);
  }

  /** x = 960 + 1920 f X / (−Z w): by hand, from what the file states. */
  private static double byHand(Vec3 p, double focal, double back) {
    return 960 + 1920 * focal * p.x() / -p.z() / back;
  }

  @Test
  void thePixelAspectOfAFileIsKept() throws IOException {
    Path file = usd(1001, 1024, 1001, 1024);
    for (IntakeOptions o :
        List.of(IntakeOptions.NONE, IntakeOptions.NONE.withSize(PictureSize.of(1920, 1080)))) {
      Shot s = came(file, o).shot("s", o);
      assertThat(s.picture()).isEqualTo(new PictureSize(1920, 1080, 2));
      Optics lens = s.camera().orElseThrow().optics().at(1001);
      assertThat(lens.filmWidthMm()).isCloseTo(49.152, within(1e-4));
      assertThat(lens.filmHeightMm()).isCloseTo(13.824, within(1e-4));
      double[] px = new double[3];
      new Pinhole(s.camera().orElseThrow(), s.picture()).at(1001).project(1, 0.2, -5, px);
      assertThat(px[0]).isCloseTo(byHand(new Vec3(1, 0.2, -5), 35, 49.152), within(1e-3));
    }
  }

  @Test
  void theProofComparesBackAndAspectWithTheFile() throws IOException {
    Path file = usd(1001, 1024, 1001, 1024);
    Dialect d = Dialects.shipped().get("anim-yup-cm");
    IntakeOptions square = IntakeOptions.NONE.withPixelAspect(1);
    ReceivedSet wrong = came(file, square);
    Shot asGiven = wrong.shot("s", square);
    Path out = dir.resolve("out.usda");
    Dispatcher.send(
        asGiven,
        new Delivery("x", d, Formats.byId("usd-text"), Contents.CAMERA_AND_TRACKERS, "out.usda"),
        out,
        Progress.NONE);
    ProofReport same = Proof.of(asGiven, out, d, 0.01, Progress.NONE);
    assertThat(same.driftHolds()).as("source and delivery are wrong alike").isTrue();
    ProofReport proof = same.with(SourceChecks.of(wrong, asGiven));
    assertThat(proof.holds()).isFalse();
    assertThat(proof.checks().stream().filter(c -> !c.holds()).map(Check::name))
        .containsExactly("sourcePicture");
    assertThat(wrong.notes())
        .extracting(Object::toString)
        .anyMatch(n -> n.contains("states a pixel aspect of 2.0; read as 1.0"));
    // And with what the file states, it holds.
    ReceivedSet right = came(file, IntakeOptions.NONE);
    Shot shot = right.shot("s", IntakeOptions.NONE);
    Dispatcher.send(
        shot,
        new Delivery("x", d, Formats.byId("usd-text"), Contents.CAMERA_AND_TRACKERS, "out.usda"),
        out,
        Progress.NONE);
    assertThat(
            Proof.of(shot, out, d, 0.01, Progress.NONE).with(SourceChecks.of(right, shot)).holds())
        .isTrue();
    // A delivery that lost the aspect is seen too.
    Files.writeString(
        out, Files.readString(out).replaceAll("float pixelAspectRatio = 2\\s*\\n", ""));
    assertThat(Proof.of(shot, out, d, 0.01, Progress.NONE).checks())
        .filteredOn(c -> c.name().equals("pictureSize"))
        .noneMatch(Check::holds);
  }

  @Test
  void aValueHoldsOutsideItsKeys() throws IOException {
    Path file = usd(1001, 1024, 1001, 1015);
    Shot s = came(file, IntakeOptions.NONE).shot("s", IntakeOptions.NONE);
    assertThat(s.frames()).isEqualTo(new FrameRange(1001, 1024));
    assertThat(s.camera().orElseThrow().poses().at(1024))
        .isEqualTo(s.camera().orElseThrow().poses().at(1015));
    Dialect d = Dialects.shipped().get("anim-yup-cm");
    Path cut = dir.resolve("cut.usda");
    Shot shorter =
        came(usd(1001, 1015, 1001, 1015), IntakeOptions.NONE).shot("s", IntakeOptions.NONE);
    Dispatcher.send(
        shorter,
        new Delivery("x", d, Formats.byId("usd-text"), Contents.CAMERA_AND_TRACKERS, "cut.usda"),
        cut,
        Progress.NONE);
    assertThat(Proof.of(s, cut, d, 0.01, Progress.NONE).checks())
        .filteredOn(c -> !c.holds())
        .extracting(Check::name)
        .contains("lastFrame");
  }

  @Test
  void keysBeyondTheRangeAreSaid() throws IOException {
    ReceivedSet came = came(usd(1001, 1024, 995, 1030), IntakeOptions.NONE);
    Shot s = came.shot("s", IntakeOptions.NONE);
    assertThat(s.frames()).isEqualTo(new FrameRange(1001, 1024));
    assertThat(came.notes())
        .extracting(Object::toString)
        .anyMatch(n -> n.contains("995-1030, beyond the stated 1001-1024"));
    // A range without a frame of the keys is one that nobody set.
    Shot other = came(usd(0, 100, 1001, 1024), IntakeOptions.NONE).shot("s", IntakeOptions.NONE);
    assertThat(other.frames()).isEqualTo(new FrameRange(1001, 1024));
  }
}
