package flarvo.suspect;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** The limit under which a pair may still be among the best. */
class LeastErrorsTest {

  @Test
  void theLimitIsTheLargestOfTheLeast() {
    double[] errors = new Random(3).doubles(500).toArray();
    LeastErrors least = new LeastErrors(80);
    for (int i = 0; i < errors.length; i++) {
      double[] sorted = Arrays.copyOf(errors, i);
      Arrays.sort(sorted);
      assertThat(least.limit()).isEqualTo(i < 80 ? Double.POSITIVE_INFINITY : sorted[79]);
      least.add(errors[i]);
    }
  }

  @Test
  void whereAllAreKeptThereIsNoLimit() {
    LeastErrors least = new LeastErrors(Integer.MAX_VALUE);
    least.add(1);
    least.add(2);
    assertThat(least.limit()).isInfinite();
  }
}
