package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.Observations;
import flarvo.scene.PlateRole;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** What a marked feature looks like elsewhere, on pictures that are formulas. */
class PatternLookTest {

  private static final FrameRange FRAMES = new FrameRange(1, 9);

  /** Frame f is frame 1 moved by (3, −2) a frame, turned by 2° and 2 % larger about (80, 60). */
  private static Luma picture(int f) {
    float[] v = new float[160 * 120];
    double a = Math.toRadians(2) * (f - 1);
    double k = Math.pow(1.02, f - 1);
    for (int y = 0; y < 120; y++) {
      for (int x = 0; x < 160; x++) {
        double dx = (x - 80 - 3 * (f - 1)) / k;
        double dy = (y - 60 + 2 * (f - 1)) / k;
        double u = Math.cos(a) * dx + Math.sin(a) * dy;
        double w = -Math.sin(a) * dx + Math.cos(a) * dy;
        v[y * 160 + x] =
            (float)
                (120 + 50 * Math.sin(0.5 * u) * Math.cos(0.37 * w) + 30 * Math.sin(0.05 * u * w));
      }
    }
    return new Luma(160, 120, v);
  }

  private static HandFeature feature(double offOnFive) {
    Observations.Builder b = new Observations.Builder();
    for (int f = 1; f <= 9; f += 2) {
      b.add("h01", f, 80.5 + 3 * (f - 1) + (f == 5 ? offOnFive : 0), 60.5 - 2 * (f - 1));
    }
    return HandFeature.of("h01", PlateRole.ORIGINAL, 9, FRAMES)
        .with(1, new HandFeature.Mark(80.5, 60.5))
        .with(9, new HandFeature.Mark(104.5, 44.5))
        .along(b.build());
  }

  private static Optional<Luma> plate(int frame) {
    return Optional.of(picture(frame));
  }

  @Test
  void theSameThingLooksTheSameThoughTurned() {
    PatternLook l = PatternLook.of(feature(0), 5, PatternLookTest::plate).orElseThrow();
    assertThat(l.markedOn()).isEqualTo(1); // as near as frame 9, and before
    assertThat(l.side()).isEqualTo(19);
    assertThat(l.correlation()).isGreaterThan(0.995);
    for (int i = 0; i < l.now().length; i++) {
      assertThat(l.now()[i]).isCloseTo(l.marked()[i], within(8f));
    }
    assertThat(PatternLook.of(feature(0), 7, PatternLookTest::plate).orElseThrow().markedOn())
        .isEqualTo(9);
  }

  @Test
  void somethingElseLooksElse() {
    assertThat(PatternLook.of(feature(17), 5, PatternLookTest::plate).orElseThrow().correlation())
        .isLessThan(0.7);
  }

  @Test
  void whereItIsNotSeenThereIsNothingToLookAt() {
    assertThat(PatternLook.of(feature(0), 4, PatternLookTest::plate)).isEmpty();
    assertThat(PatternLook.of(feature(0), 5, f -> Optional.empty())).isEmpty();
    assertThat(PatternLook.of(feature(62), 5, PatternLookTest::plate))
        .isEmpty(); // its square leaves the picture
  }
}
