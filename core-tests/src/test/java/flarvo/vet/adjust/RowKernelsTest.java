package flarvo.vet.adjust;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;

/** With fused arithmetic and without, beside one number at a time. */
class RowKernelsTest {

  private interface Kernel {
    void run(double[] a, double[][] r, double[][] t, int at, int row, int from, int end);
  }

  private static void check(Kernel kernel, int rows) {
    Random random = new Random(5);
    for (int n : new int[] {0, 1, 7, 64, 301}) {
      double[][] r = new double[rows + 2][400];
      double[][] t = new double[rows + 2][400];
      for (int i = 0; i < r.length; i++) {
        for (int c = 0; c < 400; c++) {
          r[i][c] = random.nextGaussian();
          t[i][c] = random.nextGaussian();
        }
      }
      double[] a = random.doubles(400).toArray();
      double[] before = a.clone();
      kernel.run(a, r, t, 1, 17, 20, 20 + n);
      for (int c = 0; c < a.length; c++) {
        double expected = before[c];
        if (c >= 20 && c < 20 + n) {
          for (int k = 1; k <= rows; k++) {
            expected -= t[k][17] * r[k][c];
          }
        }
        assertThat(a[c]).isCloseTo(expected, within(1e-13));
      }
    }
  }

  @Test
  void takesRowsOut() {
    check(RowKernels::subtract3, 3);
    check(RowKernels::fused3, 3);
    check(RowKernels::plain3, 3);
    check(RowKernels::subtract6, 6);
    check(RowKernels::fused6, 6);
    check(RowKernels::plain6, 6);
  }
}
