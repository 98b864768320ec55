package flarvo.plate.remap;

import flarvo.plate.Raster;
import flarvo.report.InputError;
import java.util.Arrays;
import java.util.stream.IntStream;

/**
 * Makes one picture from another through a grid of positions. Beyond the edges of the picture that
 * is had there is nothing: black, and transparent where it has alpha. Half a pixel at its edges is
 * made from the pixels of the edge.
 */
public final class Remap {

  /** More than one, so that a thread that is held up does not hold up the other. */
  private static final int BANDS_A_THREAD = 4;

  private final PositionGrid grid;
  private final Filter filter;
  private final Light light;

  public Remap(PositionGrid grid, Filter filter, Light light) {
    this.grid = grid;
    this.filter = filter;
    this.light = light;
  }

  /** The whole picture, on this thread. */
  public Raster apply(Raster from) {
    return apply(from, empty(from), 1);
  }

  /** A picture to make one in, for {@link #apply(Raster, Raster, int)}. */
  public Raster empty(Raster from) {
    return Raster.empty(grid.width(), grid.height(), from.channels(), from.kind());
  }

  /**
   * The whole picture, its rows shared between threads.
   *
   * @param into one that is no longer needed; all its numbers are replaced where it has the size
   *     and the channels of the picture that is made, else a new one is
   */
  public Raster apply(Raster from, Raster into, int threads) {
    Raster source = source(from);
    boolean fits =
        into.width() == grid.width()
            && into.height() == grid.height()
            && into.channels().equals(from.channels());
    Raster to = fits ? into.as(from.kind()) : empty(from);
    if (threads <= 1) {
      rows(source, to, 0, grid.height());
      return finished(from, to);
    }
    int bands = BANDS_A_THREAD * threads;
    IntStream.range(0, bands)
        .parallel()
        .forEach(
            b -> {
              int first = (int) ((long) grid.height() * b / bands);
              rows(source, to, first, (int) ((long) grid.height() * (b + 1) / bands));
            });
    return finished(from, to);
  }

  /**
   * The picture to sample: in the light that is averaged.
   *
   * @throws InputError when it is larger than any plate
   */
  Raster source(Raster from) {
    if (Math.max(from.width(), from.height()) > PositionGrid.LARGEST) {
      throw new InputError(
          "the picture",
          "",
          "it is " + from.width() + "x" + from.height() + " pixels",
          "Pictures of up to " + PositionGrid.LARGEST + " pixels across can be undistorted");
    }
    if (!light.changes(from)) {
      return from;
    }
    float[] v = from.values().clone();
    Raster linear =
        new Raster(from.width(), from.height(), from.channels(), from.kind(), v, from.tags());
    Light.decode(linear);
    return linear;
  }

  Raster finished(Raster from, Raster to) {
    if (light.changes(from)) {
      Light.encode(to);
    }
    return to.with(from.tags());
  }

  /**
   * Some rows; several threads may each have their own. Each of the common filters has a loop of
   * its own, so that the compiler sees only what it does.
   */
  void rows(Raster from, Raster to, int first, int end) {
    int n = from.channels().size();
    if (n == 3 && filter == Filter.BICUBIC) {
      bicubicRows(from, to, first, end);
    } else if (n == 3 && filter == Filter.BILINEAR) {
      bilinearRows(from, to, first, end);
    } else {
      otherRows(from, to, first, end);
    }
  }

  private void otherRows(Raster from, Raster to, int first, int end) {
    int n = from.channels().size();
    int w = from.width();
    int h = from.height();
    int taps = filter.taps();
    float[] wx = new float[taps];
    float[] wy = new float[taps];
    float[] src = from.values();
    float[] dst = to.values();
    int[] cells = grid.cells();
    float[] parts = grid.parts();
    boolean nearest = filter == Filter.NEAREST;
    int before = nearest ? 0 : filter.first();
    int stride = w * n;
    boolean lanczos = n == 3 && filter == Filter.LANCZOS;
    for (int i = first * grid.width(), last = end * grid.width(); i < last; i++) {
      int left = PositionGrid.left(cells[i]) + before;
      int top = PositionGrid.top(cells[i]) + before;
      float tx = parts[2 * i];
      float ty = parts[2 * i + 1];
      if (nearest) {
        left += tx < 0.5f ? 0 : 1;
        top += ty < 0.5f ? 0 : 1;
      }
      if ((left | top | w - taps - left | h - taps - top) < 0) { // one of them is outside
        atEdge(from, i, left, top, wx, wy, dst);
      } else {
        filter.weights(tx, wx);
        filter.weights(ty, wy);
        if (lanczos) {
          Kernel.lanczos3(src, top * stride + left * 3, stride, wx, wy, dst, i * 3);
        } else {
          Kernel.any(src, top * stride + left * n, stride, n, wx, wy, dst, i * n);
        }
      }
    }
  }

