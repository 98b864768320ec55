package flarvo.lens;

import flarvo.scene.PictureSize;
import java.util.ArrayList;
import java.util.List;

/**
 * Takes points from one picture to the other, in canonical pixels. Not safe for several threads at
 * once; {@link #copy()} makes another for the next.
 */
public final class LensMapper {

  /** Where a fold is looked for, in half diagonals of the picture: an overscan of 200 %. */
  private static final double FAR = 3;

  private static final int STEPS = 60;
  private static final int HALVINGS = 20;

  private static final int STARTS = 48;

  /** In lens coordinates: what is left when Newton's method has come to rest. */
  private static final double ENOUGH = 1e-14;

  private final Lens lens;
  private final PictureSize picture;
  private final Distortion distortion;
  private final FoldLimit fold;
  private final boolean closedToOriginal;
  private final double cx;
  private final double cy;
  private final double ux;
  private final double uy;
  private final double[] at = new double[6];

  LensMapper(Lens lens, PictureSize picture) {
    this(
        lens,
        picture,
        new FoldLimit(
            lens.distortion(),
            FAR
                * Normalisation.HALF_DIAGONAL.unit(picture, 0)
                / lens.normalisation().unit(picture, lens.focal())));
  }

  private LensMapper(Lens lens, PictureSize picture, FoldLimit fold) {
    this.lens = lens;
    this.picture = picture;
    this.distortion = lens.distortion();
    this.fold = fold;
    this.closedToOriginal = distortion.model().closedForm() == Direction.UNDISTORTED_TO_ORIGINAL;
    double unit = lens.normalisation().unit(picture, lens.focal());
    cx = lens.centreX() * picture.width();
    cy = lens.centreY() * picture.height();
    ux = unit / picture.pixelAspect();
    uy = unit;
  }

  /** The same for another thread. */
  public LensMapper copy() {
    return new LensMapper(lens, picture, fold);
  }

  public Lens lens() {
    return lens;
  }

  public PictureSize picture() {
    return picture;
  }

  /** Pixels of one lens unit, across. */
  double unitX() {
    return ux;
  }

  double unitY() {
    return uy;
  }

  /**
   * Where a point of the undistorted picture stands in the original.
   *
   * @param out two numbers; NaN beyond the fold
   * @return whether there is such a point
   */
  public boolean toOriginal(double x, double y, double[] out) {
    return closedToOriginal ? forward(x, y, out) : inverse(x, y, out);
  }

  /**
   * Where a point of the original picture stands in the undistorted one.
   *
   * @param out two numbers; NaN beyond the fold
   * @return whether there is such a point
   */
  public boolean toUndistorted(double x, double y, double[] out) {
    return closedToOriginal ? inverse(x, y, out) : forward(x, y, out);
  }

  /**
   * Derivatives of {@link #toUndistorted} at the point asked for last, in pixels.
   *
   * @param out four numbers: ∂X/∂x, ∂X/∂y, ∂Y/∂x, ∂Y/∂y
   */
  public void lastDerivatives(double[] out) {
    double aspect = uy / ux;
    if (closedToOriginal) {
      double det = at[2] * at[5] - at[3] * at[4];
      out[0] = at[5] / det;
      out[1] = -at[3] / det / aspect;
      out[2] = -at[4] / det * aspect;
      out[3] = at[2] / det;
    } else {
      out[0] = at[2];
      out[1] = at[3] / aspect;
      out[2] = at[4] * aspect;
      out[3] = at[5];
    }
  }

  private boolean forward(double px, double py, double[] out) {
    double x = (px - cx) / ux;
    double y = (py - cy) / uy;
    if (!fold.holds(x, y)) {
      return nothing(out);
    }
    distortion.apply(x, y, at);
    out[0] = cx + ux * at[0];
    out[1] = cy + uy * at[1];
    return Double.isFinite(out[0]) && Double.isFinite(out[1]) || nothing(out);
  }

  private static boolean nothing(double[] out) {
    out[0] = Double.NaN;
    out[1] = Double.NaN;
    return false;
  }

  private boolean inverse(double px, double py, double[] out) {
    double tx = (px - cx) / ux;
    double ty = (py - cy) / uy;
    if (!Double.isFinite(tx) || !Double.isFinite(ty)) {
      return nothing(out);
    }
    return fold.holds(tx, ty) && newton(tx, ty, 1, out)
        || newton(tx, ty, bestStart(tx, ty), out)
        || nothing(out);
  }

  /** The share of the target's radius at which the closed form comes nearest to the target. */
  private double bestStart(double tx, double ty) {
    double best = 0;
    double least = Double.POSITIVE_INFINITY;
    for (int k = 0; k < STARTS; k++) {
      double share = 4.0 * k / STARTS;
      if (fold.holds(share * tx, share * ty)) {
        distortion.apply(share * tx, share * ty, at);
        double e = length(at[0] - tx, at[1] - ty);
        if (e < least) {
          least = e;
          best = share;
        }
      }
    }
    return best;
  }

  private boolean newton(double tx, double ty, double start, double[] out) {
    double x = start * tx;
    double y = start * ty;
    distortion.apply(x, y, at);
    double error = length(at[0] - tx, at[1] - ty);
    double scale = Math.max(1, length(tx, ty));
    for (int i = 0; i < STEPS && error > 0; i++) {
      double ex = at[0] - tx;
      double ey = at[1] - ty;
      double det = at[2] * at[5] - at[3] * at[4];
      double dx = (at[5] * ex - at[3] * ey) / det;
      double dy = (at[2] * ey - at[4] * ex) / det;
      double t = 1;
      boolean better = false;
      // At rest the last digits only flicker; one try is enough.
      int tries = error < ENOUGH * scale ? 1 : HALVINGS;
      for (int k = 0; k < tries; k++, t /= 2) {
        double nx = x - t * dx;
        double ny = y - t * dy;
        if (fold.holds(nx, ny)) {
          distortion.apply(nx, ny, at);
          double e = length(at[0] - tx, at[1] - ty);
          if (e < error) {
            x = nx;
            y = ny;
            error = e;
            better = true;
            break;
          }
        }
      }
      if (!better) {
        distortion.apply(x, y, at);
        break;
      }
    }
    if (!(error <= ENOUGH * scale)) {
      return false;
    }
    out[0] = cx + ux * x;
    out[1] = cy + uy * y;
    return true;
  }

  /**
   * Lens coordinates are near 1, so nothing overflows, which {@link Math#hypot} spends its time on.
   */
  private static double length(double x, double y) {
    return Math.sqrt(x * x + y * y);
  }

  /** Whether the lens folds anywhere within three half diagonals of its centre. */
  public boolean folds() {
    return !fold.isNone();
  }

  /**
   * The line in the original picture at which the lens folds, in pixels, all round; empty where it
   * does not. Rays without a fold are left out.
   */
  public List<double[]> foldLine() {
    List<double[]> line = new ArrayList<>();
    for (int i = 0; i < FoldLimit.rays() && !fold.isNone(); i++) {
      double r = fold.at(i);
      if (Double.isFinite(r)) {
        double a = 2 * Math.PI * i / FoldLimit.rays();
        double x = r * Math.cos(a);
        double y = r * Math.sin(a);
        if (closedToOriginal) {
          distortion.apply(x, y, at);
          x = at[0];
          y = at[1];
        }
        line.add(new double[] {cx + ux * x, cy + uy * y});
      }
    }
    return line;
  }
}
