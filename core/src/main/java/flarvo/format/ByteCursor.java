package flarvo.format;

import flarvo.report.InputError;

/** Reads a {@link ByteSource} from front to back. */
public final class ByteCursor {

  private final ByteSource source;
  private int position;

  ByteCursor(ByteSource source, int position) {
    this.source = source;
    this.position = position;
  }

  public int position() {
    return position;
  }

  /** Moves to an offset. */
  public void moveTo(long offset) {
    source.check(offset, 0);
    position = (int) offset;
  }

  /** Moves on by some bytes. */
  public void skip(long count) {
    source.check(position, count);
    position += (int) count;
  }

  /** Takes an unsigned byte. */
  public int u8() {
    int v = source.u8(position);
    position++;
    return v;
  }

  /** Takes little-endian unsigned 16 bits. */
  public int u16() {
    int v = source.u16(position);
    position += 2;
    return v;
  }

  /** Takes little-endian signed 32 bits. */
  public int i32() {
    int v = source.i32(position);
    position += 4;
    return v;
  }

  /** Takes little-endian unsigned 32 bits. */
  public long u32() {
    return i32() & 0xFFFFFFFFL;
  }

  /** Takes little-endian signed 64 bits. */
  public long i64() {
    long v = source.i64(position);
    position += 8;
    return v;
  }

  /** Takes a little-endian IEEE 754 single. */
  public float f32() {
    return Float.intBitsToFloat(i32());
  }

  /** Takes a little-endian IEEE 754 double. */
  public double f64() {
    return Double.longBitsToDouble(i64());
  }

  /** Takes some bytes. */
  public byte[] bytes(long length) {
    byte[] b = source.bytes(position, length);
    position += b.length;
    return b;
  }

  /** Takes some bytes into the beginning of an array. */
  public void take(byte[] to, int length) {
    source.copy(position, to, length);
    position += length;
  }

  /** Takes UTF-8 of a number of bytes. */
  public String text(long length) {
    String s = source.text(position, length);
    position += (int) length;
    return s;
  }

  /**
   * A count of 64 bits whose entries take at least so many bytes each from here on.
   *
   * @param bytesEach may be 0 for what takes no room; then the limit is 2³¹ alone
   */
  public int count64(long bytesEach) {
    int at = position;
    return count(at, i64(), bytesEach);
  }

  /** Takes a count of things that have a size each, and refuses one that the rest cannot hold. */
  public int count32(long bytesEach) {
    int at = position;
    return count(at, u32(), bytesEach);
  }

  private int count(int at, long n, long bytesEach) {
    long room = (long) source.size() - position;
    if (n < 0 || n > Integer.MAX_VALUE || (bytesEach > 0 && n > room / bytesEach)) {
      throw source.garbled(at, "a count of " + Long.toUnsignedString(n) + " is claimed");
    }
    return (int) n;
  }

  /** The error of a file whose contents contradict each other, at this place. */
  public InputError garbled(String cause) {
    return source.garbled(position, cause);
  }
}
