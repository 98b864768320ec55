package flarvo.plate;

import flarvo.report.InputError;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** How many pixels a picture may claim: what a plate has, and what its bytes can hold. */
final class PixelLimits {

  /** 8192 × 6144, more than any camera's plate. */
  private static final long MOST_PIXELS = 8192L * 6144;

  /** The packing of PNG, TIFF and OpenEXR makes at most 1,032 bytes of one. */
  private static final long MOST_PER_BYTE = 1100;

  private static final int WIDEST = 1 << 16;

  private PixelLimits() {}

  static void check(Path file, int width, int height) throws IOException {
    long pixels = (long) width * height;
    if (width < 1
        || height < 1
        || Math.max(width, height) > WIDEST
        || pixels > MOST_PIXELS
        || pixels > MOST_PER_BYTE * Files.size(file)) {
      throw new InputError(
          file.toString(),
          "header",
          "the picture claims " + width + "x" + height + " pixels",
          "Request a new copy");
    }
  }
}
