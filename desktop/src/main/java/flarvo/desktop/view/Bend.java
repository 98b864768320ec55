package flarvo.desktop.view;

import flarvo.lens.LensMapper;
import java.util.List;

/**
 * Takes places of the undistorted picture to where the shown plate has them and back, so that marks
 * sit right over an original plate too. Left of an edge the original plate is shown, right of it
 * the undistorted one.
 */
public final class Bend {

  /** There is no lens. */
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
   * From the undistorted picture to the shown plate.
   *
   * @param px x and y in canonical pixels, changed in place; NaN beyond the lens's fold. What
   *     follows them stays
   */
  public void to(double[] px) {
    if (isNone()) {
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

  /**
   * From the shown plate to the undistorted picture.
   *
   * @param px x and y in canonical pixels, changed in place; NaN beyond the lens's fold
   */
  public void back(double[] px) {
    if (!isNone() && px[0] < untilX) {
      lens.toUndistorted(px[0], px[1], px);
    }
  }

  /**
   * From the original plate to the shown one.
   *
   * @param px x and y in canonical pixels, changed in place; NaN beyond the lens's fold
   */
  public void fromOriginal(double[] px) {
    if (lens != null && px[0] >= untilX) {
      lens.toUndistorted(px[0], px[1], px);
    }
  }

  /** The line over the original at which the lens folds; empty where it does not. */
  public List<double[]> fold() {
    return isNone() ? List.of() : lens.foldLine();
  }

  /** Whether nothing is bent: the undistorted plate is shown, or there is no lens. */
  public boolean isNone() {
    return lens == null || !(untilX > 0);
  }
}
