package flarvo.desktop.view;

/**
 * Where the picture lies in its view.
 *
 * @param scale view's pixels for one of the picture's
 */
public record Placed(double left, double top, double scale) {

  public double x(double px) {
    return left + px * scale;
  }

  public double y(double py) {
    return top + py * scale;
  }

  /** Canonical pixel under a place of the view. */
  public double toX(double x) {
    return (x - left) / scale;
  }

  public double toY(double y) {
    return (y - top) / scale;
  }
}
