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

  public void u8(int v) {
    room(1);
    bytes[size++] = (byte) v;
  }

  public void u16(int v) {
    u8(v);
    u8(v >> 8);
  }

  public void i32(int v) {
    room(4);
    put32(size, v);
    size += 4;
  }

  public void i64(long v) {
    room(8);
    put64(size, v);
    size += 8;
  }

  public void f32(float v) {
    i32(Float.floatToRawIntBits(v));
  }

  public void f64(double v) {
    i64(Double.doubleToRawLongBits(v));
  }

  public void bytes(byte[] b) {
    room(b.length);
    System.arraycopy(b, 0, bytes, size, b.length);
    size += b.length;
  }

  public void text(String s) {
    bytes(s.getBytes(StandardCharsets.UTF_8));
  }

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

  public void put64(int at, long v) {
    for (int i = 0; i < 8; i++) {
      bytes[at + i] = (byte) (v >> 8 * i);
    }
  }

  public byte[] toBytes() {
    return Arrays.copyOf(bytes, size);
  }

  public void writeTo(OutputStream out) throws IOException {
    out.write(bytes, 0, size);
  }
}
