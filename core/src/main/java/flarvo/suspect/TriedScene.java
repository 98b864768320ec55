package flarvo.suspect;

import java.util.Arrays;
import java.util.function.Consumer;

/**
 * A file's scene with changes tried on it, and how far its points are then from where they were
 * observed. Immutable; a change gives another.
 *
 * <p>A point p is seen in frame f at pixels
 *
 * <pre>
 *   c = local · R(g)ᵀ · (points · p + offset − position(g))     with g = frameStart + frameStep · f
 *   x = cx' + kx fx · c.x / −c.z        y = cy' − ky fy · c.y / −c.z
 * </pre>
 *
 * with the principal point (cx', cy') scaled about the picture's centre and moved. The pixel is
 * then moved radially by {@code radial} (its share at the picture's corner) and scaled by {@code
 * scale} from the top left corner. What was observed may count y from the other side ({@code
 * flipY}).
 */
final class TriedScene {

  static final double[] IDENTITY = {1, 0, 0, 0, 1, 0, 0, 0, 1};

  /** What is changed of a scene; a copy is made for each change. */
  static final class Knobs implements Cloneable {
    double frameStart;
    double frameStep = 1;
    double[] local = IDENTITY;
    double[] points = IDENTITY;
    double[] offset = {0, 0, 0};
    double kx = 1;
    double ky = 1;
    double shiftX = 1; // factor of the principal point's distance from the centre
    double shiftY = 1;
    double moveX; // pixels
    double moveY;
    double radial;
    double scale = 1; // of projected pixels, from the top left corner
    boolean flipY; // of observed pixels

    @Override
    public Knobs clone() {
      try {
        return (Knobs) super.clone();
      } catch (CloneNotSupportedException e) {
        throw new IllegalStateException(e);
      }
    }
  }

  final FiledScene file;
  final Knobs knobs;

  TriedScene(FiledScene file, Knobs knobs) {
    this.file = file;
    this.knobs = knobs;
  }

  static TriedScene of(FiledScene file) {
    return new TriedScene(file, new Knobs());
  }

  TriedScene with(Consumer<Knobs> change) {
    Knobs k = knobs.clone();
    change.accept(k);
    return new TriedScene(file, k);
  }

  TriedScene with(FiledScene other) {
    return new TriedScene(other, knobs);
  }

  /** One camera, ready to project. */
  static final class View {
    /** World to camera after {@code local}, row by row, and the same of the centre. */
    final double[] m = new double[9];

    final double[] t = new double[3];
    double fx;
    double fy;
    double cx;
    double cy;
    private double scale;
    private double radial;
    private double half; // half the diagonal, pixels
    private double middleX;
    private double middleY;
    private final double[] q = new double[4];
    private final double[] r = new double[9];
    private final double[] c = new double[3];
    private final double[] weights = new double[4];

    private void weigh(double u) {
      double uu = u * u;
      double uuu = uu * u;
      weights[0] = -u / 2 + uu - uuu / 2;
      weights[1] = 1 - 2.5 * uu + 1.5 * uuu;
      weights[2] = u / 2 + 2 * uu - 1.5 * uuu;
      weights[3] = (uuu - uu) / 2;
    }

    /** Projects {@code xyz}; NaN behind the camera. */
    void project(double x, double y, double z, double[] out) {
      double d = -(m[6] * x + m[7] * y + m[8] * z + t[2]);
      out[2] = d;
      if (!(d > 0)) {
        out[0] = Double.NaN;
        out[1] = Double.NaN;
        return;
      }
      double px = cx + fx * (m[0] * x + m[1] * y + m[2] * z + t[0]) / d;
      double py = cy - fy * (m[3] * x + m[4] * y + m[5] * z + t[1]) / d;
      if (radial != 0) {
        double dx = px - middleX;
        double dy = py - middleY;
        double k = 1 + radial * (dx * dx + dy * dy) / (half * half);
        px = middleX + dx * k;
        py = middleY + dy * k;
      }
      out[0] = px * scale;
      out[1] = py * scale;
    }
  }

  /** Sets a view up for an observed frame; false where the file has no camera then. */
  boolean look(int frame, double width, double height, View v) {
    double g = knobs.frameStart + knobs.frameStep * frame - file.first();
    int n = file.count();
    if (!(g >= -1e-9 && g <= n - 1 + 1e-9)) {
      return false;
    }
    int i = Math.min(n - 1, Math.max(0, (int) Math.floor(g + 1e-9)));
    double u = Math.max(0, g - i);
    boolean whole = u <= 1e-9 || i + 1 >= n;
    int j = whole ? i : i + 1;
    if (whole) {
      u = 0;
    }
    // A cubic through four keys (Catmull-Rom): straight lines would miss a fast pan by pixels.
    v.weigh(u);
    double[] q = file.quaternions();
    double[] p = file.positions();
    Arrays.fill(v.q, 0);
    Arrays.fill(v.c, 0);
    for (int key = whole ? 1 : 0; key < (whole ? 2 : 4); key++) {
      int at = Math.min(n - 1, Math.max(0, i - 1 + key));
      double dot = 0;
      for (int a = 0; a < 4; a++) {
        dot += q[4 * i + a] * q[4 * at + a];
      }
      double w = v.weights[key];
      for (int a = 0; a < 4; a++) {
        v.q[a] += (dot < 0 ? -w : w) * q[4 * at + a];
      }
      for (int a = 0; a < 3; a++) {
        v.c[a] += w * p[3 * at + a];
      }
    }
    double length = 0;
    for (int a = 0; a < 4; a++) {
      length += v.q[a] * v.q[a];
    }
    rows(v.q, 1 / Math.sqrt(length), v.r);
    view(v);
    double[] k = file.intrinsics();
    v.fx = knobs.kx * ((1 - u) * k[4 * i] + u * k[4 * j]);
    v.fy = knobs.ky * ((1 - u) * k[4 * i + 1] + u * k[4 * j + 1]);
    double cx = (1 - u) * k[4 * i + 2] + u * k[4 * j + 2];
    double cy = (1 - u) * k[4 * i + 3] + u * k[4 * j + 3];
    v.cx = width / 2 + knobs.shiftX * (cx - width / 2) + knobs.moveX;
    v.cy = height / 2 + knobs.shiftY * (cy - height / 2) + knobs.moveY;
    v.scale = knobs.scale;
    v.radial = knobs.radial;
    v.half = Math.hypot(width, height) / 2;
    v.middleX = width / 2;
    v.middleY = height / 2;
    return true;
  }

