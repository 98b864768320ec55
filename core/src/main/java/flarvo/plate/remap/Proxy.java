package flarvo.plate.remap;

import flarvo.plate.Raster;

/** Smaller pictures, each pixel the mean of a square of the larger ones. */
final class Proxy {

  private Proxy() {}

  /** A picture so many times smaller; the last row and column may have fewer pixels in them. */
  static Raster of(Raster from, int times) {
    if (times == 1) {
      return from;
    }
    int w = (from.width() + times - 1) / times;
    int h = (from.height() + times - 1) / times;
    int n = from.channels().size();
    Raster to = Raster.empty(w, h, from.channels(), from.kind());
    for (int y = 0, i = 0; y < h; y++) {
      int y1 = Math.min(from.height(), (y + 1) * times);
      for (int x = 0; x < w; x++) {
        int x1 = Math.min(from.width(), (x + 1) * times);
        int pixels = (y1 - y * times) * (x1 - x * times);
        for (int c = 0; c < n; c++) {
          float s = 0;
          for (int yy = y * times; yy < y1; yy++) {
            for (int xx = x * times; xx < x1; xx++) {
              s += from.at(xx, yy, c);
            }
          }
          to.values()[i++] = s / pixels;
        }
      }
    }
    return to.with(from.tags());
  }
}
