package flarvo.format;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/** Looks for bytes eight at a time; after H. Warren, Hacker's Delight, 6-1. */
public final class ByteScan {

  private static final VarHandle EIGHT =
      MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);

  private static final long LOW = 0x0101010101010101L;
  private static final long HIGH = 0x8080808080808080L;

  private ByteScan() {}

  /** Where a byte stands first in {@code from ≤ i < to}; {@code to} where it does not. */
  public static int find(byte[] b, int from, int to, char wanted) {
    long pattern = LOW * wanted;
    int i = from;
    for (; i + 8 <= to; i += 8) {
      long x = (long) EIGHT.get(b, i) ^ pattern;
      long zeros = (x - LOW) & ~x & HIGH;
      if (zeros != 0) {
        return i + (Long.numberOfTrailingZeros(zeros) >> 3);
      }
    }
    while (i < to && b[i] != (byte) wanted) {
      i++;
    }
    return i;
  }

  /** Whether all bytes are below 128. */
  public static boolean isAscii(byte[] b) {
    long all = 0;
    int i = 0;
    for (; i + 8 <= b.length; i += 8) {
      all |= (long) EIGHT.get(b, i);
    }
    for (; i < b.length; i++) {
      all |= b[i];
    }
    return (all & HIGH) == 0;
  }
}
