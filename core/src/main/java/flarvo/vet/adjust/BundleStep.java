package flarvo.vet.adjust;

import flarvo.scene.Rotation;
import java.util.Arrays;

/**
 * One step of an adjustment, taken: small turns, shifts and changes of optics become new numbers.
 *
 * @param camera numbers of the cameras, one camera after the other, then the shared ones
 * @param point numbers of the points
 */
record BundleStep(AdjustOptions options, int cameraSize, double[] camera, double[] point) {

  /** A focal length changes by a factor of e to this in one step at most. */
  private static final double MOST_ZOOM = 0.5;

  /** Moves a bundle in place. */
  void move(Bundle b) {
    for (int i = 0; i < b.cameras; i++) {
      int o = i * cameraSize;
      turn(b.rotation, 9 * i, camera[o], camera[o + 1], camera[o + 2]);
      if (!options.tripod()) {
        for (int a = 0; a < 3; a++) {
          b.centre[3 * i + a] += camera[o + 3 + a];
        }
      }
      if (options.focal() == AdjustOptions.Focal.PER_FRAME) {
        b.focal[i] = Math.max(b.focal[i] + camera[o + cameraSize - 1], b.focal[i] / 2);
      }
    }
    int s = cameraSize * b.cameras;
    if (options.focal() == AdjustOptions.Focal.CONSTANT) {
      double factor = Math.exp(Math.max(-MOST_ZOOM, Math.min(MOST_ZOOM, camera[s])));
      for (int i = 0; i < b.cameras; i++) {
        b.focal[i] *= factor;
      }
      s++;
    }
    if (options.principalPoint()) {
      for (int i = 0; i < b.cameras; i++) {
        b.cx[i] += camera[s];
        b.cy[i] += camera[s + 1];
      }
      s += 2;
    }
    if (options.lensTerms() > 0) {
      b.k1 += camera[s];
    }
    if (options.lensTerms() > 1) {
      b.k2 += camera[s + 1];
    }
    if (options.lensTerms() > 2) {
      b.k3 += camera[s + 2];
    }
    for (int j = 0; j < b.points; j++) {
      if (options.tripod()) {
        aim(b.point, 3 * j, point[2 * j], point[2 * j + 1]);
      } else {
        for (int a = 0; a < 3; a++) {
          b.point[3 * j + a] += point[3 * j + a];
        }
      }
    }
  }

  /** Turns a rotation by a small one on its right, and keeps it a rotation. */
  static void turn(double[] m, int at, double x, double y, double z) {
    double half = Math.sqrt(x * x + y * y + z * z) / 2;
    double k = half < 1e-8 ? 0.5 : Math.sin(half) / (2 * half);
    Rotation small = Rotation.normalized(Math.cos(half), k * x, k * y, k * z);
    Rotation now = Rotation.fromRows(Arrays.copyOfRange(m, at, at + 9));
    System.arraycopy(now.after(small).toRows(), 0, m, at, 9);
  }

  /** A step across a direction, which stays of length one. */
  private static void aim(double[] p, int at, double a, double b) {
    double[] basis = new double[6];
    ObservationModel.across(p[at], p[at + 1], p[at + 2], basis);
    double n = 0;
    for (int i = 0; i < 3; i++) {
      p[at + i] += a * basis[i] + b * basis[3 + i];
      n += p[at + i] * p[at + i];
    }
    n = Math.sqrt(n);
    for (int i = 0; i < 3; i++) {
      p[at + i] /= n;
    }
  }
}
