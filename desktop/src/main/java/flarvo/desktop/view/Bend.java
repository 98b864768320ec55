package flarvo.desktop.view;

import flarvo.lens.LensMapper;
import java.util.List;

/**
 * Takes places of the undistorted picture to where the shown plate has them, so that marks sit
 * right over an original plate too.
 */
public final class Bend {

  /** The undistorted plate is shown, or there is no lens. */
  static final Bend NONE = new Bend(null, 0);

  private final LensMapper lens;
  private final double untilX;

  /**
   * @param lens over the original, or null
   * @param untilX the original is shown left of this pixel, the undistorted plate from there on
   */
  Bend(LensMapper lens, double untilX) {
    this.lens = lens;
    this.untilX = untilX;
  }

  /**
   * @param px x and y in canonical pixels, changed in place; NaN beyond the lens's fold. What
   *     follows them stays
   */
  public void to(double[] px) {
    if (lens == null) {
      return;
    }
    double x = px[0];
    double y = px[1];
    boolean seen = lens.toOriginal(x, y, px);
    if (x >= untilX && !(seen && px[0] < untilX)) {
      px[0] = x;
      px[1] = y;
    }
  }

  /** The line over the original at which the lens folds; empty where it does not. */
  public List<double[]> fold() {
    return lens == null ? List.of() : lens.foldLine();
  }

  /** Whether anything is bent. */
  public boolean isNone() {
    return lens == null;
  }
}
