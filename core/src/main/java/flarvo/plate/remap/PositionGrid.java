package flarvo.plate.remap;

import flarvo.lens.Direction;
import flarvo.lens.LensMapper;
import flarvo.plate.Raster;
import flarvo.plate.SampleKind;
import java.util.List;

/**
 * For each pixel of the picture that is made, the point of the picture it is made from. Kept as
 * distances from the pixel's own place, so that floats hold them to 1e-5 px. NaN where there is
 * nothing.
 */
public final class PositionGrid {

  private final int width;
  private final int height;
  private final double shiftX;
  private final double shiftY;
  private final float[] moves;

  private PositionGrid(int width, int height, double shiftX, double shiftY) {
    this.width = width;
    this.height = height;
    this.shiftX = shiftX;
    this.shiftY = shiftY;
    moves = new float[Math.multiplyExact(2, Math.multiplyExact(width, height))];
  }

  /**
   * @param direction from the picture that is had to the picture that is made
   * @param overscan of the undistorted one
   */
  public static PositionGrid of(LensMapper lens, Direction direction, Overscan overscan) {
    boolean straight = direction == Direction.ORIGINAL_TO_UNDISTORTED;
    int w = straight ? overscan.width() : overscan.original().width();
    int h = straight ? overscan.height() : overscan.original().height();
    double sign = straight ? -1 : 1;
    PositionGrid g = new PositionGrid(w, h, sign * overscan.left(), sign * overscan.top());
    double[] p = new double[2];
    for (int y = 0, i = 0; y < h; y++) {
      for (int x = 0; x < w; x++) {
        // Its own place, in pixels of the picture without overscan.
        double ox = x + 0.5 + (straight ? g.shiftX : 0);
        double oy = y + 0.5 + (straight ? g.shiftY : 0);
        // Made undistorted: each of its pixels is looked up in the original, and the other way.
        if (straight) {
          lens.toOriginal(ox, oy, p);
        } else {
          lens.toUndistorted(ox, oy, p);
        }
        g.moves[i++] = (float) (p[0] - ox);
        g.moves[i++] = (float) (p[1] - oy);
      }
    }
    return g;
  }

  /** One that is filled with {@link #set}. */
  static PositionGrid empty(int width, int height) {
    return new PositionGrid(width, height, 0, 0);
  }

  /** Where a pixel is made from; NaN where there is nothing. */
  void set(int x, int y, double fromX, double fromY) {
    int i = 2 * (y * width + x);
    moves[i] = (float) (fromX - x - 0.5 - shiftX);
    moves[i + 1] = (float) (fromY - y - 0.5 - shiftY);
  }

  public int width() {
    return width;
  }

  public int height() {
    return height;
  }

  /**
   * Where pixel x, y is made from, in pixels of the picture that is had.
   *
   * @param out two numbers; NaN where there is nothing
   */
  public void at(int x, int y, double[] out) {
    int i = 2 * (y * width + x);
    out[0] = x + 0.5 + shiftX + moves[i];
    out[1] = y + 0.5 + shiftY + moves[i + 1];
  }

  double x(int x, int i) {
    return x + shiftX + moves[2 * i];
  }

  double y(int y, int i) {
    return y + shiftY + moves[2 * i + 1];
  }

  /**
   * The grid as a picture of two channels for other programs: R across, G up or down, as shares of
   * the picture that is had, 0 to 1 from edge to edge. Where there is nothing, both are −1.
   *
   * @param fromWidth of the picture that is had, pixels
   * @param fromHeight of the picture that is had, pixels
   * @param bottom whether G counts from the bottom, and not from the top
   */
  public Raster map(int fromWidth, int fromHeight, boolean bottom) {
    Raster r = Raster.empty(width, height, List.of("R", "G"), SampleKind.FLOAT);
    double[] p = new double[2];
    for (int y = 0, i = 0; y < height; y++) {
      for (int x = 0; x < width; x++) {
        at(x, y, p);
        boolean none = Double.isNaN(p[0]);
        double v = p[1] / fromHeight;
        r.values()[i++] = none ? -1 : (float) (p[0] / fromWidth);
        r.values()[i++] = none ? -1 : (float) (bottom ? 1 - v : v);
      }
    }
    return r;
  }

  /** The grid that a map of two channels means; the other way from {@link #map}. */
  public static PositionGrid of(Raster map, int fromWidth, int fromHeight, boolean bottom) {
    PositionGrid g = new PositionGrid(map.width(), map.height(), 0, 0);
    int n = map.channels().size();
    int cx = Math.max(0, map.channel("R"));
    int cy = map.channel("G") < 0 ? 1 : map.channel("G");
    for (int i = 0; i < map.width() * map.height(); i++) {
      float u = map.values()[i * n + cx];
      float v = map.values()[i * n + cy];
      boolean none = !(u >= -0.5f && u <= 1.5f && v >= -0.5f && v <= 1.5f);
      double x = (double) u * fromWidth;
      double y = (bottom ? 1 - (double) v : v) * fromHeight;
      int column = i % map.width();
      int row = i / map.width();
      g.moves[2 * i] = none ? Float.NaN : (float) (x - column - 0.5);
      g.moves[2 * i + 1] = none ? Float.NaN : (float) (y - row - 0.5);
    }
    return g;
  }
}
