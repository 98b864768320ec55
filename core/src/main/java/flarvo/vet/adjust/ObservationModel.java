package flarvo.vet.adjust;

/**
 * One observation: its residual, and how the residual changes with each number that may move. A
 * cursor with scratch of its own; not for several threads.
 */
final class ObservationModel {

  /** What an observation behind its camera counts as, in pixels: far, but no more for being so. */
  static final double BEHIND_PX = 1e4;

  private static final double NEAREST = 1e-9;

  final int cameraSize; // columns of jc
  final int pointSize; // columns of jp
  final int sharedSize; // columns of js

  /** Residual in pixels, x then y. */
  final double[] r = new double[2];

  /** By the camera's turn, its centre, its own focal length: row by row. */
  final double[] jc;

  /** By the point: three coordinates, or two steps on the sphere of directions. */
  final double[] jp;

  /** By what all cameras share: focal factor, principal point, lens terms. */
  final double[] js;

  private final boolean tripod;
  private final boolean ownFocal;
  private final boolean focalFactor;
  private final boolean principal;
  private final int lensTerms;
  private final double[] basis = new double[6];

  ObservationModel(AdjustOptions o) {
    tripod = o.tripod();
    ownFocal = o.focal() == AdjustOptions.Focal.PER_FRAME;
    focalFactor = o.focal() == AdjustOptions.Focal.CONSTANT;
    principal = o.principalPoint();
    lensTerms = o.lensTerms();
    cameraSize = (tripod ? 3 : 6) + (ownFocal ? 1 : 0);
    pointSize = tripod ? 2 : 3;
    sharedSize = (focalFactor ? 1 : 0) + (principal ? 2 : 0) + lensTerms;
    jc = new double[2 * cameraSize];
    jp = new double[2 * pointSize];
    js = new double[2 * sharedSize];
  }

  /** Two directions across a unit direction, both of length one: {@code basis[0..2], [3..5]}. */
  static void across(double x, double y, double z, double[] basis) {
    double ax = Math.abs(x) < 0.6 ? 1 : 0;
    double ay = 1 - ax;
    // a × p, then p × that
    double ux = ay * z;
    double uy = -ax * z;
    double uz = ax * y - ay * x;
    double n = Math.sqrt(ux * ux + uy * uy + uz * uz);
    ux /= n;
    uy /= n;
    uz /= n;
    basis[0] = ux;
    basis[1] = uy;
    basis[2] = uz;
    basis[3] = y * uz - z * uy;
    basis[4] = z * ux - x * uz;
    basis[5] = x * uy - y * ux;
  }

  /**
   * Fills the residual alone.
   *
   * @return its squared length in square pixels
   */
  double residual(Bundle b, int i, int j, double x, double y) {
    double[] m = b.rotation;
    int k = 9 * i;
    double qx = b.point[3 * j];
    double qy = b.point[3 * j + 1];
    double qz = b.point[3 * j + 2];
    if (!tripod) {
      qx -= b.centre[3 * i];
      qy -= b.centre[3 * i + 1];
      qz -= b.centre[3 * i + 2];
    }
    double depth = -(m[k + 2] * qx + m[k + 5] * qy + m[k + 8] * qz);
    if (!(depth > NEAREST)) {
      r[0] = BEHIND_PX;
      r[1] = 0;
      return BEHIND_PX * BEHIND_PX;
    }
    double xn = (m[k] * qx + m[k + 3] * qy + m[k + 6] * qz) / depth;
    double yn = (m[k + 1] * qx + m[k + 4] * qy + m[k + 7] * qz) / depth;
    double rr = xn * xn + yn * yn;
    double g = 1 + rr * (b.k1 + rr * (b.k2 + rr * b.k3));
    r[0] = b.cx[i] + b.focal[i] * xn * g - x;
    r[1] = b.cy[i] - b.focal[i] * b.ratio[i] * yn * g - y;
    return r[0] * r[0] + r[1] * r[1];
  }

