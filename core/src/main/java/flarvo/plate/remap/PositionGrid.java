package flarvo.plate.remap;

import flarvo.lens.Direction;
import flarvo.lens.LensMapper;
import flarvo.plate.Raster;
import flarvo.plate.SampleKind;
import java.util.List;

/**
 * For each pixel of the picture that is made, the point of the picture it is made from. Kept as the
 * pixel that the point follows and its distances from the centre of that: a float holds them to
 * 1e-7 px, and whoever samples the picture needs just these. NaN where there is nothing.
 */
public final class PositionGrid {

  /** Pixels across or down of the largest picture that points can be on. */
  static final int LARGEST = Short.MAX_VALUE;

  /** Kept for each pixel. */
  static final int NUMBERS = 3;

  private static final int NOTHING = Short.MIN_VALUE << 16;

  private final int width;
  private final int height;
  private final int[] cells;
  private final float[] parts;

  private PositionGrid(int width, int height) {
    this.width = width;
    this.height = height;
    parts = new float[Math.multiplyExact(2, Math.multiplyExact(width, height))];
    cells = new int[width * height];
  }

  /**
   * @param direction from the picture that is had to the picture that is made
   * @param overscan of the undistorted one
   */
  public static PositionGrid of(LensMapper lens, Direction direction, Overscan overscan) {
    boolean straight = direction == Direction.ORIGINAL_TO_UNDISTORTED;
    int w = straight ? overscan.width() : overscan.original().width();
    int h = straight ? overscan.height() : overscan.original().height();
    double left = straight ? overscan.left() : 0;
    double top = straight ? overscan.top() : 0;
    // The picture that is had begins where its own overscan does.
    double fromX = straight ? 0 : overscan.left();
    double fromY = straight ? 0 : overscan.top();
    PositionGrid g = new PositionGrid(w, h);
    double[] p = new double[2];
    for (int y = 0; y < h; y++) {
      for (int x = 0; x < w; x++) {
        // Its own place, in pixels of the picture without overscan.
        double ox = x + 0.5 - left;
        double oy = y + 0.5 - top;
        // Made undistorted: each of its pixels is looked up in the original, and the other way.
        if (straight) {
          lens.toOriginal(ox, oy, p);
        } else {
          lens.toUndistorted(ox, oy, p);
        }
        g.set(x, y, p[0] + fromX, p[1] + fromY);
      }
    }
    return g;
  }

  /** One that is filled with {@link #set}. */
  static PositionGrid empty(int width, int height) {
    return new PositionGrid(width, height);
  }

  /** Where a pixel is made from; NaN where there is nothing, as are points far off any picture. */
  void set(int x, int y, double fromX, double fromY) {
    int i = y * width + x;
    double left = Math.floor(fromX - 0.5);
    double top = Math.floor(fromY - 0.5);
    if (!(Math.abs(left) <= LARGEST && Math.abs(top) <= LARGEST)) {
      cells[i] = NOTHING;
      return;
    }
    cells[i] = (int) top << 16 | (int) left & 0xffff;
    parts[2 * i] = (float) (fromX - 0.5 - left);
    parts[2 * i + 1] = (float) (fromY - 0.5 - top);
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
    int i = y * width + x;
    boolean none = cells[i] == NOTHING;
    out[0] = none ? Double.NaN : left(cells[i]) + 0.5 + parts[2 * i];
    out[1] = none ? Double.NaN : top(cells[i]) + 0.5 + parts[2 * i + 1];
  }

  /**
   * For each pixel, by rows, the last pixel across and down whose centre the point is not before;
   * see {@link #left} and {@link #top}. Not to be changed.
   */
  int[] cells() {
    return cells;
  }

  /** For each pixel how far the point is from that centre, across and down, 0 to 1. */
  float[] parts() {
    return parts;
  }

  /** Column of a cell. */
  static int left(int cell) {
    return (short) cell;
  }

  /** Row of a cell; above every picture where there is nothing. */
  static int top(int cell) {
    return cell >> 16;
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
    PositionGrid g = new PositionGrid(map.width(), map.height());
    int n = map.channels().size();
    int cx = Math.max(0, map.channel("R"));
    int cy = map.channel("G") < 0 ? 1 : map.channel("G");
    for (int i = 0; i < map.width() * map.height(); i++) {
      float u = map.values()[i * n + cx];
      float v = map.values()[i * n + cy];
      boolean none = !(u >= -0.5f && u <= 1.5f && v >= -0.5f && v <= 1.5f);
      double x = (double) u * fromWidth;
      double y = (bottom ? 1 - (double) v : v) * fromHeight;
      g.set(i % map.width(), i / map.width(), none ? Double.NaN : x, none ? Double.NaN : y);
    }
    return g;
  }
}
