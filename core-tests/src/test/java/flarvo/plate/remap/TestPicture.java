package flarvo.plate.remap;

import flarvo.plate.Raster;
import flarvo.plate.SampleKind;
import java.util.List;

/** A smooth picture that is known between its pixels too. */
public final class TestPicture {

  private TestPicture() {}

  /** The value at a point, in canonical pixels; 0.1 to 0.9. */
  public static double at(double x, double y, int channel) {
    return 0.5
        + 0.2 * Math.sin(x / 9 + channel) * Math.cos(y / 11)
        + 0.2 * Math.sin((x + 2 * y) / 23 + 2 * channel);
  }

  public static Raster of(int width, int height, List<String> channels, SampleKind kind) {
    Raster r = Raster.empty(width, height, channels, kind);
    for (int y = 0, i = 0; y < height; y++) {
      for (int x = 0; x < width; x++) {
        for (int c = 0; c < channels.size(); c++) {
          r.values()[i++] = (float) at(x + 0.5, y + 0.5, c);
        }
      }
    }
    return r;
  }
}
