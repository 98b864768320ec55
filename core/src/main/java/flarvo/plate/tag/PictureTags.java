package flarvo.plate.tag;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;

/** Reads the tags of PNG, JPEG and TIFF. What cannot be carried on is listed, not refused. */
public final class PictureTags {

  /** More than this in one file is no tag. */
  static final int MOST_BYTES = 16 << 20;

  private static final long PNG = 0x89504E470D0A1A0AL;

  private PictureTags() {}

  /**
   * The tags of a picture; none of one that is neither PNG, JPEG nor TIFF.
   *
   * @throws IOException when the file cannot be read
   */
  public static List<PlateTags.Attribute> read(Path file) throws IOException {
    try (FileChannel c = FileChannel.open(file, StandardOpenOption.READ)) {
      if (c.size() < 12 || c.size() > Integer.MAX_VALUE) {
        return List.of();
      }
      ByteBuffer b = c.map(FileChannel.MapMode.READ_ONLY, 0, c.size());
      if (b.getLong(0) == PNG) {
        return PngTags.read(b);
      }
      if ((b.getShort(0) & 0xFFFF) == 0xFFD8) {
        return JpegTags.read(b);
      }
      int mark = b.getInt(0);
      if (mark == 0x49492A00 || mark == 0x4D4D002A) {
        boolean little = mark == 0x49492A00;
        return TiffTags.read(b.order(little ? ByteOrder.LITTLE_ENDIAN : ByteOrder.BIG_ENDIAN));
      }
      return List.of();
    }
  }
}
