package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.plate.PlateFinder;
import flarvo.plate.PlateLuma;
import flarvo.scene.PlateSequence;
import flarvo.trace.Mask;
import flarvo.trace.TraceOptions;
import flarvo.trace.Traced;
import flarvo.trace.Tracer;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.Locale;
import org.junit.jupiter.api.Test;

/** What is followed in the demo's plates, beside where it should have been. */
class TraceTest {

  static void follow(ShotTruth shot, String folder, boolean undistorted) {
    PlateSequence plates = PlateFinder.find(Path.of("meridian", shot.name(), folder)).get(0);
    long begun = System.nanoTime();
    Traced t =
        Tracer.of(
            plates.frames(),
            f -> PlateLuma.of(plates, f),
            TraceOptions.USUAL,
            Mask.NONE,
            Progress.NONE);
    double s = (System.nanoTime() - begun) / 1e9;
    double[] errors =
        new FollowedTruth(shot, undistorted)
            .errors(t.observations()).values().stream().mapToDouble(d -> d).sorted().toArray();
    double squares = 0;
    int most = (int) (0.9 * errors.length);
    for (int i = 0; i < most; i++) {
      squares += errors[i] * errors[i];
    }
    System.out.printf(
        Locale.ROOT,
        "%s %s: %d features, %.1f frames each, RMS of 90%% %.3f, median %.3f, 90%%: %.3f, 95%%:"
            + " %.3f, over 1 px: %d; %.1f s; %s%n",
        shot.name(),
        folder,
        errors.length,
        t.meanLife(),
        Math.sqrt(squares / most),
        errors[errors.length / 2],
        errors[most],
        errors[(int) (0.95 * errors.length)],
        java.util.Arrays.stream(errors).filter(e -> e > 1).count(),
        s,
        t.notes());
    assertThat(errors).isNotEmpty();
  }

  @Test
  void demoPlates() {
    follow(TerraceTruth.SHOT, "plates/original", false);
    follow(TerraceTruth.SHOT, "plates/undistorted", true);
    follow(DomeTruth.SHOT, "plates/original", false);
    follow(CartTruth.SHOT, "plates/original", false);
  }
}
