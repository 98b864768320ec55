package flarvo.plate.remap;

import flarvo.plate.Raster;
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
  static float decoded(float v) {
    return v <= 0.04045f ? v / 12.92f : (float) Math.pow((v + 0.055) / 1.055, 2.4);
  }

  /** Linear light to an sRGB code value (IEC 61966-2-1). */
  static float encoded(float v) {
    return v <= 0.0031308f ? 12.92f * v : (float) (1.055 * Math.pow(v, 1 / 2.4) - 0.055);
  }
}
