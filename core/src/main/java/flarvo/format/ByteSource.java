package flarvo.format;

import flarvo.report.InputError;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/**
 * The bytes of a binary file, little-endian, every access checked against what is there. Offsets
 * are those of the whole file, also in a part of it, so that errors name the true place.
 */
public final class ByteSource {

  /** Larger files are mapped and not copied into memory, in bytes. */
  private static final long MAP_BEYOND = 256L << 20;

  private final String file;
  private final ByteBuffer bytes;
  private final long origin;

  private ByteSource(String file, ByteBuffer bytes, long origin) {
    this.file = file;
    this.bytes = bytes.order(ByteOrder.LITTLE_ENDIAN);
    this.origin = origin;
  }

  /** Over an array that must not be changed any more. */
  public static ByteSource of(String file, byte[] bytes) {
    return new ByteSource(file, ByteBuffer.wrap(bytes), 0);
  }

  /**
   * Maps a file.
   *
   * @throws InputError when it is missing or empty
   */
  public static ByteSource open(Path path, ReadLimits limits) {
    String file = path.toString();
    try {
      if (Files.isDirectory(path)) {
        throw new InputError(file, "", "this is a folder", "Name a file in it");
      }
      Regular.check(path);
      try (FileChannel channel = FileChannel.open(path, StandardOpenOption.READ)) {
        long size = channel.size();
        if (size == 0) {
          throw new InputError(file, "", "the file is empty", "Request a new copy");
        }
        if (size > Math.min(limits.largestFile(), Integer.MAX_VALUE)) {
          throw new InputError(
              file, "", "the file is larger than " + limits.largestFile() + " bytes", "");
        }
        if (size > MAP_BEYOND) {
          return new ByteSource(file, channel.map(FileChannel.MapMode.READ_ONLY, 0, size), 0);
        }
        ByteBuffer all = ByteBuffer.allocate((int) size);
        while (all.hasRemaining() && channel.read(all) >= 0) {
          // Reads until the end; a file that shrinks meanwhile leaves zeros that checks will find.
        }
        return new ByteSource(file, all.flip(), 0);
      }
    } catch (NoSuchFileException e) {
      throw Regular.absent(path, e);
    } catch (IOException e) {
      throw new InputError(file, "", "the file cannot be read (" + e.getMessage() + ")", "", e);
    }
  }

  public String file() {
    return file;
  }

  /** Length in bytes. */
  public int size() {
    return bytes.limit();
  }

  /** A part as a source of its own, under the name of what it holds. */
  public ByteSource part(String name, long from, long length) {
    check(from, length);
    return new ByteSource(name, bytes.slice((int) from, (int) length), origin + from);
  }

  /** A cursor that begins at an offset. */
  public ByteCursor at(long offset) {
    check(offset, 0);
    return new ByteCursor(this, (int) offset);
  }

  /** Unsigned byte at an offset. */
  public int u8(long at) {
    check(at, 1);
    return bytes.get((int) at) & 0xFF;
  }

  /** Little-endian unsigned 16 bits at an offset. */
  public int u16(long at) {
    check(at, 2);
    return bytes.getShort((int) at) & 0xFFFF;
  }

  /** Little-endian signed 32 bits at an offset. */
  public int i32(long at) {
    check(at, 4);
    return bytes.getInt((int) at);
  }

  /** Little-endian unsigned 32 bits at an offset. */
  public long u32(long at) {
    return i32(at) & 0xFFFFFFFFL;
  }

  /** Little-endian signed 64 bits at an offset. */
  public long i64(long at) {
    check(at, 8);
    return bytes.getLong((int) at);
  }

  /** Little-endian IEEE 754 single at an offset. */
  public float f32(long at) {
    return Float.intBitsToFloat(i32(at));
  }

  /** Little-endian IEEE 754 double at an offset. */
  public double f64(long at) {
    return Double.longBitsToDouble(i64(at));
  }

  /** A copy of some bytes. */
  public byte[] bytes(long at, long length) {
    check(at, length);
    byte[] out = new byte[(int) length];
    bytes.get((int) at, out);
    return out;
  }

  /** Copies some bytes to the beginning of an array. */
  public void copy(long at, byte[] to, int length) {
    check(at, length);
    bytes.get((int) at, to, 0, length);
  }

  /** UTF-8 of a number of bytes at an offset. */
  public String text(long at, long length) {
    return new String(bytes(at, length), StandardCharsets.UTF_8);
  }

  /** A buffer of its own over some bytes, little-endian, read only. */
  public ByteBuffer buffer(long at, long length) {
    check(at, length);
    return bytes.slice((int) at, (int) length).asReadOnlyBuffer().order(ByteOrder.LITTLE_ENDIAN);
  }

  /** Refuses what reaches out of the file, before anything is allocated for it. */
  public void check(long at, long length) {
    if (at < 0 || length < 0 || length > bytes.limit() || at > bytes.limit() - length) {
      throw error(
          Math.max(0, Math.min(at, bytes.limit())),
          length < 0 || length > bytes.limit()
              ? "a length of " + length + " bytes is claimed, and the file has " + bytes.limit()
              : "the file ends before offset " + (origin + at) + " + " + length,
          "It is truncated or corrupt; request a new copy");
    }
  }

  /** An error at an offset, for the caller to throw. */
  public InputError error(long at, String cause, String advice) {
    return new InputError(file, "byte offset " + (origin + at), cause, advice);
  }

  /** The error of a file whose contents contradict each other. */
  public InputError garbled(long at, String cause) {
    return error(at, cause, "The file is corrupt; request a new copy");
  }
}
