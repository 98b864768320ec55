package flarvo.convention;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.scene.Fraction;
import flarvo.scene.FrameRange;
import flarvo.scene.Rate;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

class FrameMapTest {

  @Test
  void keepingFramesIsAnOffset() {
    FrameMap m =
        new FrameMap(
            new FrameRange(1001, 1096), Rate.NTSC_24, 0, Rate.FPS_25, RatePolicy.KEEP_FRAMES);
    assertThat(m.toRecipient(1001)).isEqualTo(Fraction.of(0));
    assertThat(m.recipientFrames()).isEqualTo(new FrameRange(0, 95));
    assertThat(m.toPlate(95)).isEqualTo(Fraction.of(1096));
  }

  @Test
  void keepingSecondsFromNtscTo25IsExact() {
    FrameMap m =
        new FrameMap(
            new FrameRange(0, 100_000), Rate.NTSC_24, 1, Rate.FPS_25, RatePolicy.KEEP_SECONDS);
    // 24,000 plate frames last 1001 seconds, which are 25,025 frames at 25.
    assertThat(m.toRecipient(24_000)).isEqualTo(Fraction.of(25_026));
    for (int f = 0; f <= 100_000; f += 7) {
      assertThat(m.toPlate(m.toRecipient(f))).isEqualTo(Fraction.of(f));
    }
    assertThat(m.recipientFrames().last()).isEqualTo(1 + (int) (100_000L * 1001 * 25 / 24_000));
  }

  @Property
  void goesThereAndBackForAnyRates(
      @ForAll @IntRange(min = -5000, max = 5000) int first,
      @ForAll @IntRange(min = 0, max = 100_000) int offset,
      @ForAll @IntRange(min = 1, max = 120) int a,
      @ForAll @IntRange(min = 1, max = 120) int b,
      @ForAll boolean ntsc) {
    Rate from = ntsc ? new Rate(a * 1000L, 1001) : new Rate(a, 1);
    FrameMap m =
        new FrameMap(
            new FrameRange(first, first + offset),
            from,
            1001,
            new Rate(b, 1),
            RatePolicy.KEEP_SECONDS);
    assertThat(m.toPlate(m.toRecipient(first + offset))).isEqualTo(Fraction.of(first + offset));
    Fraction since = m.toRecipient(first + offset).minus(Fraction.of(1001));
    assertThat(new Rate(b, 1).seconds(1).times(since.num(), since.den()))
        .isEqualTo(from.seconds(offset));
  }
}
