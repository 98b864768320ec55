package flarvo.plate;

import flarvo.report.InputError;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Path;

/**
 * Looks through the tags of a TIFF before the library does: it believes every count, and makes room
 * for it. Everything that a tag names must lie in the file, and a pixel may not be a thousand
 * numbers.
 */
final class TiffCheck {

  private static final int MOST_TAGS = 500;
  private static final int MOST_CHANNELS = 8;
  private static final int[] BYTES = {0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8, 4};
  private static final int TILE_WIDTH = 322;
  private static final int TILE_HEIGHT = 323;
  private static final int BITS = 258;
  private static final int CHANNELS = 277;

  private final Path file;
  private final ByteBuffer in;
  private long tileWidth = 1;
  private long tileHeight = 1;

  private TiffCheck(Path file, ByteBuffer in) {
    this.file = file;
    this.in = in;
  }

  /** Files that are no TIFF are let through. */
  static void check(Path file) throws IOException {
    try (RandomAccessFile f = new RandomAccessFile(file.toFile(), "r")) {
      if (f.length() < 8 || f.length() > Integer.MAX_VALUE) {
        return;
      }
      ByteBuffer b = f.getChannel().map(FileChannel.MapMode.READ_ONLY, 0, f.length());
      int mark = b.getInt(0);
      if (mark == 0x49492A00) {
        new TiffCheck(file, b.order(ByteOrder.LITTLE_ENDIAN)).tags();
      } else if (mark == 0x4D4D002A) {
        new TiffCheck(file, b.order(ByteOrder.BIG_ENDIAN)).tags();
      }
    }
  }

  private InputError wrong(long at, String cause) {
    return new InputError(
        file.toString(), "byte offset " + at, cause, "The file is corrupt; request a new copy");
  }

  private void tags() {
    long at = in.getInt(4) & 0xFFFFFFFFL;
    if (at + 2 > in.limit()) {
      throw wrong(4, "the tags lie outside the file");
    }
    int count = in.getShort((int) at) & 0xFFFF;
    if (count > MOST_TAGS || at + 2 + 12L * count > in.limit()) {
      throw wrong(at, count + " tags are claimed");
    }
    for (int i = 0; i < count; i++) {
      tag((int) at + 2 + 12 * i);
    }
    if (tileWidth * tileHeight > 8192L * 6144) {
      throw wrong(at, "tiles of " + tileWidth + "x" + tileHeight + " are claimed");
    }
  }

  private void tag(int at) {
    int tag = in.getShort(at) & 0xFFFF;
    int type = in.getShort(at + 2) & 0xFFFF;
    long n = in.getInt(at + 4) & 0xFFFFFFFFL;
    int each = type < BYTES.length ? BYTES[type] : 0;
    long from = in.getInt(at + 8) & 0xFFFFFFFFL;
    if (each == 0 || n * each > in.limit() || (n * each > 4 && from + n * each > in.limit())) {
      throw wrong(at, "tag " + tag + " claims " + n + " values of kind " + type);
    }
    if (n == 0) {
      return;
    }
    int value = n * each > 4 ? (int) from : at + 8;
    long first =
        each == 2 ? in.getShort(value) & 0xFFFF : each == 4 ? in.getInt(value) & 0xFFFFFFFFL : 0;
    boolean bad =
        tag == BITS && (n > MOST_CHANNELS || first > 64)
            || tag == CHANNELS && first > MOST_CHANNELS;
    if (bad) {
      throw wrong(at, "a pixel of " + Math.max(n, first) + " numbers is claimed");
    }
    tileWidth = tag == TILE_WIDTH ? Math.min(first, 1L << 31) : tileWidth;
    tileHeight = tag == TILE_HEIGHT ? Math.min(first, 1L << 31) : tileHeight;
  }
}
