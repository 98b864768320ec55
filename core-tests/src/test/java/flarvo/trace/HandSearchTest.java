package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.work.Progress;
import java.util.Optional;
import java.util.OptionalDouble;
import org.junit.jupiter.api.Test;

/** A feature that is looked for only near where it is expected: windows in a row, all alike. */
class HandSearchTest {

  private static final int W = 400;
  private static final int H = 300;
  private static final int APART = 16;
  private static final double JUMP = 9.5;
  private static final FrameRange FRAMES = new FrameRange(1, 12);

  /**
   * Dots in a row, 16 px apart, that move by 1 px a frame and jump by 9.5 px more at frame 6: the
   * nearest dot to where one is expected is its neighbour then.
   */
  private static Optional<Luma> plate(int frame) {
    double moved = frame + (frame < 6 ? 0 : JUMP);
    float[] v = new float[W * H];
    for (int y = 0; y < H; y++) {
      for (int x = 0; x < W; x++) {
        double from = x - 190 - moved;
        double nearest = from - APART * Math.rint(from / APART);
        v[y * W + x] = (float) (40 + dot(nearest, y - 150));
      }
    }
    return Optional.of(new Luma(W, H, v));
  }

  private static double dot(double x, double y) {
    return 160 * Math.exp(-(x * x + y * y) / 18) * (1 + 0.2 * Math.cos(0.7 * y));
  }

  private static HandFeature marked(OptionalDouble search) {
    return HandFeature.of("h01", PlateRole.ORIGINAL, 7, FRAMES)
        .with(1, new HandFeature.Mark(191.5, 150.5))
        .searchedWithin(search);
  }

  private static HandFeature followed(OptionalDouble search) {
    HandFeature h = marked(search);
    return h.along(HandFollow.of(h, HandSearchTest::plate, Progress.NONE).observations());
  }

  @Test
  void withinItsSearchAreaAFeatureIsLostInsteadOfTakenForItsNeighbour() {
    HandFeature h = followed(OptionalDouble.of(4));
    assertThat(h.path().size()).isEqualTo(5);
    for (int f = 1; f < 6; f++) {
      int row = h.path().row("h01", f);
      assertThat(h.path().x(row)).isCloseTo(190.5 + f, within(0.1));
    }
  }

  /** The picture does lead astray: without a limit, the neighbour is taken for it. */
  @Test
  void withoutOneTheNeighbourIsFound() {
    HandFeature h = followed(OptionalDouble.empty());
    int row = h.path().row("h01", 12);
    assertThat(row).isNotNegative();
    assertThat(h.path().x(row)).isCloseTo(190.5 + 12 + JUMP - APART, within(0.5));
  }

  /** What moves faster than the search area reaches is lost at its first step. */
  @Test
  void aSearchAreaThatIsTooSmallFindsNothing() {
    assertThat(stepOfThree(1)).isEqualTo(1);
    assertThat(stepOfThree(6)).isEqualTo(2);
  }

  private static int stepOfThree(double search) {
    return HandFollow.of(
            marked(OptionalDouble.of(search)),
            f -> f > 2 ? Optional.empty() : plate(3 * f - 2),
            Progress.NONE)
        .observations()
        .size();
  }

  @Test
  void itIsExpectedWhereItsLastStepLeads() {
    HandFeature h = followed(OptionalDouble.of(4));
    assertThat(h.expected(4).orElseThrow()[0]).isCloseTo(194.5, within(0.1));
    assertThat(h.expected(2).orElseThrow()[0]).isCloseTo(191.5, within(0.1)); // no step yet
    assertThat(h.expected(6).orElseThrow()[0]).isCloseTo(196.5, within(0.1)); // where it is lost
    assertThat(h.expected(9)).isEmpty();
  }

  @Test
  void inSmallerPlatesTheSearchAreaIsSmallerToo() {
    PlatePixels half = PlatePixels.of(PictureSize.of(960, 540), PictureSize.of(1920, 1080));
    HandFeature h = half.toPlates(followed(OptionalDouble.of(4)));
    assertThat(h.searchPx()).hasValue(2);
    assertThat(h.marks().get(1).x()).isEqualTo(95.75);
    assertThat(h.path().x(0)).isCloseTo(95.75, within(0.05));
    assertThatThrownBy(() -> marked(OptionalDouble.of(0.2))).hasMessageContaining("1 to 1000 px");
    assertThatThrownBy(() -> marked(OptionalDouble.of(Double.NaN)))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
