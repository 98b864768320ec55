package flarvo.format.abc;

import flarvo.format.ByteSource;
import java.nio.charset.StandardCharsets;

/**
 * The container.
 *
 * <pre>
 *   file  = "Ogawa" frozen:uint8 version:uint16 root:uint64 …
 *   group = count:uint64 child:uint64{count}     child: an offset; the top bit marks data
 *   data  = size:uint64 bytes                    offset 0 stands for an empty group or no data
 * </pre>
 */
final class OgawaFile {

  static final String MAGIC = "Ogawa";
  static final int FROZEN = 0xFF;
  static final long DATA = 1L << 63;

  final ByteSource in;

  OgawaFile(ByteSource in) {
    this.in = in;
    if (in.size() < 16 || !new String(in.bytes(0, 5), StandardCharsets.US_ASCII).equals(MAGIC)) {
      throw in.garbled(0, "the header is incomplete");
    }
    if (in.u8(5) != FROZEN) {
      throw in.error(5, "the archive was never finished", "Its writer stopped; request a new copy");
    }
  }

  static boolean recognises(byte[] head) {
    return new String(head, StandardCharsets.ISO_8859_1).startsWith(MAGIC);
  }

  Group root() {
    return new Group(in.i64(8));
  }

  /** Children by number. */
  final class Group {
    private final long at;
    private final int count;

    Group(long at) {
      this.at = at;
      this.count = at == 0 ? 0 : in.at(at).count64(8);
    }

    long at() {
      return at;
    }

    int size() {
      return count;
    }

    private long child(int i) {
      if (i < 0 || i >= count) {
        throw in.garbled(at, "child " + i + " of " + count + " is meant");
      }
      return in.i64(at + 8 + 8L * i);
    }

    boolean isData(int i) {
      return i >= 0 && i < count && child(i) < 0;
    }

    boolean isGroup(int i) {
      return i >= 0 && i < count && child(i) >= 0;
    }

    Group group(int i) {
      if (!isGroup(i)) {
        throw in.garbled(at, "child " + i + " is not a group");
      }
      return new Group(child(i));
    }

    /** The bytes of a data child, under the file's own name. */
    ByteSource data(int i) {
      long c = child(i);
      if (c >= 0) {
        throw in.garbled(at, "child " + i + " is not a data");
      }
      long offset = c & ~DATA;
      if (offset == 0) {
        return in.part(in.file(), 0, 0);
      }
      return in.part(in.file(), offset + 8, in.i64(offset));
    }
  }
}
