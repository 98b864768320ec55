package flarvo.plate.remap;

import java.util.Arrays;
import java.util.Optional;

/** How a value between pixels is made of those around it. */
public enum Filter {
  NEAREST("nearest", 1),
  BILINEAR("bilinear", 2),
  /** Catmull–Rom, exact for quadratic courses (R. Keys, 1981, with a = −1/2). */
  BICUBIC("bicubic", 4),
  /** Four lobes, normalised to 1. */
  LANCZOS("lanczos", 8);

  private final String code;
  private final int taps;

  Filter(String code, int taps) {
    this.code = code;
    this.taps = taps;
  }

  public String code() {
    return code;
  }

  /** Pixels in a row that are looked at. */
  int taps() {
    return taps;
  }

  /** The pixel before the point that the first weight belongs to, counted from the point's own. */
  int first() {
    return 1 - taps / 2;
  }

  /**
   * Weights of the pixels from {@link #first()} on.
   *
   * @param t distance of the point from the pixel at or before it, 0 to 1
   */
  void weights(double t, float[] out) {
    switch (this) {
      case NEAREST -> out[0] = 1;
      case BILINEAR -> {
        out[0] = (float) (1 - t);
        out[1] = (float) t;
      }
      case BICUBIC -> {
        double u = 1 - t;
        out[0] = (float) (-0.5 * t * u * u);
        out[1] = (float) (1 + t * t * (1.5 * t - 2.5));
        out[2] = (float) (1 + u * u * (1.5 * u - 2.5));
        out[3] = (float) (-0.5 * u * t * t);
      }
      case LANCZOS -> lanczos(t, out);
    }
  }

  /** Steps of the table of Lanczos weights; between them they go linearly, within 1e-6. */
  private static final int STEPS = 4096;

  private static final float[] LANCZOS_TABLE = lanczosTable();

  private static float[] lanczosTable() {
    float[] table = new float[8 * (STEPS + 2)];
    double[] w = new double[8];
    for (int k = 0; k <= STEPS + 1; k++) {
      double sum = 0;
      for (int i = 0; i < 8; i++) {
        double x = Math.PI * (k / (double) STEPS + 3 - i);
        w[i] = Math.abs(x) < 1e-9 ? 1 : 4 * Math.sin(x) * Math.sin(x / 4) / (x * x);
        sum += w[i];
      }
      for (int i = 0; i < 8; i++) {
        table[8 * k + i] = (float) (w[i] / sum);
      }
    }
    return table;
  }

  private static void lanczos(double t, float[] out) {
    double at = t * STEPS;
    int k = (int) at;
    float f = (float) (at - k);
    int row = 8 * k;
    for (int i = 0; i < 8; i++, row++) {
      float w = LANCZOS_TABLE[row];
      out[i] = w + f * (LANCZOS_TABLE[row + 8] - w);
    }
  }

  /** The filter of a name; empty where there is none. */
  public static Optional<Filter> of(String code) {
    return Arrays.stream(values()).filter(f -> f.code.equals(code)).findFirst();
  }
}
