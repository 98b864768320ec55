package flarvo.suspect;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** The factor is what adding up the weights in the order of the ratios gives. */
class RobustRatioTest {

  @Test
  void isTheWeightedMedian() {
    Random r = new Random(9);
    for (int round = 0; round < 3000; round++) {
      int n = 1 + r.nextInt(round % 10 == 0 ? 700 : 30);
      RobustRatio ratio = new RobustRatio();
      List<double[]> all = new ArrayList<>();
      double half = 0;
      for (int i = 0; i < n; i++) {
        // Powers of two, so that sums and quotients are exact and few ratios differ.
        double from = Math.scalb(r.nextBoolean() ? 1.0 : -1.0, r.nextInt(3));
        double to = from * (round % 3 == 0 ? r.nextInt(4) : r.nextInt(100) - 50);
        ratio.add(from, to);
        all.add(new double[] {to / from, Math.abs(from)});
        half += Math.abs(from) / 2;
      }
      all.sort(Comparator.comparingDouble(p -> p[0]));
      double sum = 0;
      int at = -1;
      while (sum < half) {
        sum += all.get(++at)[1];
      }
      assertThat(ratio.value()).isEqualTo(all.get(at)[0]);
      assertThat(ratio.value()).as("asked again").isEqualTo(all.get(at)[0]);
    }
  }

  @Test
  void whatSaysNothingIsLeftOut() {
    RobustRatio r = new RobustRatio();
    r.add(0, 5);
    r.add(1, Double.NaN);
    assertThat(r.value()).isNaN();
    r.add(2, 3);
    assertThat(r.value()).isEqualTo(1.5);
  }
}
