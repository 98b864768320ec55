package flarvo.format.fbx;

import flarvo.format.ByteCursor;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** Short texts of a binary file. A few dozen words make up most of them; those are kept once. */
final class FbxWords {

  private static final int BITS = 12;
  private static final int PLACES = 1 << BITS;

  /** 2⁶⁴ over the golden ratio: multiplying by it carries every bit to the highest ones. */
  private static final long SPREAD = 0x9E3779B97F4A7C15L;

  private static final VarHandle LONG =
      MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);

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
    int at = place(length);
    if (bytes[at] == null || !Arrays.equals(bytes[at], 0, bytes[at].length, read, 0, length)) {
      bytes[at] = Arrays.copyOf(read, length);
      texts[at] = new String(read, 0, length, StandardCharsets.UTF_8);
    }
    return texts[at];
  }

  /** By the first and last bytes of a word. Two words of one place replace each other. */
  private int place(int length) {
    long h = length;
    if (length >= Long.BYTES) {
      h += 31 * (long) LONG.get(read, 0) ^ (long) LONG.get(read, length - Long.BYTES);
    } else {
      for (int i = 0; i < length; i++) {
        h = 31 * h + read[i];
      }
    }
    return (int) (h * SPREAD >>> Long.SIZE - BITS);
  }
}