  /** {@code m = local · Rᵀ · points}, {@code t = local · Rᵀ · (offset − c)}. */
  private void view(View v) {
    double[] l = knobs.local;
    double[] w = knobs.points;
    for (int a = 0; a < 3; a++) {
      // Of Rᵀ, so the rows of R are taken as columns.
      double b0 = l[3 * a] * v.r[0] + l[3 * a + 1] * v.r[1] + l[3 * a + 2] * v.r[2];
      double b1 = l[3 * a] * v.r[3] + l[3 * a + 1] * v.r[4] + l[3 * a + 2] * v.r[5];
      double b2 = l[3 * a] * v.r[6] + l[3 * a + 1] * v.r[7] + l[3 * a + 2] * v.r[8];
      v.m[3 * a] = b0 * w[0] + b1 * w[3] + b2 * w[6];
      v.m[3 * a + 1] = b0 * w[1] + b1 * w[4] + b2 * w[7];
      v.m[3 * a + 2] = b0 * w[2] + b1 * w[5] + b2 * w[8];
      v.t[a] =
          b0 * (knobs.offset[0] - v.c[0])
              + b1 * (knobs.offset[1] - v.c[1])
              + b2 * (knobs.offset[2] - v.c[2]);
    }
  }

  /** The matrix of a quaternion, row by row: camera to world. */
  private static void rows(double[] q, double k, double[] r) {
    double w = q[0] * k;
    double x = q[1] * k;
    double y = q[2] * k;
    double z = q[3] * k;
    r[0] = 1 - 2 * (y * y + z * z);
    r[1] = 2 * (x * y - w * z);
    r[2] = 2 * (x * z + w * y);
    r[3] = 2 * (x * y + w * z);
    r[4] = 1 - 2 * (x * x + z * z);
    r[5] = 2 * (y * z - w * x);
    r[6] = 2 * (x * z - w * y);
    r[7] = 2 * (y * z + w * x);
    r[8] = 1 - 2 * (x * x + y * y);
  }

  /** Work space of one thread. */
  static final class Bench {
    final View view = new View();
    final double[] out = new double[3];
    double[] errors = new double[64];
  }

  double observedY(Evidence e, int row) {
    return knobs.flipY ? e.picture.height() - e.y[row] : e.y[row];
  }

  /**
   * Mean over the frames of the median error in pixels: strays do not count, a bad frame does.
   * Frames for which the file has no camera are left out, and cost in proportion; where they are
   * more than half, the scene is as far off as can be.
   */
  double error(Evidence e, Bench b) {
    return error(e, b, Double.POSITIVE_INFINITY);
  }

  /** The same where it is no more than a limit; else anything over the limit. */
  double error(Evidence e, Bench b, double limit) {
    double sum = 0;
    int lacking = 0;
    int n = e.frames.length;
    for (int f = 0; f < n; f++) {
      double d = error(e, f, b);
      if (Double.isNaN(d)) {
        lacking++;
      } else {
        sum += d;
        if (sum > limit * n) {
          return sum / n; // frames that are left out only add to it
        }
      }
    }
    return 2 * lacking > n || n == lacking
        ? e.picture.width()
        : sum / (n - lacking) * (1 + (double) lacking / n);
  }

  /** Median error of one frame, no more than the picture's width; NaN without a camera. */
  double error(Evidence e, int f, Bench b) {
    double far = e.picture.width();
    if (!look(e.frames[f], e.picture.width(), e.picture.height(), b.view)) {
      return Double.NaN;
    }
    int n = e.begin[f + 1] - e.begin[f];
    if (b.errors.length < n) {
      b.errors = new double[n];
    }
    double[] xyz = file.points();
    for (int i = 0; i < n; i++) {
      int row = e.begin[f] + i;
      int p = 3 * e.point[row];
      b.view.project(xyz[p], xyz[p + 1], xyz[p + 2], b.out);
      double dx = b.out[0] - e.x[row];
      double dy = b.out[1] - observedY(e, row);
      double d = dx * dx + dy * dy;
      b.errors[i] = d < far * far ? d : far * far; // NaN is far
    }
    return Select.medianRoot(b.errors, n);
  }
}
