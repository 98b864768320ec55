package flarvo.lens.fit;

import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.scene.PictureSize;
import java.util.List;

/**
 * How far points lie off their straight lines once a lens is taken out, counted in pixels of the
 * original picture. Each point's distance in the undistorted picture is divided by how much the
 * lens stretches there across the line, so that a lens which shrinks the picture gains nothing.
 */
final class LineResiduals implements LensSolver.Residuals {

  /** Weights follow from the lines' directions; they hardly change after the first round. */
  private static final int ROUNDS = 2;

  private final List<StraightLine> lines;
  private final PictureSize picture;
  private final int count;

  private final double[] x;
  private final double[] y;
  private final double[] j;
  private final double[] w;

  LineResiduals(List<StraightLine> lines, PictureSize picture) {
    this.lines = lines;
    this.picture = picture;
    this.count = lines.stream().mapToInt(StraightLine::size).sum();
    int longest = lines.stream().mapToInt(StraightLine::size).max().orElse(0);
    x = new double[longest];
    y = new double[longest];
    j = new double[4 * longest];
    w = new double[longest];
  }

  @Override
  public int count() {
    return count;
  }

  /**
   * @param out one number a point, signed, in the lines' order
   * @return false where a point lies beyond the lens's fold
   */
  @Override
  public boolean of(Lens lens, double[] out) {
    LensMapper m = lens.on(picture);
    double[] p = new double[2];
    double[] d = new double[4];
    int at = 0;
    for (StraightLine l : lines) {
      int n = l.size();
      for (int i = 0; i < n; i++) {
        if (!m.toUndistorted(l.x(i), l.y(i), p)) {
          return false;
        }
        m.lastDerivatives(d);
        x[i] = p[0];
        y[i] = p[1];
        System.arraycopy(d, 0, j, 4 * i, 4);
        w[i] = 1;
      }
      line(n, out, at);
      at += n;
    }
    return true;
  }

  private void line(int n, double[] out, int at) {
    for (int round = 0; round < ROUNDS; round++) {
      double sw = 0;
      double mx = 0;
      double my = 0;
      for (int i = 0; i < n; i++) {
        sw += w[i];
        mx += w[i] * x[i];
        my += w[i] * y[i];
      }
      mx /= sw;
      my /= sw;
      double xx = 0;
      double xy = 0;
      double yy = 0;
      for (int i = 0; i < n; i++) {
        double dx = x[i] - mx;
        double dy = y[i] - my;
        xx += w[i] * dx * dx;
        xy += w[i] * dx * dy;
        yy += w[i] * dy * dy;
      }
      double angle = Math.atan2(2 * xy, xx - yy) / 2;
      // From the first point to the last, or the sign of an upright line would be left to chance.
      double along = Math.cos(angle) * (x[n - 1] - x[0]) + Math.sin(angle) * (y[n - 1] - y[0]);
      double nx = along < 0 ? Math.sin(angle) : -Math.sin(angle);
      double ny = along < 0 ? -Math.cos(angle) : Math.cos(angle);
      for (int i = 0; i < n; i++) {
        double gx = j[4 * i] * nx + j[4 * i + 2] * ny;
        double gy = j[4 * i + 1] * nx + j[4 * i + 3] * ny;
        double gg = gx * gx + gy * gy;
        w[i] = 1 / gg;
        out[at + i] = (nx * (x[i] - mx) + ny * (y[i] - my)) / Math.sqrt(gg);
      }
    }
  }
}
