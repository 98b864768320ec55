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
    float p = -0.5f * t * u;
    float q = -0.5f * s * v;
    float a = p * u;
    float b = fma(t * t, fma(1.5f, t, -2.5f), 1);
    float c = fma(u * u, fma(1.5f, u, -2.5f), 1);
    float d = p * t;
    float red = 0;
    float green = 0;
    float blue = 0;
    int k = at;
    float y = q * v;
    red = fma(y, fma(a, src[k], fma(b, src[k + 3], fma(c, src[k + 6], d * src[k + 9]))), red);
    green =
        fma(y, fma(a, src[k + 1], fma(b, src[k + 4], fma(c, src[k + 7], d * src[k + 10]))), green);
    blue =
        fma(y, fma(a, src[k + 2], fma(b, src[k + 5], fma(c, src[k + 8], d * src[k + 11]))), blue);
    k += stride;
    y = fma(s * s, fma(1.5f, s, -2.5f), 1);
    red = fma(y, fma(a, src[k], fma(b, src[k + 3], fma(c, src[k + 6], d * src[k + 9]))), red);
    green =
        fma(y, fma(a, src[k + 1], fma(b, src[k + 4], fma(c, src[k + 7], d * src[k + 10]))), green);
    blue =
        fma(y, fma(a, src[k + 2], fma(b, src[k + 5], fma(c, src[k + 8], d * src[k + 11]))), blue);
    k += stride;
    y = fma(v * v, fma(1.5f, v, -2.5f), 1);
    red = fma(y, fma(a, src[k], fma(b, src[k + 3], fma(c, src[k + 6], d * src[k + 9]))), red);
    green =
        fma(y, fma(a, src[k + 1], fma(b, src[k + 4], fma(c, src[k + 7], d * src[k + 10]))), green);
    blue =
        fma(y, fma(a, src[k + 2], fma(b, src[k + 5], fma(c, src[k + 8], d * src[k + 11]))), blue);
    k += stride;
    y = q * s;
    red = fma(y, fma(a, src[k], fma(b, src[k + 3], fma(c, src[k + 6], d * src[k + 9]))), red);
    green =
        fma(y, fma(a, src[k + 1], fma(b, src[k + 4], fma(c, src[k + 7], d * src[k + 10]))), green);
    blue =
        fma(y, fma(a, src[k + 2], fma(b, src[k + 5], fma(c, src[k + 8], d * src[k + 11]))), blue);
    dst[to] = red;
    dst[to + 1] = green;
    dst[to + 2] = blue;
  }

  /**
   * As {@link #bicubic3}, for two pixels beside each other that are made from pixels beside each
   * other: of the numbers that both look at, each is read once. To the last bit the same.
   *
   * @param t2 distance of the second point from the pixel left of it, the one right of the pixel
   *     that is left of the first point
   */
  static void bicubicPair3(
      float[] src, int at, int stride, float t, float s, float t2, float s2, float[] dst, int to) {
    float u = 1 - t;
    float v = 1 - s;
    float u2 = 1 - t2;
    float v2 = 1 - s2;
    float p = -0.5f * t * u;
    float q = -0.5f * s * v;
    float p2 = -0.5f * t2 * u2;
    float q2 = -0.5f * s2 * v2;
    float a = p * u;
    float b = fma(t * t, fma(1.5f, t, -2.5f), 1);
    float c = fma(u * u, fma(1.5f, u, -2.5f), 1);
    float d = p * t;
    float e = p2 * u2;
    float f = fma(t2 * t2, fma(1.5f, t2, -2.5f), 1);
    float g = fma(u2 * u2, fma(1.5f, u2, -2.5f), 1);
    float h = p2 * t2;
    float red = 0;
    float green = 0;
    float blue = 0;
    float red2 = 0;
    float green2 = 0;
    float blue2 = 0;
    int k = at;
    float y = q * v;
    float y2 = q2 * v2;
    float r0 = src[k];
    float r1 = src[k + 3];
    float r2 = src[k + 6];
    float r3 = src[k + 9];
    float r4 = src[k + 12];
    red = fma(y, fma(a, r0, fma(b, r1, fma(c, r2, d * r3))), red);
    red2 = fma(y2, fma(e, r1, fma(f, r2, fma(g, r3, h * r4))), red2);
    float g0 = src[k + 1];
    float g1 = src[k + 4];
    float g2 = src[k + 7];
    float g3 = src[k + 10];
    float g4 = src[k + 13];
    green = fma(y, fma(a, g0, fma(b, g1, fma(c, g2, d * g3))), green);
    green2 = fma(y2, fma(e, g1, fma(f, g2, fma(g, g3, h * g4))), green2);
    float b0 = src[k + 2];
    float b1 = src[k + 5];
    float b2 = src[k + 8];
    float b3 = src[k + 11];
    float b4 = src[k + 14];
    blue = fma(y, fma(a, b0, fma(b, b1, fma(c, b2, d * b3))), blue);
    blue2 = fma(y2, fma(e, b1, fma(f, b2, fma(g, b3, h * b4))), blue2);
    k += stride;
    y = fma(s * s, fma(1.5f, s, -2.5f), 1);
    y2 = fma(s2 * s2, fma(1.5f, s2, -2.5f), 1);
    r0 = src[k];
    r1 = src[k + 3];
    r2 = src[k + 6];
    r3 = src[k + 9];
    r4 = src[k + 12];
    red = fma(y, fma(a, r0, fma(b, r1, fma(c, r2, d * r3))), red);
    red2 = fma(y2, fma(e, r1, fma(f, r2, fma(g, r3, h * r4))), red2);
    g0 = src[k + 1];
    g1 = src[k + 4];
    g2 = src[k + 7];
    g3 = src[k + 10];
    g4 = src[k + 13];
    green = fma(y, fma(a, g0, fma(b, g1, fma(c, g2, d * g3))), green);
    green2 = fma(y2, fma(e, g1, fma(f, g2, fma(g, g3, h * g4))), green2);
    b0 = src[k + 2];
    b1 = src[k + 5];
    b2 = src[k + 8];
    b3 = src[k + 11];
    b4 = src[k + 14];
    blue = fma(y, fma(a, b0, fma(b, b1, fma(c, b2, d * b3))), blue);
    blue2 = fma(y2, fma(e, b1, fma(f, b2, fma(g, b3, h * b4))), blue2);
    k += stride;
    y = fma(v * v, fma(1.5f, v, -2.5f), 1);
    y2 = fma(v2 * v2, fma(1.5f, v2, -2.5f), 1);
    r0 = src[k];
    r1 = src[k + 3];
    r2 = src[k + 6];
    r3 = src[k + 9];
    r4 = src[k + 12];
    red = fma(y, fma(a, r0, fma(b, r1, fma(c, r2, d * r3))), red);
    red2 = fma(y2, fma(e, r1, fma(f, r2, fma(g, r3, h * r4))), red2);
    g0 = src[k + 1];
    g1 = src[k + 4];
    g2 = src[k + 7];
    g3 = src[k + 10];
    g4 = src[k + 13];
    green = fma(y, fma(a, g0, fma(b, g1, fma(c, g2, d * g3))), green);
    green2 = fma(y2, fma(e, g1, fma(f, g2, fma(g, g3, h * g4))), green2);
    b0 = src[k + 2];
    b1 = src[k + 5];
    b2 = src[k + 8];
    b3 = src[k + 11];
    b4 = src[k + 14];
    blue = fma(y, fma(a, b0, fma(b, b1, fma(c, b2, d * b3))), blue);
    blue2 = fma(y2, fma(e, b1, fma(f, b2, fma(g, b3, h * b4))), blue2);
    k += stride;
    y = q * s;
    y2 = q2 * s2;
    r0 = src[k];
    r1 = src[k + 3];
    r2 = src[k + 6];
    r3 = src[k + 9];
    r4 = src[k + 12];
    red = fma(y, fma(a, r0, fma(b, r1, fma(c, r2, d * r3))), red);
    red2 = fma(y2, fma(e, r1, fma(f, r2, fma(g, r3, h * r4))), red2);
    g0 = src[k + 1];
    g1 = src[k + 4];
    g2 = src[k + 7];
    g3 = src[k + 10];
    g4 = src[k + 13];
    green = fma(y, fma(a, g0, fma(b, g1, fma(c, g2, d * g3))), green);
    green2 = fma(y2, fma(e, g1, fma(f, g2, fma(g, g3, h * g4))), green2);
    b0 = src[k + 2];
    b1 = src[k + 5];
    b2 = src[k + 8];
    b3 = src[k + 11];
    b4 = src[k + 14];
    blue = fma(y, fma(a, b0, fma(b, b1, fma(c, b2, d * b3))), blue);
    blue2 = fma(y2, fma(e, b1, fma(f, b2, fma(g, b3, h * b4))), blue2);
    dst[to] = red;
    dst[to + 1] = green;
    dst[to + 2] = blue;
    dst[to + 3] = red2;
    dst[to + 4] = green2;
    dst[to + 5] = blue2;
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
