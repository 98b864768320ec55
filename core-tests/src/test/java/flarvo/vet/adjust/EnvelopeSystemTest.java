package flarvo.vet.adjust;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.CommonOps_DDRM;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Systems of all shapes, beside a library's dense solver. */
class EnvelopeSystemTest {

  /** Narrow and wide ones, across panels and tiles, with and without shared unknowns. */
  @ParameterizedTest
  @CsvSource({
    "6, 4, 1, 0",
    "6, 20, 5, 1",
    "6, 70, 60, 3",
    "6, 90, 12, 0",
    "3, 150, 40, 2",
    "7, 60, 30, 1",
    "6, 100, 99, 5"
  })
  void solvesWhatADenseSolverDoes(int block, int cameras, int life, int shared) {
    Random r = new Random(31L * block + cameras);
    int[] farthest = new int[cameras];
    for (int i = 0; i < cameras; i++) {
      farthest[i] = Math.min(cameras - 1, i + r.nextInt(life + 1));
    }
    EnvelopeSystem s = new EnvelopeSystem(block, farthest, shared);
    int n = s.size + shared;
    DMatrixRMaj a = new DMatrixRMaj(n, n);
    DMatrixRMaj b = new DMatrixRMaj(n, 1);
    for (int i = 0; i < cameras; i++) {
      for (int j = i; j <= farthest[i]; j++) {
        for (int p = 0; p < block; p++) {
          for (int q = i == j ? p : 0; q < block; q++) {
            set(a, i * block + p, j * block + q, r.nextGaussian());
          }
        }
      }
    }
    for (int c = 0; c < shared; c++) {
      for (int k = 0; k <= s.size + c; k++) {
        set(a, k, s.size + c, r.nextGaussian());
      }
    }
    for (int k = 0; k < n; k++) {
      double sum = 1;
      for (int c = 0; c < n; c++) {
        sum += c == k ? 0 : Math.abs(a.get(k, c));
      }
      a.set(k, k, sum); // so that it is positive definite
      b.set(k, 0, r.nextGaussian());
    }
    fill(s, a, b);
    DMatrixRMaj x = new DMatrixRMaj(n, 1);
    assertThat(CommonOps_DDRM.solve(a, b, x)).isTrue();
    assertThat(s.solve()).isTrue();
    for (int k = 0; k < n; k++) {
      assertThat(s.right[k]).isCloseTo(x.get(k, 0), within(1e-11));
    }
  }

  private static void set(DMatrixRMaj a, int row, int column, double v) {
    a.set(row, column, v);
    a.set(column, row, v);
  }

  private static void fill(EnvelopeSystem s, DMatrixRMaj a, DMatrixRMaj b) {
    for (int k = 0; k < s.size; k++) {
      for (int c = k; c < s.size; c++) {
        if (a.get(k, c) != 0) {
          s.upper()[s.at(k, c)] = a.get(k, c);
        }
      }
      for (int c = 0; c < s.shared; c++) {
        s.border[k * s.shared + c] = a.get(k, s.size + c);
      }
    }
    for (int p = 0; p < s.shared; p++) {
      for (int q = 0; q < s.shared; q++) {
        s.corner[p * s.shared + q] = a.get(s.size + p, s.size + q);
      }
    }
    for (int k = 0; k < s.right.length; k++) {
      s.right[k] = b.get(k, 0);
    }
  }
}
