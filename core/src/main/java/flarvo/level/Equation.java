package flarvo.level;

import flarvo.scene.Vec3;

/**
 * One line of the least squares: {@code r = e·R(Σ kᵢ pᵢ) + (Σ kᵢ) e·τ − u·known + |pₐ − p_b|},
 * where {@code x = s (R p + τ)} takes solve space to metres and {@code u = 1/s}. Residuals are
 * lengths in solve space, because that is where the trackers' errors are; so no statement is met by
 * making everything small.
 *
 * @param statement its place in the list
 * @param direction in the world; null for a distance, which no turn changes
 * @param points numbers of the trackers
 * @param factors one for each point
 * @param known in metres
 * @param carrier number of the tracker that would have to move by the residual
 */
record Equation(
    int statement,
    Vec3 direction,
    int[] points,
    double[] factors,
    double known,
    int carrier,
    double weight) {

  boolean isDistance() {
    return direction == null;
  }

  /** 1 where the equation knows a place, 0 where it knows only a way between places. */
  double places() {
    double sum = 0;
    for (double f : factors) {
      sum += f;
    }
    return isDistance() ? 0 : Math.abs(sum) < 1e-12 ? 0 : sum;
  }

  /** {@code Σ kᵢ pᵢ} in solve space; for a distance, the way between its ends. */
  Vec3 combined(Vec3[] at) {
    Vec3 v = Vec3.ZERO;
    for (int i = 0; i < points.length; i++) {
      v = v.plus(at[points[i]].times(factors[i]));
    }
    return v;
  }
}
