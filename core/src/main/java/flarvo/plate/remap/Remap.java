package flarvo.plate.remap;

import flarvo.plate.Raster;
import java.util.stream.IntStream;

/**
 * Makes one picture from another through a grid of positions. Beyond the edges of the picture that
 * is had there is nothing: black, and transparent where it has alpha. Half a pixel at its edges is
 * made from the pixels of the edge.
 */
public final class Remap {

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
    Raster to = Raster.empty(grid.width(), grid.height(), from.channels(), from.kind());
    rows(source(from), to, 0, grid.height());
    return finished(from, to);
  }

  /** The whole picture, its rows shared between threads. */
  public Raster apply(Raster from, int threads) {
    Raster to = Raster.empty(grid.width(), grid.height(), from.channels(), from.kind());
    Raster source = source(from);
    int bands = Math.max(1, threads);
    IntStream.range(0, bands)
        .parallel()
        .forEach(
            b -> {
              int first = (int) ((long) grid.height() * b / bands);
              rows(source, to, first, (int) ((long) grid.height() * (b + 1) / bands));
            });
    return finished(from, to);
  }

  /** The picture to sample: in the light that is averaged. */
  Raster source(Raster from) {
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

  /** Some rows; several threads may each have their own. */
  void rows(Raster from, Raster to, int first, int end) {
    int n = from.channels().size();
    int w = from.width();
    int h = from.height();
    int taps = filter.taps();
    float[] wx = new float[taps];
    float[] wy = new float[taps];
    float[] src = from.values();
    float[] dst = to.values();
    int before = filter == Filter.NEAREST ? 0 : filter.first();
    double half = filter == Filter.NEAREST ? 1.5 : 1;
    boolean three = n == 3;
    for (int y = first; y < end; y++) {
      int i = y * grid.width();
      for (int x = 0; x < grid.width(); x++, i++) {
        double sx = grid.x(x, i);
        double sy = grid.y(y, i);
        // Centres of pixels are whole numbers here.
        if (!(sx >= -0.5 && sy >= -0.5 && sx <= w - 0.5 && sy <= h - 0.5)) {
          continue;
        }
        // Not below zero with one more, so that cutting off the fraction is the floor.
        int px = (int) (sx + half) - 1;
        int py = (int) (sy + half) - 1;
        int left = px + before;
        int top = py + before;
        boolean inside = left >= 0 && top >= 0 && left + taps <= w && top + taps <= h;
        int at = (top * w + left) * n;
        if (inside && three && filter == Filter.BICUBIC) {
          Kernel.bicubic3(src, at, w * 3, (float) (sx - px), (float) (sy - py), dst, i * 3);
          continue;
        }
        if (inside && three && filter == Filter.BILINEAR) {
          Kernel.bilinear3(src, at, w * 3, (float) (sx - px), (float) (sy - py), dst, i * 3);
          continue;
        }
        filter.weights(sx - px, wx);
        filter.weights(sy - py, wy);
        if (!inside) {
          atEdge(src, left, top, w, h, n, wx, wy, dst, i * n);
        } else if (three && filter == Filter.LANCZOS) {
          Kernel.lanczos3(src, at, w * 3, wx, wy, dst, i * 3);
        } else {
          Kernel.any(src, at, w * n, n, wx, wy, dst, i * n);
        }
      }
    }
  }

  private static void atEdge(
      float[] src,
      int px,
      int py,
      int w,
      int h,
      int n,
      float[] wx,
      float[] wy,
      float[] dst,
      int to) {
    for (int c = 0; c < n; c++) {
      float sum = 0;
      for (int j = 0; j < wy.length; j++) {
        int y = Math.min(h - 1, Math.max(0, py + j));
        float s = 0;
        for (int i = 0; i < wx.length; i++) {
          int x = Math.min(w - 1, Math.max(0, px + i));
          s += wx[i] * src[(y * w + x) * n + c];
        }
        sum += wy[j] * s;
      }
      dst[to + c] = sum;
    }
  }
}
