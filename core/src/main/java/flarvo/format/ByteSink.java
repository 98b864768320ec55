package flarvo.format;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** Bytes of a binary file while it is put together, little-endian, growing as they come. */
public final class ByteSink {

  private byte[] bytes;
  private int size;

  public ByteSink() {
    this(1 << 16);
  }

  /**
   * @param expected bytes to begin with; more may come
   */
  public ByteSink(int expected) {
    bytes = new byte[expected];
  }

  public int position() {
    return size;
  }

  private void room(int more) {
    if (more > bytes.length - size) {
      bytes =
          Arrays.copyOf(
              bytes,
              Math.max(
                  Math.addExact(size, more),
                  (int) Math.min(2L * bytes.length, Integer.MAX_VALUE - 16)));
    }
  }

  /** Appends a byte. */
  public void u8(int v) {
    room(1);
    bytes[size++] = (byte) v;
  }

  /** Appends little-endian 16 bits. */
  public void u16(int v) {
    u8(v);
    u8(v >> 8);
  }

  /** Appends little-endian 32 bits. */
  public void i32(int v) {
    room(4);
    put32(size, v);
    size += 4;
  }

  /** Appends little-endian 64 bits. */
  public void i64(long v) {
    room(8);
    put64(size, v);
    size += 8;
  }

  /** Appends a little-endian IEEE 754 single. */
  public void f32(float v) {
    i32(Float.floatToRawIntBits(v));
  }

  /** Appends a little-endian IEEE 754 double. */
  public void f64(double v) {
    i64(Double.doubleToRawLongBits(v));
  }

  /** Appends bytes. */
  public void bytes(byte[] b) {
    room(b.length);
    System.arraycopy(b, 0, bytes, size, b.length);
    size += b.length;
  }

  /** Appends UTF-8, without a length. */
  public void text(String s) {
    bytes(s.getBytes(StandardCharsets.UTF_8));
  }

  /** Appends zero bytes. */
  public void zeros(int count) {
    room(count);
    Arrays.fill(bytes, size, size + count, (byte) 0);
    size += count;
  }

  /** Overwrites what was written before. */
  public void put32(int at, int v) {
    for (int i = 0; i < 4; i++) {
      bytes[at + i] = (byte) (v >> 8 * i);
    }
  }

  /** Overwrites little-endian 64 bits at an offset. */
  public void put64(int at, long v) {
    for (int i = 0; i < 8; i++) {
      bytes[at + i] = (byte) (v >> 8 * i);
    }
  }

  /** A copy of everything so far. */
  public byte[] toBytes() {
    return Arrays.copyOf(bytes, size);
  }

  /** Writes everything so far to a stream. */
  public void writeTo(OutputStream out) throws IOException {
    out.write(bytes, 0, size);
  }
}
