package flarvo.plate.look;

import flarvo.plate.AlphaChange;
import flarvo.plate.PlateImage;
import flarvo.plate.PlateReader;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.plate.tag.Alpha;
import flarvo.report.InputError;
import flarvo.scene.PlateSequence;
import java.util.List;

/** A plate as the screen shows it under a look. */
public final class ShownPlate {

  private ShownPlate() {}

  /**
   * Reads a frame for the screen. Exposure acts on an OpenEXR picture's own numbers, so that what
   * was too bright for the screen comes back.
   *
   * @throws InputError when it cannot be read, with the cause
   */
  public static PlateImage of(PlateSequence plates, int frame, Look look) {
    boolean floating = plates.facts().floating();
    if (look.stops() != 0 && floating) {
      try {
        Raster r = RasterReader.read(plates.file(frame));
        return look.of(exposed(r, (float) look.gain()), true);
      } catch (InputError e) {
        // Kinds of OpenEXR that can only be shown: their code values are exposed.
        return look.of(PlateReader.read(plates, frame), false);
      }
    }
    return look.of(PlateReader.read(plates, frame), false);
  }

  private static PlateImage exposed(Raster r, float gain) {
    List<String> names = r.channels();
    int grey = Math.max(0, names.indexOf("Y"));
    int red = names.contains("R") ? names.indexOf("R") : grey;
    int green = names.contains("G") ? names.indexOf("G") : grey;
    int blue = names.contains("B") ? names.indexOf("B") : grey;
    int alpha = names.indexOf("A");
    Raster s = AlphaChange.to(Alpha.STRAIGHT, r); // as the screen wants it
    int[] argb = new int[r.width() * r.height()];
    for (int y = 0; y < r.height(); y++) {
      for (int x = 0; x < r.width(); x++) {
        int a = alpha < 0 ? 255 : Math.round(255 * Math.max(0, Math.min(1, s.at(x, y, alpha))));
        argb[y * r.width() + x] =
            a << 24
                | code(gain * s.at(x, y, red)) << 16
                | code(gain * s.at(x, y, green)) << 8
                | code(gain * s.at(x, y, blue));
      }
    }
    return new PlateImage(r.width(), r.height(), argb);
  }

  /** Light to an sRGB code value of 8 bits (IEC 61966-2-1). */
  private static int code(float light) {
    double v = light <= 0.0031308 ? 12.92 * light : 1.055 * Math.pow(light, 1 / 2.4) - 0.055;
    return v > 0 ? (int) Math.min(255, Math.round(255 * v)) : 0; // also where it is no number
  }
}
