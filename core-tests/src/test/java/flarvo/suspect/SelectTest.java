package flarvo.suspect;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** What is selected is what sorting would have put there. */
class SelectTest {

  @Test
  void isWhatSortingGives() {
    Random r = new Random(4);
    for (int round = 0; round < 4000; round++) {
      int n = 1 + r.nextInt(round % 10 == 0 ? 700 : 40);
      int kinds = 1 + r.nextInt(n + 3); // few kinds: many are equal
      double[] a = new double[n + 3];
      for (int i = 0; i < a.length; i++) {
        a[i] = i >= n ? -1 : round % 3 == 0 ? r.nextInt(kinds) : r.nextDouble();
        a[i] = round % 7 == 0 && i < n && r.nextInt(5) == 0 ? Double.POSITIVE_INFINITY : a[i];
      }
      double[] sorted = Arrays.copyOf(a, n);
      Arrays.sort(sorted);
      int k = r.nextInt(n);
      double[] b = a.clone();
      assertThat(Select.nth(b, n, k)).isEqualTo(sorted[k]);
      double[] all = Arrays.copyOf(b, n);
      Arrays.sort(all);
      assertThat(all).isEqualTo(sorted);
      assertThat(Arrays.copyOfRange(b, n, n + 3)).containsOnly(-1);
      double[] roots = Arrays.stream(sorted).map(Math::sqrt).toArray();
      double median = n % 2 == 1 ? roots[n / 2] : (roots[n / 2 - 1] + roots[n / 2]) / 2;
      assertThat(Select.medianRoot(a, n)).isEqualTo(median);
    }
  }

  /** Rising, falling and equal numbers are no worse than others. */
  @Test
  void orderMakesItNoSlower() {
    int n = 2_000_000;
    for (int kind = 0; kind < 3; kind++) {
      double[] a = new double[n];
      for (int i = 0; i < n; i++) {
        a[i] = kind == 0 ? i : kind == 1 ? n - i : 5;
      }
      long start = System.nanoTime();
      Select.nth(a, n, n / 2);
      assertThat((System.nanoTime() - start) / 1e9).isLessThan(3); // 10^12 steps if it were
    }
  }
}