  private void bilinearRows(Raster from, Raster to, int first, int end) {
    int w = from.width();
    int h = from.height();
    float[] wx = new float[2];
    float[] wy = new float[2];
    float[] src = from.values();
    float[] dst = to.values();
    int[] cells = grid.cells();
    float[] parts = grid.parts();
    int stride = w * 3;
    for (int i = first * grid.width(), last = end * grid.width(); i < last; i++) {
      int left = PositionGrid.left(cells[i]);
      int top = PositionGrid.top(cells[i]);
      if ((left | top | w - 2 - left | h - 2 - top) < 0) { // one of them is outside
        atEdge(from, i, left, top, wx, wy, dst);
      } else {
        int at = top * stride + left * 3;
        Kernel.bilinear3(src, at, stride, parts[2 * i], parts[2 * i + 1], dst, i * 3);
      }
    }
  }

  /** Two pixels at a time where they are made from neighbours. */
  private void bicubicRows(Raster from, Raster to, int first, int end) {
    int w = from.width();
    int h = from.height();
    float[] wx = new float[4];
    float[] wy = new float[4];
    float[] src = from.values();
    float[] dst = to.values();
    int[] cells = grid.cells();
    float[] parts = grid.parts();
    int stride = w * 3;
    int last = end * grid.width();
    for (int i = first * grid.width(); i < last; i++) {
      int left = PositionGrid.left(cells[i]) - 1;
      int top = PositionGrid.top(cells[i]) - 1;
      if ((left | top | w - 4 - left | h - 4 - top) < 0) { // one of them is outside
        atEdge(from, i, left, top, wx, wy, dst);
        continue;
      }
      int at = top * stride + left * 3;
      float tx = parts[2 * i];
      float ty = parts[2 * i + 1];
      if (i + 1 < last && cells[i + 1] == cells[i] + 1 && left < w - 4) {
        float tx2 = parts[2 * i + 2];
        float ty2 = parts[2 * i + 3];
        Kernel.bicubicPair3(src, at, stride, tx, ty, tx2, ty2, dst, i * 3);
        i++;
      } else {
        Kernel.bicubic3(src, at, stride, tx, ty, dst, i * 3);
      }
    }
  }

  /** A pixel made from some that are not there: those at the edge are taken for them. */
  private void atEdge(
      Raster from, int pixel, int left, int top, float[] wx, float[] wy, float[] dst) {
    int w = from.width();
    int h = from.height();
    int n = from.channels().size();
    // Centres of pixels are whole numbers here.
    float tx = grid.parts()[2 * pixel];
    float ty = grid.parts()[2 * pixel + 1];
    double sx = PositionGrid.left(grid.cells()[pixel]) + (double) tx;
    double sy = PositionGrid.top(grid.cells()[pixel]) + (double) ty;
    if (!(sx >= -0.5 && sy >= -0.5 && sx <= w - 0.5 && sy <= h - 0.5)) {
      Arrays.fill(dst, pixel * n, pixel * n + n, 0);
      return;
    }
    filter.weights(tx, wx);
    filter.weights(ty, wy);
    float[] src = from.values();
    for (int c = 0; c < n; c++) {
      float sum = 0;
      for (int j = 0; j < wy.length; j++) {
        int y = Math.min(h - 1, Math.max(0, top + j));
        float s = 0;
        for (int i = 0; i < wx.length; i++) {
          int x = Math.min(w - 1, Math.max(0, left + i));
          s += wx[i] * src[(y * w + x) * n + c];
        }
        sum += wy[j] * s;
      }
      dst[pixel * n + c] = sum;
    }
  }
}
