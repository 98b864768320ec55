package flarvo.plate;

import flarvo.plate.remap.Light;
import java.io.DataOutputStream;
import java.io.IOException;
import java.util.Arrays;

/** In the decoder's process: an OpenEXR picture, from linear light to a screen's code values. */
final class PictureDecoder {

  private PictureDecoder() {}

  /** Answers with rows of red, green, blue and alpha, from the top. */
  static void answer(Planes p, int width, int height, DataOutputStream out)
      throws IOException, UndecodableException {
    float[] grey = channel(p, "Y");
    float[] red = grey == null ? channel(p, "R") : grey;
    float[] green = grey == null ? channel(p, "G") : grey;
    float[] blue = grey == null ? channel(p, "B") : grey;
    if (red == null && green == null && blue == null) {
      throw new UndecodableException(
          "it has no channel R, G, B or Y, but " + String.join(", ", p.names()));
    }
    float[] alpha = channel(p, "A");
    out.write(DecoderMain.DONE);
    byte[] row = new byte[4 * width];
    Arrays.fill(row, (byte) 255);
    for (int y = 0; y < height; y++) {
      for (int x = 0, i = y * width; x < width; x++, i++) {
        float covers = alpha == null ? 1 : alpha[i];
        row[4 * x] = code(red, i, covers);
        row[4 * x + 1] = code(green, i, covers);
        row[4 * x + 2] = code(blue, i, covers);
        if (alpha != null) {
          row[4 * x + 3] = (byte) Math.round(255 * Math.max(0, Math.min(1, alpha[i])));
        }
      }
      out.write(row);
    }
  }

  private static float[] channel(Planes p, String name) {
    int at = p.names().indexOf(name);
    return at < 0 ? null : p.values().get(at);
  }

  /** What is brighter than white is white; what is no number is black. */
  private static byte code(float[] channel, int i, float covers) {
    float v = channel == null ? 0 : AlphaChange.straight(channel[i], covers);
    return (byte) (v > 0 ? Math.round(255 * Light.encoded(Math.min(v, 1))) : 0);
  }
}
