package flarvo.plate;

import flarvo.plate.tag.PictureTags;
import flarvo.plate.tag.TiffTags;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * The shape of a pixel: PNG's {@code pHYs}, JPEG's JFIF segment and TIFF's resolutions state pixels
 * a unit, across and upright. The library's own way would unpack every text in the header, which a
 * hostile file may have blown up.
 */
final class PixelAspect {

  private static final int HEAD = 64 << 10;
  private static final long PNG = 0x89504E470D0A1A0AL;
  private static final int PHYS = 0x70485973;
  private static final int IDAT = 0x49444154;
  private static final int TIFF_LITTLE = 0x49492A00;
  private static final int TIFF_BIG = 0x4D4D002A;
  private static final int JFIF = 0x4A464946;

  private PixelAspect() {}

  /** Width of a pixel by its height; 1 where nothing sensible is stated. */
  static double of(Path file) throws IOException {
    ByteBuffer b;
    try (InputStream in = Files.newInputStream(file)) {
      b = ByteBuffer.wrap(in.readNBytes(HEAD));
    }
    double a = 1;
    if (b.limit() > 8 && b.getLong(0) == PNG) {
      a = png(b);
    } else if (b.limit() > 18 && b.getInt(6) == JFIF) {
      a = ratio(b.getShort(14) & 0xFFFF, b.getShort(16) & 0xFFFF);
    } else if (b.limit() > 8 && (b.getInt(0) == TIFF_LITTLE || b.getInt(0) == TIFF_BIG)) {
      a = TiffTags.pixelAspect(PictureTags.read(file));
    }
    return a > 0.1 && a < 10 ? a : 1;
  }

  private static double png(ByteBuffer b) {
    for (long at = 8; at + 17 <= b.limit(); ) {
      int length = b.getInt((int) at);
      int name = b.getInt((int) at + 4);
      if (name == IDAT || length < 0) {
        return 1;
      }
      if (name == PHYS) {
        return ratio(b.getInt((int) at + 8), b.getInt((int) at + 12));
      }
      at += 12L + length;
    }
    return 1;
  }

  /** More pixels a unit are smaller pixels. */
  private static double ratio(int across, int upright) {
    return across > 0 && upright > 0 ? (double) upright / across : 1;
  }
}
