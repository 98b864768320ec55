package flarvo.plate;

import flarvo.report.InputError;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Path;

/** Whether a PNG reaches its last chunk; the library shows what is there and says nothing. */
final class PngCheck {

  private static final long PNG = 0x89504E470D0A1A0AL;
  private static final int LAST = 0x49454E44;
  private static final int BESIDE_DATA = 12;

  private PngCheck() {}

  /** Files that are no PNG are let through. */
  static void check(Path file) throws IOException {
    try (RandomAccessFile f = new RandomAccessFile(file.toFile(), "r")) {
      if (f.length() < 8 || f.readLong() != PNG) {
        return;
      }
      for (long at = 8; at + BESIDE_DATA <= f.length(); ) {
        f.seek(at);
        int length = f.readInt();
        boolean last = f.readInt() == LAST;
        if (length < 0) {
          break;
        }
        at += BESIDE_DATA + (long) length;
        if (last && at <= f.length()) {
          return;
        }
      }
      throw new InputError(
          file.toString(),
          "byte offset " + f.length(),
          "the picture is cut off",
          "Request a new copy");
    }
  }
}
