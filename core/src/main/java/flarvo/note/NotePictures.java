package flarvo.note;

import flarvo.plate.PlateImage;
import flarvo.plate.look.Look;
import flarvo.plate.look.ShownPlate;
import flarvo.report.InputError;
import flarvo.scene.PlateSequence;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Base64;
import java.util.Optional;
import javax.imageio.IIOImage;
import javax.imageio.ImageIO;
import javax.imageio.ImageWriteParam;
import javax.imageio.ImageWriter;
import javax.imageio.stream.ImageOutputStream;

/** Plates as small JPEG pictures inside a page. */
final class NotePictures {

  private NotePictures() {}

  /**
   * One frame as a data URI.
   *
   * @param width in pixels, at most; every pixel is the mean of those it covers
   * @return empty where the frame cannot be read
   */
  static Optional<String> jpeg(PlateSequence plates, int frame, int width, float quality) {
    PlateImage whole;
    try {
      whole = ShownPlate.of(plates, frame, Look.NONE);
    } catch (InputError e) {
      return Optional.empty();
    }
    BufferedImage small = scaled(whole, Math.min(width, whole.width()));
    ImageWriter writer = ImageIO.getImageWritersByFormatName("jpeg").next();
    try (ByteArrayOutputStream out = new ByteArrayOutputStream(1 << 15);
        ImageOutputStream to = ImageIO.createImageOutputStream(out)) {
      ImageWriteParam how = writer.getDefaultWriteParam();
      how.setCompressionMode(ImageWriteParam.MODE_EXPLICIT);
      how.setCompressionQuality(quality);
      writer.setOutput(to);
      writer.write(null, new IIOImage(small, null, null), how);
      to.flush();
      return Optional.of(
          "data:image/jpeg;base64," + Base64.getEncoder().encodeToString(out.toByteArray()));
    } catch (IOException e) {
      throw new UncheckedIOException(e); // it is written to memory
    } finally {
      writer.dispose();
    }
  }

  /** Each pixel is the mean of a box of whole pixels, which loses no line of a thin grid. */
  private static BufferedImage scaled(PlateImage p, int width) {
    int height = Math.max(1, (int) Math.round((double) p.height() * width / p.width()));
    BufferedImage out = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
    for (int y = 0; y < height; y++) {
      int y0 = (int) ((long) y * p.height() / height);
      int y1 = Math.max(y0 + 1, (int) ((long) (y + 1) * p.height() / height));
      for (int x = 0; x < width; x++) {
        int x0 = (int) ((long) x * p.width() / width);
        int x1 = Math.max(x0 + 1, (int) ((long) (x + 1) * p.width() / width));
        long r = 0;
        long g = 0;
        long b = 0;
        for (int v = y0; v < y1; v++) {
          for (int u = x0; u < x1; u++) {
            int c = p.argb()[v * p.width() + u];
            r += c >> 16 & 255;
            g += c >> 8 & 255;
            b += c & 255;
          }
        }
        int n = (y1 - y0) * (x1 - x0);
        out.setRGB(x, y, (int) (r / n) << 16 | (int) (g / n) << 8 | (int) (b / n));
      }
    }
    return out;
  }
}
