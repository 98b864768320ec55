package flarvo.format.usd;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import net.jpountz.lz4.LZ4Compressor;
import net.jpountz.lz4.LZ4Exception;
import net.jpountz.lz4.LZ4Factory;
import net.jpountz.lz4.LZ4SafeDecompressor;

/**
 * The two compressions of a crate. Blocks:
 *
 * <pre>
 *   block = 0 lz4-block  |  n ( length:int32 lz4-block ){n}
 * </pre>
 *
 * Integers: differences to the one before; the commonest difference is stored once, then two bits
 * an integer (common, or one of three widths), then the differences that are not the common one.
 * The whole is compressed as a block.
 */
final class UsdCompression {

  /** Thrown for garbage; the caller knows the place. */
  static final class Garbled extends Exception {
    private static final long serialVersionUID = 1L;

    Garbled(String message) {
      super(message);
    }
  }

  /** What one chunk unpacks to at most, in bytes. */
  private static final int CHUNK = 0x7E000000;

  private static final LZ4SafeDecompressor UNPACK = LZ4Factory.safeInstance().safeDecompressor();
  private static final LZ4Compressor PACK = LZ4Factory.safeInstance().fastCompressor();

  private UsdCompression() {}

  /** Unpacks to exactly so many bytes or fewer; the length found is the array's. */
  static byte[] unpack(byte[] packed, int most) throws Garbled {
    if (packed.length < 1) {
      throw new Garbled("a packed block is empty");
    }
    int chunks = packed[0];
    byte[] out = new byte[most];
    int length = 0;
    try {
      if (chunks == 0) {
        length = UNPACK.decompress(packed, 1, packed.length - 1, out, 0, most);
      } else {
        ByteBuffer in = ByteBuffer.wrap(packed).order(ByteOrder.LITTLE_ENDIAN);
        in.position(1);
        for (int i = 0; i < chunks; i++) {
          int size = in.remaining() >= 4 ? in.getInt() : -1;
          if (size < 0 || size > in.remaining()) {
            throw new Garbled("a packed chunk of " + size + " bytes is claimed");
          }
          length +=
              UNPACK.decompress(
                  packed, in.position(), size, out, length, Math.min(CHUNK, most - length));
          in.position(in.position() + size);
        }
      }
    } catch (LZ4Exception e) {
      throw new Garbled("a packed block cannot be unpacked");
    }
    return length == most ? out : Arrays.copyOf(out, length);
  }

  static byte[] pack(byte[] plain) {
    byte[] out = new byte[1 + PACK.maxCompressedLength(plain.length)];
    int n = PACK.compress(plain, 0, plain.length, out, 1, out.length - 1);
    return Arrays.copyOf(out, n + 1); // one chunk: nothing here comes near its limit
  }

  /** Bytes that so many 32-bit integers may take before the block compression. */
  private static long room(long count, int width) {
    return width + (count * 2 + 7) / 8 + count * width;
  }

  /** Fewest packed bytes that so many integers can be held in; no ratio beats this one. */
  static long leastPacked(long count) {
    return count / 4 / 255;
  }

  static int[] unpackInts(byte[] packed, int count) throws Garbled {
    int[] out = new int[count];
    unpackInts(packed, count, 4, out, null);
    return out;
  }

  static long[] unpackLongs(byte[] packed, int count) throws Garbled {
    long[] out = new long[count];
    unpackInts(packed, count, 8, null, out);
    return out;
  }

  /**
   * @param width 4 or 8, the size of the integers; it says which of the two arrays is filled
   */
  private static void unpackInts(byte[] packed, int count, int width, int[] narrow, long[] wide)
      throws Garbled {
    if (count == 0) {
      return;
    }
    long most = room(count, width);
    if (most > Integer.MAX_VALUE - 16) {
      throw new Garbled(count + " integers are claimed");
    }
    // What cannot come out of so few bytes is not allocated for.
    byte[] plain = unpack(packed, (int) Math.min(most, 64 + 256L * packed.length));
    ByteBuffer in = ByteBuffer.wrap(plain).order(ByteOrder.LITTLE_ENDIAN);
    int at = width + (count * 2 + 7) / 8;
    if (plain.length < at) {
      throw new Garbled("packed integers end early");
    }
    long common = width == 4 ? in.getInt(0) : in.getLong(0);
    long value = 0;
    for (int i = 0; i < count; i++) {
      int code = plain[width + i / 4] >> (2 * (i % 4)) & 3;
      int size = code == 0 ? 0 : width == 4 ? 1 << (code - 1) : 1 << code;
      if (at + size > plain.length) {
        throw new Garbled("packed integers end early");
      }
      value +=
          switch (size) {
            case 0 -> common;
            case 1 -> in.get(at);
            case 2 -> in.getShort(at);
            case 4 -> in.getInt(at);
            default -> in.getLong(at);
          };
      at += size;
      if (width == 4) {
        narrow[i] = (int) value;
      } else {
        wide[i] = value;
      }
    }
  }

  /** 32-bit integers. */
  static byte[] packInts(int[] values) {
    int n = values.length;
    if (n == 0) {
      return pack(new byte[0]);
    }
    int[] steps = new int[n];
    int before = 0;
    for (int i = 0; i < n; i++) {
      steps[i] = values[i] - before;
      before = values[i];
    }
    int common = commonest(steps);
    ByteBuffer out = ByteBuffer.allocate((int) room(n, 4)).order(ByteOrder.LITTLE_ENDIAN);
    out.putInt(common);
    int codes = out.position();
    out.position(codes + (n * 2 + 7) / 8);
    for (int i = 0; i < n; i++) {
      int s = steps[i];
      int code = s == common ? 0 : s == (byte) s ? 1 : s == (short) s ? 2 : 3;
      out.put(codes + i / 4, (byte) (out.get(codes + i / 4) | code << (2 * (i % 4))));
      switch (code) {
        case 1 -> out.put((byte) s);
        case 2 -> out.putShort((short) s);
        case 3 -> out.putInt(s);
        default -> {}
      }
    }
    return pack(Arrays.copyOf(out.array(), out.position()));
  }

  private static int commonest(int[] steps) {
    int[] sorted = steps.clone();
    Arrays.sort(sorted);
    int best = sorted[0];
    int most = 0;
    int run = 0;
    for (int i = 0; i < sorted.length; i++) {
      run = i > 0 && sorted[i] == sorted[i - 1] ? run + 1 : 1;
      if (run >= most) {
        most = run;
        best = sorted[i];
      }
    }
    return best;
  }
}
