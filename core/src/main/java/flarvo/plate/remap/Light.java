package flarvo.plate.remap;

import flarvo.plate.Raster;
import flarvo.plate.SampleKind;
import java.util.Arrays;
import java.util.Optional;

/** What is averaged between pixels. */
public enum Light {
  /** The numbers as the file has them. */
  ENCODED("encoded"),
  /** Light: whole numbers are taken for sRGB code values, floating ones are linear already. */
  LINEAR("linear");

  private final String code;

  Light(String code) {
    this.code = code;
  }

  public String code() {
    return code;
  }

  /** The light of a name; empty where there is none. */
  public static Optional<Light> of(String code) {
    return Arrays.stream(values()).filter(l -> l.code.equals(code)).findFirst();
  }

  boolean changes(Raster r) {
    return this == LINEAR && !r.kind().isFloating();
  }

  /** sRGB code value to linear light (IEC 61966-2-1). */
  public static float decoded(float v) {
    return v <= 0.04045f ? v / 12.92f : (float) Math.pow((v + 0.055) / 1.055, 2.4);
  }

  /**
   * Linear light to an sRGB code value (IEC 61966-2-1). From a table over the square root, where
   * the course is smooth: within 7e-7, a twentieth of a step of 16 bits.
   */
  public static float encoded(float v) {
    if (!(v > 0 && v < 1)) {
      return (float) exact(v);
    }
    double at = Math.sqrt(v) * STEPS;
    int k = (int) at;
    double f = at - k;
    return (float) (ENCODED_TABLE[k] + f * (ENCODED_TABLE[k + 1] - ENCODED_TABLE[k]));
  }

  private static final int STEPS = 8192;

  private static final double[] ENCODED_TABLE = table();

  private static double[] table() {
    double[] t = new double[STEPS + 2];
    for (int k = 0; k < t.length; k++) {
      double root = k / (double) STEPS;
      t[k] = exact(root * root);
    }
    return t;
  }

  private static double exact(double v) {
    return v <= 0.0031308 ? 12.92 * v : 1.055 * Math.pow(v, 1 / 2.4) - 0.055;
  }

  /** Decodes every number but alpha; whole numbers of a file take few values, so each is kept. */
  static void decode(Raster r) {
    int most = r.kind() == SampleKind.BYTE ? 255 : 65535;
    float[] known = new float[most + 1];
    for (int i = 0; i <= most; i++) {
      known[i] = decoded(i / (float) most);
    }
    float[] v = r.values();
    int n = r.channels().size();
    int alpha = r.channel("A");
    for (int i = 0, c = 0; i < v.length; i++, c = c + 1 == n ? 0 : c + 1) {
      if (c != alpha) {
        float code = v[i] * most;
        int whole = Math.round(code);
        boolean is = whole >= 0 && whole <= most && Math.abs(code - whole) < 0.01f;
        v[i] = is ? known[whole] : decoded(v[i]);
      }
    }
  }

  /** The other way. */
  static void encode(Raster r) {
    float[] v = r.values();
    int n = r.channels().size();
    int alpha = r.channel("A");
    for (int i = 0, c = 0; i < v.length; i++, c = c + 1 == n ? 0 : c + 1) {
      if (c != alpha) {
        v[i] = encoded(v[i]);
      }
    }
  }
}
