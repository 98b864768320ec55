package flarvo.plate.look;

import flarvo.plate.PlateImage;
import java.util.Optional;

/**
 * How plates are shown: exposure in light, then a look-up table, then gamma.
 *
 * @param stops light is multiplied by two to the power of it; what the plate's code values stand
 *     for is taken to be sRGB, and an OpenEXR picture's numbers are light themselves
 * @param gamma code values are raised to its inverse; 1 leaves them
 * @param table from the plate's code values to the screen's
 */
public record Look(double stops, double gamma, Optional<CubeTable> table) {

  /** As the files have it. */
  public static final Look NONE = new Look(0, 1, Optional.empty());

  /** More would show nothing but black or white. */
  public static final double MOST_STOPS = 12;

  public static final double LEAST_GAMMA = 0.2;
  public static final double MOST_GAMMA = 5;

  public Look {
    if (!(Math.abs(stops) <= MOST_STOPS)) {
      throw new IllegalArgumentException("exposure is −12 to 12 stops");
    }
    if (!(gamma >= LEAST_GAMMA && gamma <= MOST_GAMMA)) {
      throw new IllegalArgumentException("gamma is 0.2 to 5");
    }
  }

  public Look withStops(double s) {
    return new Look(s, gamma, table);
  }

  public Look withGamma(double g) {
    return new Look(stops, g, table);
  }

  public Look withTable(Optional<CubeTable> t) {
    return new Look(stops, gamma, t);
  }

  /** Whether nothing is changed. */
  public boolean isNone() {
    return stops == 0 && gamma == 1 && table.isEmpty();
  }

  /** What light is multiplied by. */
  public double gain() {
    return Math.pow(2, stops);
  }

  /**
   * A picture under this look; the same one where nothing is changed.
   *
   * @param exposed whether the exposure is in the picture already
   */
  public PlateImage of(PlateImage image, boolean exposed) {
    if (isNone() || exposed && gamma == 1 && table.isEmpty()) {
      return image;
    }
    float[] before = before(exposed);
    int[] after = after();
    int[] from = image.argb();
    int[] to = new int[from.length];
    float[] rgb = new float[3];
    for (int i = 0; i < from.length; i++) {
      int c = from[i];
      rgb[0] = before[c >> 16 & 255];
      rgb[1] = before[c >> 8 & 255];
      rgb[2] = before[c & 255];
      if (table.isPresent()) {
        table.get().apply(rgb);
      }
      to[i] =
          c & 0xFF000000
              | after[code(rgb[0])] << 16
              | after[code(rgb[1])] << 8
              | after[code(rgb[2])];
    }
    return new PlateImage(image.width(), image.height(), to);
  }

  private static int code(float v) {
    return v <= 0 ? 0 : v >= 1 ? 255 : (int) (v * 255 + 0.5f);
  }

  /** Code values under the exposure, 0 to 1 and above. */
  private float[] before(boolean exposed) {
    float[] out = new float[256];
    for (int i = 0; i < out.length; i++) {
      double v = i / 255.0;
      out[i] = (float) (exposed || stops == 0 ? v : encoded(decoded(v) * gain()));
    }
    return out;
  }

  private int[] after() {
    int[] out = new int[256];
    for (int i = 0; i < out.length; i++) {
      out[i] = (int) Math.round(255 * Math.pow(i / 255.0, 1 / gamma));
    }
    return out;
  }

  /** sRGB code value to light (IEC 61966-2-1). */
  private static double decoded(double v) {
    return v <= 0.04045 ? v / 12.92 : Math.pow((v + 0.055) / 1.055, 2.4);
  }

  private static double encoded(double v) {
    return v <= 0.0031308 ? 12.92 * v : 1.055 * Math.pow(v, 1 / 2.4) - 0.055;
  }
}