  /**
   * Fills the residual and all its derivatives.
   *
   * @return its squared length; derivatives are zero for a point behind its camera
   */
  double derive(Bundle b, int i, int j, double x, double y) {
    double[] m = b.rotation;
    int k = 9 * i;
    double px = b.point[3 * j];
    double py = b.point[3 * j + 1];
    double pz = b.point[3 * j + 2];
    double qx = px;
    double qy = py;
    double qz = pz;
    if (!tripod) {
      qx -= b.centre[3 * i];
      qy -= b.centre[3 * i + 1];
      qz -= b.centre[3 * i + 2];
    }
    double x0 = m[k] * qx + m[k + 3] * qy + m[k + 6] * qz;
    double y0 = m[k + 1] * qx + m[k + 4] * qy + m[k + 7] * qz;
    double z0 = m[k + 2] * qx + m[k + 5] * qy + m[k + 8] * qz;
    double depth = -z0;
    if (!(depth > NEAREST)) {
      java.util.Arrays.fill(jc, 0);
      java.util.Arrays.fill(jp, 0);
      java.util.Arrays.fill(js, 0);
      r[0] = BEHIND_PX;
      r[1] = 0;
      return BEHIND_PX * BEHIND_PX;
    }
    double w = 1 / depth;
    double xn = x0 * w;
    double yn = y0 * w;
    double rr = xn * xn + yn * yn;
    double g = 1 + rr * (b.k1 + rr * (b.k2 + rr * b.k3));
    double dg = 2 * (b.k1 + rr * (2 * b.k2 + rr * 3 * b.k3)); // dg/dx' = dg · x'
    double fx = b.focal[i];
    double fy = fx * b.ratio[i];
    r[0] = b.cx[i] + fx * xn * g - x;
    r[1] = b.cy[i] - fy * yn * g - y;
    // By x' and y', then by c: dx'/dc = (w, 0, x'·w), dy'/dc = (0, w, y'·w).
    double ux = fx * (g + dg * xn * xn);
    double uy = fx * dg * xn * yn;
    double vx = -fy * dg * xn * yn;
    double vy = -fy * (g + dg * yn * yn);
    double a00 = ux * w;
    double a01 = uy * w;
    double a02 = (ux * xn + uy * yn) * w;
    double a10 = vx * w;
    double a11 = vy * w;
    double a12 = (vx * xn + vy * yn) * w;
    int c = cameraSize;
    // dc/dω = [c]×
    jc[0] = a01 * z0 - a02 * y0;
    jc[1] = a02 * x0 - a00 * z0;
    jc[2] = a00 * y0 - a01 * x0;
    jc[c] = a11 * z0 - a12 * y0;
    jc[c + 1] = a12 * x0 - a10 * z0;
    jc[c + 2] = a10 * y0 - a11 * x0;
    // dc/dp = Rᵀ, dc/dt = −Rᵀ
    double p00 = a00 * m[k] + a01 * m[k + 1] + a02 * m[k + 2];
    double p01 = a00 * m[k + 3] + a01 * m[k + 4] + a02 * m[k + 5];
    double p02 = a00 * m[k + 6] + a01 * m[k + 7] + a02 * m[k + 8];
    double p10 = a10 * m[k] + a11 * m[k + 1] + a12 * m[k + 2];
    double p11 = a10 * m[k + 3] + a11 * m[k + 4] + a12 * m[k + 5];
    double p12 = a10 * m[k + 6] + a11 * m[k + 7] + a12 * m[k + 8];
    if (tripod) {
      across(px, py, pz, basis);
      jp[0] = p00 * basis[0] + p01 * basis[1] + p02 * basis[2];
      jp[1] = p00 * basis[3] + p01 * basis[4] + p02 * basis[5];
      jp[2] = p10 * basis[0] + p11 * basis[1] + p12 * basis[2];
      jp[3] = p10 * basis[3] + p11 * basis[4] + p12 * basis[5];
    } else {
      jp[0] = p00;
      jp[1] = p01;
      jp[2] = p02;
      jp[3] = p10;
      jp[4] = p11;
      jp[5] = p12;
      jc[3] = -p00;
      jc[4] = -p01;
      jc[5] = -p02;
      jc[c + 3] = -p10;
      jc[c + 4] = -p11;
      jc[c + 5] = -p12;
    }
    if (ownFocal) {
      jc[c - 1] = xn * g;
      jc[2 * c - 1] = -b.ratio[i] * yn * g;
    }
    int s = 0;
    if (focalFactor) {
      js[0] = fx * xn * g;
      js[sharedSize] = -fy * yn * g;
      s = 1;
    }
    if (principal) {
      js[s] = 1;
      js[s + 1] = 0;
      js[sharedSize + s] = 0;
      js[sharedSize + s + 1] = 1;
      s += 2;
    }
    double power = rr;
    for (int t = 0; t < lensTerms; t++) {
      js[s] = fx * xn * power;
      js[sharedSize + s] = -fy * yn * power;
      power *= rr;
      s++;
    }
    return r[0] * r[0] + r[1] * r[1];
  }
}
