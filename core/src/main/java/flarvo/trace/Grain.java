package flarvo.trace;

import boofcv.struct.image.GrayF32;
import java.util.Arrays;

/**
 * The grain of a picture: the median of a second difference both ways, which flat and sloping
 * surfaces leave at zero (after Immerkær, "Fast noise variance estimation", 1996; the median, so
 * that detail does not count).
 */
final class Grain {

  /** Standard deviation of the difference where a pixel's is one: √(1 + 4 + 1)². */
  private static final double GAIN = 6;

  /** Median of the absolute value of a normal variable. */
  private static final double MEDIAN = 0.6745;

  /** Compression and motion are never quite without. */
  private static final double LEAST = 0.8;

  /** So many pixels are enough to know. */
  private static final int SAMPLES = 10_000;

  private Grain() {}

  /** Standard deviation of a pixel's brightness, of 255. */
  static double of(GrayF32 g) {
    int step = Math.max(1, (int) Math.sqrt((double) g.width * g.height / SAMPLES));
    float[] all = new float[(g.width / step + 1) * (g.height / step + 1)];
    int n = 0;
    for (int y = 1; y < g.height - 1; y += step) {
      for (int x = 1; x < g.width - 1; x += step) {
        int i = g.startIndex + y * g.stride + x;
        all[n++] =
            Math.abs(row(g.data, i - g.stride) - 2 * row(g.data, i) + row(g.data, i + g.stride));
      }
    }
    Arrays.sort(all, 0, n);
    return n == 0 ? LEAST : Math.max(LEAST, all[n / 2] / (GAIN * MEDIAN));
  }

  private static float row(float[] d, int i) {
    return d[i - 1] - 2 * d[i] + d[i + 1];
  }
}
