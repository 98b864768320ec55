package flarvo.format.fbx;

import flarvo.format.ByteCursor;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** Short texts of a binary file. A few dozen words make up most of them; those are kept once. */
final class FbxWords {

  private static final int PLACES = 1 << 12;
  private static final int LONGEST = 40;

  private final byte[][] bytes = new byte[PLACES][];
  private final String[] texts = new String[PLACES];
  private final byte[] read = new byte[LONGEST];

  /** Takes UTF-8 of a length. */
  String take(ByteCursor c, int length) {
    if (length > LONGEST) {
      return c.text(length);
    }
    c.take(read, length);
    int hash = length;
    for (int i = 0; i < length; i++) {
      hash = 31 * hash + read[i];
    }
    int at = (hash ^ hash >>> 12 ^ hash >>> 24) & PLACES - 1;
    if (bytes[at] == null || !Arrays.equals(bytes[at], 0, bytes[at].length, read, 0, length)) {
      bytes[at] = Arrays.copyOf(read, length);
      texts[at] = new String(read, 0, length, StandardCharsets.UTF_8);
    }
    return texts[at];
  }
}
