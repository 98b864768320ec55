package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.decision.Decided;
import flarvo.decision.DecisionEntry;
import flarvo.decision.DecisionHistory;
import flarvo.decision.Outcome;
import flarvo.decision.Replay;
import flarvo.decision.ShotState;
import flarvo.decision.TraceDecision;
import flarvo.plate.PlateFinder;
import flarvo.plate.PlateLuma;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.plate.RasterWriter;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.scene.FrameRange;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.trace.AutoSolve;
import flarvo.trace.Mask;
import flarvo.trace.TraceOptions;
import flarvo.vet.resolve.FocalLength;
import flarvo.vet.resolve.TrackSolve;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The dome's pan, blurred in the middle so that nothing can be followed there. */
@Tag("numeric")
class BlurTest {

  private static final PlateSequence PLATES =
      PlateFinder.find(Path.of("meridian", DomeTruth.SHOT.name(), "plates/original")).get(0);
  private static final int FIRST = PLATES.frames().first();
  private static final FrameRange FRAMES = new FrameRange(FIRST, FIRST + 29);
  private static final FrameRange BLURRED = new FrameRange(FIRST + 11, FIRST + 18);

  /** Pixels to each side. */
  private static final int BLUR = 30;

  @TempDir static Path dir;

  @BeforeAll
  static void blur() throws Exception {
    for (int f = FRAMES.first(); f <= FRAMES.last(); f++) {
      Raster r = RasterReader.read(PLATES.file(f));
      RasterWriter.write(BLURRED.contains(f) ? blurred(r) : r, dir.resolve("pan." + f + ".png"));
    }
  }

  private static Raster blurred(Raster r) {
    Raster out = Raster.empty(r.width(), r.height(), r.channels(), r.kind());
    int n = r.channels().size();
    for (int y = 0; y < r.height(); y++) {
      for (int c = 0; c < n; c++) {
        double sum = (2 * BLUR + 1) * at(r, -1, y, c);
        for (int x = -BLUR; x < r.width() + BLUR; x++) {
          sum += at(r, x + BLUR, y, c) - at(r, x - BLUR - 1, y, c);
          if (x >= 0 && x < r.width()) {
            out.values()[n * (y * r.width() + x) + c] = (float) (sum / (2 * BLUR + 1));
          }
        }
      }
    }
    return out;
  }

  /** Beside the picture it goes on as at its border. */
  private static float at(Raster r, int x, int y, int channel) {
    return r.at(Math.max(0, Math.min(r.width() - 1, x)), y, channel);
  }

  /** Largest error in the blur of what the camera turned since the first frame, in degrees. */
  private static double offDegrees(ShotCamera c) {
    Rotation start = c.poses().at(FRAMES.first()).rotation().inverse();
    Rotation truth = DomeTruth.SHOT.poseAt(FRAMES.first()).rotation().inverse();
    double worst = 0;
    for (int f = BLURRED.first(); f <= BLURRED.last(); f++) {
      worst =
          Math.max(
              worst,
              start
                  .after(c.poses().at(f).rotation())
                  .angleTo(truth.after(DomeTruth.SHOT.poseAt(f).rotation())));
    }
    return Math.toDegrees(worst);
  }

  private static AutoSolve.Outcome solve(FrameRange frames) {
    PlateSequence p = PlateFinder.find(dir).get(0);
    return AutoSolve.of(
        new AutoSolve.Plate(
            "pan",
            frames,
            f -> PlateLuma.of(p, f),
            ShotTruth.PICTURE,
            DomeTruth.SHOT.rate(),
            Optional.empty()),
        TraceOptions.USUAL,
        Mask.NONE,
        false,
        new TrackSolve.Options(
            ShotTruth.FILM_WIDTH_MM, ShotTruth.FILM_HEIGHT_MM, FocalLength.given(24), 2, 0.5, 8),
        s -> {},
        Progress.NONE);
  }

  @Test
  void whereTheShotEndsInTheBlurItIsSaidThatThereIsNoCamera() {
    AutoSolve.Outcome o = solve(new FrameRange(FIRST, FIRST + 14));
    FrameRange solved = o.shot().frames();
    assertThat(solved.last()).isLessThan(FIRST + 14);
    assertThat(o.doubts())
        .contains(
            "There is no camera where no trackers are seen: frames "
                + (solved.last() + 1)
                + "–"
                + (FIRST + 14)
                + ".");
  }

  @Test
  void theTurnIsMeasuredInOneStep() {
    AutoSolve.Outcome o = solve(FRAMES);
    assertThat(o.solve().kind().tripod()).isTrue();
    assertThat(o.solve().interpolated()).isNotEmpty();
    assertThat(o.doubts().toString())
        .contains("The camera is interpolated")
        .contains("Rotation was measured from the blurred pictures");
    assertThat(offDegrees(o.solve().shot().cameras().get(0)))
        .as("interpolated")
        .isGreaterThan(0.15);
    assertThat(offDegrees(o.shot().cameras().get(0))).isLessThan(0.1);
  }

  @Test
  void theTurnIsMeasuredWhenItIsDecidedToSolve() throws Exception {
    DecisionHistory history =
        new DecisionHistory(
            ShotState.of(
                "plates", ShotIntake.of(List.of(dir), Progress.NONE).received(IntakeOptions.NONE)));
    history.add(
        Decided.of(
            history.present(),
            new TraceDecision.Follow(PlateRole.ORIGINAL, 150, 9, 0.08),
            Progress.NONE));
    history.add(
        Decided.of(
            history.present(),
            new TraceDecision.SolvePlates(23.76, 13.365, OptionalDouble.of(24), 2, 0.5),
            Progress.NONE));
    DecisionEntry solved = history.log().entries().get(1);
    assertThat(((Outcome.Solve) solved.outcome().orElseThrow()).words())
        .contains("Rotation was measured from the blurred pictures");
    assertThat(offDegrees(history.present().shot().cameras().get(0))).isLessThan(0.1);
    Replay again = Replay.same(history.base(), history.log(), Progress.NONE);
    assertThat(again.history().present().shot()).isEqualTo(history.present().shot());
  }
}
