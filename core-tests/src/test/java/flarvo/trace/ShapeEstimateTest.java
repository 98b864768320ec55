package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;

/** A Kalman filter of four numbers, beside the steady state that is known in closed form. */
class ShapeEstimateTest {

  private static final double CHANGE = 0.05;
  private static final double ERROR = 0.02;

  /** Fits whose normal equations are the same in each frame, each number for itself. */
  private static void fit(ShapeEstimate s, double[] normal) {
    double[] inverse = new double[ShapeEstimate.SIZE * ShapeEstimate.SIZE];
    for (int p = 0; p < ShapeEstimate.SIZE; p++) {
      inverse[(ShapeEstimate.SIZE + 1) * p] = 1 / (normal[p] + s.weight(p, p));
    }
    s.update(inverse);
  }

  @Test
  void itSettlesWhereAFilterOfARandomWalkDoes() {
    ShapeEstimate s = new ShapeEstimate();
    s.setExact();
    assertThat(s.predict(CHANGE, ERROR)).isTrue();
    double variance = s.weight(0, 0) * CHANGE * CHANGE; // of an exact shape, one frame later
    double[] normal = {0.05, 0.2, 1, 4};
    for (int frame = 0; frame < 300; frame++) {
      fit(s, normal);
      assertThat(s.predict(CHANGE, ERROR)).isTrue();
    }
    double q = CHANGE * CHANGE;
    for (int p = 0; p < normal.length; p++) {
      double measured = variance / normal[p];
      double known = (q + Math.sqrt(q * q + 4 * q * measured)) / 2; // before the next fit
      assertThat(variance / s.weight(p, p)).isCloseTo(known, within(1e-9 * known));
    }
  }

  @Test
  void fitsThatSayNothingOnlyWiden() {
    ShapeEstimate s = new ShapeEstimate();
    s.setExact();
    s.predict(CHANGE, ERROR);
    double first = s.weight(1, 1);
    for (int frame = 0; frame < 9; frame++) {
      fit(s, new double[4]);
      s.predict(CHANGE, ERROR);
    }
    assertThat(s.weight(1, 1)).isCloseTo(first / 10, within(1e-9 * first));
    assertThat(s.weight(1, 2)).isZero();
  }

  @Test
  void aCopyGoesItsOwnWay() {
    ShapeEstimate s = new ShapeEstimate();
    s.setExact();
    s.predict(CHANGE, ERROR);
    fit(s, new double[] {1, 1, 1, 1});
    ShapeEstimate copy = new ShapeEstimate();
    copy.setTo(s);
    s.predict(CHANGE, ERROR);
    copy.predict(CHANGE, ERROR);
    assertThat(copy.weight(3, 3)).isEqualTo(s.weight(3, 3));
    fit(copy, new double[] {9, 9, 9, 9});
    copy.predict(CHANGE, ERROR);
    s.predict(CHANGE, ERROR);
    assertThat(copy.weight(3, 3)).isGreaterThan(s.weight(3, 3));
  }
}
