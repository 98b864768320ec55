package flarvo.plate.remap;

import static java.lang.Math.fma;

/**
 * One pixel made from the pixels around a point, all of them inside the picture. For three
 * channels, as most plates have, the loops over taps and channels are written out, and products are
 * added in one step: with loops it takes two to three times as long. Processors have that step
 * since 2013.
 *
 * <p>In each: {@code at} is the index of the first number of the top left pixel that is looked at,
 * {@code stride} the numbers of a row, {@code to} where the result starts.
 */
final class Kernel {

  private Kernel() {}

  /**
   * Bilinear, three channels.
   *
   * @param tx distance of the point from the left pixel, 0 to 1
   * @param ty from the upper one
   */
  static void bilinear3(float[] src, int at, int stride, float tx, float ty, float[] dst, int to) {
    float a = (1 - tx) * (1 - ty);
    float b = tx * (1 - ty);
    float c = (1 - tx) * ty;
    float d = tx * ty;
    int k = at + stride;
    float red = fma(a, src[at], fma(b, src[at + 3], fma(c, src[k], d * src[k + 3])));
    float green = fma(a, src[at + 1], fma(b, src[at + 4], fma(c, src[k + 1], d * src[k + 4])));
    float blue = fma(a, src[at + 2], fma(b, src[at + 5], fma(c, src[k + 2], d * src[k + 5])));
    dst[to] = red;
    dst[to + 1] = green;
    dst[to + 2] = blue;
  }

  /**
   * Bicubic, three channels; the weights are those of {@link Filter#BICUBIC}.
   *
   * @param t distance of the point from the pixel left of it, 0 to 1
   * @param s from the pixel above it
   */
  static void bicubic3(float[] src, int at, int stride, float t, float s, float[] dst, int to) {
    float u = 1 - t;
    float v = 1 - s;
    float a = -0.5f * t * u * u;
    float b = 1 + t * t * (1.5f * t - 2.5f);
    float c = 1 + u * u * (1.5f * u - 2.5f);
    float d = -0.5f * u * t * t;
    float y0 = -0.5f * s * v * v;
    float y1 = 1 + s * s * (1.5f * s - 2.5f);
    float y2 = 1 + v * v * (1.5f * v - 2.5f);
    float y3 = -0.5f * v * s * s;
    float red = 0;
    float green = 0;
    float blue = 0;
    int k0 = at;
    red = fma(y0, fma(a, src[k0], fma(b, src[k0 + 3], fma(c, src[k0 + 6], d * src[k0 + 9]))), red);
    green =
        fma(
            y0,
            fma(a, src[k0 + 1], fma(b, src[k0 + 4], fma(c, src[k0 + 7], d * src[k0 + 10]))),
            green);
    blue =
        fma(
            y0,
            fma(a, src[k0 + 2], fma(b, src[k0 + 5], fma(c, src[k0 + 8], d * src[k0 + 11]))),
            blue);
    int k1 = k0 + stride;
    red = fma(y1, fma(a, src[k1], fma(b, src[k1 + 3], fma(c, src[k1 + 6], d * src[k1 + 9]))), red);
    green =
        fma(
            y1,
            fma(a, src[k1 + 1], fma(b, src[k1 + 4], fma(c, src[k1 + 7], d * src[k1 + 10]))),
            green);
    blue =
        fma(
            y1,
            fma(a, src[k1 + 2], fma(b, src[k1 + 5], fma(c, src[k1 + 8], d * src[k1 + 11]))),
            blue);
    int k2 = k1 + stride;
    red = fma(y2, fma(a, src[k2], fma(b, src[k2 + 3], fma(c, src[k2 + 6], d * src[k2 + 9]))), red);
    green =
        fma(
            y2,
            fma(a, src[k2 + 1], fma(b, src[k2 + 4], fma(c, src[k2 + 7], d * src[k2 + 10]))),
            green);
    blue =
        fma(
            y2,
            fma(a, src[k2 + 2], fma(b, src[k2 + 5], fma(c, src[k2 + 8], d * src[k2 + 11]))),
            blue);
    int k3 = k2 + stride;
    red = fma(y3, fma(a, src[k3], fma(b, src[k3 + 3], fma(c, src[k3 + 6], d * src[k3 + 9]))), red);
    green =
        fma(
            y3,
            fma(a, src[k3 + 1], fma(b, src[k3 + 4], fma(c, src[k3 + 7], d * src[k3 + 10]))),
            green);
    blue =
        fma(
            y3,
            fma(a, src[k3 + 2], fma(b, src[k3 + 5], fma(c, src[k3 + 8], d * src[k3 + 11]))),
            blue);
    dst[to] = red;
    dst[to + 1] = green;
    dst[to + 2] = blue;
  }

  /**
   * Lanczos, three channels.
   *
   * @param x eight weights across
   * @param y eight weights down
   */
  static void lanczos3(float[] src, int at, int stride, float[] x, float[] y, float[] dst, int to) {
    float a = x[0];
    float b = x[1];
    float c = x[2];
    float d = x[3];
    float e = x[4];
    float f = x[5];
    float g = x[6];
    float h = x[7];
    float red = 0;
    float green = 0;
    float blue = 0;
    int k = at;
    for (int row = 0; row < 8; row++, k += stride) {
      float w = y[row];
      red =
          fma(
              w,
              fma(a, src[k], fma(b, src[k + 3], fma(c, src[k + 6], d * src[k + 9])))
                  + fma(e, src[k + 12], fma(f, src[k + 15], fma(g, src[k + 18], h * src[k + 21]))),
              red);
      green =
          fma(
              w,
              fma(a, src[k + 1], fma(b, src[k + 4], fma(c, src[k + 7], d * src[k + 10])))
                  + fma(e, src[k + 13], fma(f, src[k + 16], fma(g, src[k + 19], h * src[k + 22]))),
              green);
      blue =
          fma(
              w,
              fma(a, src[k + 2], fma(b, src[k + 5], fma(c, src[k + 8], d * src[k + 11])))
                  + fma(e, src[k + 14], fma(f, src[k + 17], fma(g, src[k + 20], h * src[k + 23]))),
              blue);
    }
    dst[to] = red;
    dst[to + 1] = green;
    dst[to + 2] = blue;
  }

  /** Any filter, any number of channels. */
  static void any(
      float[] src, int at, int stride, int n, float[] wx, float[] wy, float[] dst, int to) {
    int taps = wx.length;
    for (int c = 0; c < n; c++) {
      float sum = 0;
      int row = at + c;
      for (int j = 0; j < taps; j++, row += stride) {
        float s = 0;
        int k = row;
        for (int i = 0; i < taps; i++, k += n) {
          s = fma(wx[i], src[k], s);
        }
        sum = fma(wy[j], s, sum);
      }
      dst[to + c] = sum;
    }
  }
}
