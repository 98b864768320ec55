package flarvo.suspect;

/**
 * Places of points from where they were observed: nearest to all rays. A camera that stays in one
 * place tells directions only; its points are put far away.
 */
final class PointsFromTracks {

  private static final int FEWEST = 3;

  /**
   * A camera that stays within this share of its distance from the origin, or metres, is a tripod.
   */
  private static final double STAYS = 1e-5;

  /** How much farther than that its points are. */
  private static final double FAR = 1e6;

  private PointsFromTracks() {}

  /**
   * The point nearest to the rays of each track, in the file's world: Σ (I − d dᵀ) p = Σ (I − d dᵀ)
   * c.
   *
   * @return three a point, NaN where its rays do not meet, as on a tripod
   */
  static double[] met(TriedScene s, Evidence e, TriedScene.Bench b) {
    return of(s, e, b, false);
  }

  /** The same; on a tripod far away, where the rays go on average. */
  static double[] seen(TriedScene s, Evidence e, TriedScene.Bench b) {
    return of(s, e, b, true);
  }

  private static double[] of(TriedScene s, Evidence e, TriedScene.Bench b, boolean tripods) {
    int n = 0;
    for (int p : e.point) {
      n = Math.max(n, p + 1);
    }
    n = Math.max(n, s.file.points().length / 3);
    double[] a = new double[6 * n]; // upper triangle of a symmetric matrix a point
    double[] r = new double[3 * n];
    int[] count = new int[n];
    double[] towards = new double[3 * n];
    double[] first = null;
    double moved = 0;
    TriedScene bare =
        s.with(
            k -> {
              k.points = TriedScene.IDENTITY;
              k.offset = new double[3];
            });
    TriedScene.View v = b.view;
    for (int f = 0; f < e.frames.length; f++) {
      if (!bare.look(e.frames[f], e.picture.width(), e.picture.height(), v)) {
        continue;
      }
      double[] c = centre(v);
      first = first == null ? c : first;
      for (int k = 0; k < 3; k++) {
        moved = Math.max(moved, Math.abs(c[k] - first[k]));
      }
      for (int row = e.begin[f]; row < e.begin[f + 1]; row++) {
        double ux = (e.x[row] / s.knobs.scale - v.cx) / v.fx;
        double uy = -(s.observedY(e, row) / s.knobs.scale - v.cy) / v.fy;
        // The camera looks along −z; m is a turn, or one that mirrors, so its transpose undoes it.
        double dx = v.m[0] * ux + v.m[3] * uy - v.m[6];
        double dy = v.m[1] * ux + v.m[4] * uy - v.m[7];
        double dz = v.m[2] * ux + v.m[5] * uy - v.m[8];
        double l = 1 / (dx * dx + dy * dy + dz * dz);
        add(a, r, e.point[row], dx, dy, dz, l, c);
        double unit = Math.sqrt(l);
        towards[3 * e.point[row]] += dx * unit;
        towards[3 * e.point[row] + 1] += dy * unit;
        towards[3 * e.point[row] + 2] += dz * unit;
        count[e.point[row]]++;
      }
    }
    double[] out = new double[3 * n];
    double size =
        first == null
            ? 1
            : Math.max(1, Math.abs(first[0]) + Math.abs(first[1]) + Math.abs(first[2]));
    boolean stays = tripods && first != null && moved <= STAYS * size;
    for (int i = 0; i < n; i++) {
      if (stays) {
        double k = count[i] >= FEWEST ? FAR * size / length(towards, 3 * i) : Double.NaN;
        for (int axis = 0; axis < 3; axis++) {
          out[3 * i + axis] = first[axis] + k * towards[3 * i + axis];
        }
        continue;
      }
      solve(a, r, i, count[i] >= FEWEST, out);
    }
    return out;
  }

  private static double length(double[] v, int at) {
    return Math.sqrt(v[at] * v[at] + v[at + 1] * v[at + 1] + v[at + 2] * v[at + 2]);
  }

  private static double[] centre(TriedScene.View v) {
    return new double[] {
      -(v.m[0] * v.t[0] + v.m[3] * v.t[1] + v.m[6] * v.t[2]),
      -(v.m[1] * v.t[0] + v.m[4] * v.t[1] + v.m[7] * v.t[2]),
      -(v.m[2] * v.t[0] + v.m[5] * v.t[1] + v.m[8] * v.t[2])
    };
  }

  private static void add(
      double[] a, double[] r, int i, double dx, double dy, double dz, double l, double[] c) {
    double xx = 1 - dx * dx * l;
    double xy = -dx * dy * l;
    double xz = -dx * dz * l;
    double yy = 1 - dy * dy * l;
    double yz = -dy * dz * l;
    double zz = 1 - dz * dz * l;
    a[6 * i] += xx;
    a[6 * i + 1] += xy;
    a[6 * i + 2] += xz;
    a[6 * i + 3] += yy;
    a[6 * i + 4] += yz;
    a[6 * i + 5] += zz;
    r[3 * i] += xx * c[0] + xy * c[1] + xz * c[2];
    r[3 * i + 1] += xy * c[0] + yy * c[1] + yz * c[2];
    r[3 * i + 2] += xz * c[0] + yz * c[1] + zz * c[2];
  }

  /** Three equations by Cramer's rule. */
  private static void solve(double[] a, double[] r, int i, boolean enough, double[] out) {
    double xx = a[6 * i];
    double xy = a[6 * i + 1];
    double xz = a[6 * i + 2];
    double yy = a[6 * i + 3];
    double yz = a[6 * i + 4];
    double zz = a[6 * i + 5];
    double c0 = yy * zz - yz * yz;
    double c1 = xz * yz - xy * zz;
    double c2 = xy * yz - xz * yy;
    double det = xx * c0 + xy * c1 + xz * c2;
    double size = xx + yy + zz;
    if (!enough || !(det > 1e-9 * size * size * size)) {
      out[3 * i] = Double.NaN;
      out[3 * i + 1] = Double.NaN;
      out[3 * i + 2] = Double.NaN;
      return;
    }
    double d1 = xx * zz - xz * xz;
    double d2 = xy * xz - xx * yz;
    double d3 = xx * yy - xy * xy;
    double x = r[3 * i];
    double y = r[3 * i + 1];
    double z = r[3 * i + 2];
    out[3 * i] = (c0 * x + c1 * y + c2 * z) / det;
    out[3 * i + 1] = (c1 * x + d1 * y + d2 * z) / det;
    out[3 * i + 2] = (c2 * x + d2 * y + d3 * z) / det;
  }
}
