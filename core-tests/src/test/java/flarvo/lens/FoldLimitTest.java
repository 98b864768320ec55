package flarvo.lens;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;

class FoldLimitTest {

  /** A tangential term this small changes nothing, but each direction is looked at by itself. */
  private static final double NOTHING = 1e-300;

  @Test
  void aRadialLensFoldsAtOneRadiusInAllDirections() {
    Random r = new Random(11);
    int folds = 0;
    for (int lens = 0; lens < 60; lens++) {
      double k1 = 0.6 * r.nextDouble() - 0.4;
      double k2 = 0.2 * r.nextDouble() - 0.1;
      BrownConrady radial = new BrownConrady(k1, k2, 0, 0, 0, 0, 0, 0);
      BrownConrady all = new BrownConrady(k1, k2, NOTHING, 0, 0, 0, 0, 0);
      assertThat(radial.isRadial()).isTrue();
      assertThat(all.isRadial()).isFalse();
      FoldLimit once = new FoldLimit(radial, 3);
      FoldLimit everywhere = new FoldLimit(all, 3);
      assertThat(once.isNone()).isEqualTo(everywhere.isNone());
      for (int ray = 0; ray < FoldLimit.rays() && !once.isNone(); ray++) {
        assertThat(once.at(ray)).isCloseTo(everywhere.at(ray), within(1e-12));
      }
      folds += once.isNone() ? 0 : 1;
    }
    assertThat(folds).isBetween(20, 55);
  }
}
