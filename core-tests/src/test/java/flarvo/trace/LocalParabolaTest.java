package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;

class LocalParabolaTest {

  @Test
  void aParabolaIsFoundHoweverItIsWeighted() {
    Random r = new Random(1);
    LocalParabola p = new LocalParabola();
    for (int k = 0; k < 50; k++) {
      double[] of = {r.nextGaussian(), r.nextGaussian(), r.nextGaussian()};
      double[] weights = r.doubles(9, 0, 2).toArray();
      p.clear();
      for (int t = -3; t < 6; t++) {
        p.add(t, weights[t + 3]);
      }
      assertThat(p.solve()).isTrue();
      double value = 0;
      for (int t = -3; t < 6; t++) {
        value += p.share(t, weights[t + 3]) * (of[0] + t * (of[1] + t * of[2]));
      }
      assertThat(value).isCloseTo(of[0], within(1e-9));
    }
  }

  @Test
  void twoTimesHoldNone() {
    LocalParabola p = new LocalParabola();
    assertThat(p.solve()).isFalse();
    p.add(-1, 1);
    p.add(2, 0.5);
    p.add(2, 0.7);
    p.add(1, 0);
    assertThat(p.solve()).isFalse();
  }
}
