package flarvo.format.usd;

import flarvo.format.ByteCursor;
import flarvo.format.ByteSource;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;

/**
 * The tables of a crate.
 *
 * <pre>
 *   file     = "PXR-USDC" version[8] contents:int64 … sections …
 *   contents = count:uint64 ( name[16] start:int64 size:int64 ){count}
 *   TOKENS   = count:uint64 plain:uint64 packed:uint64 block     texts, each with a 0 behind
 *   STRINGS  = count:uint64 token:uint32{count}
 *   FIELDS   = count:uint64 ints(tokens) size:uint64 block(value:uint64{count})
 *   FIELDSETS= count:uint64 ints(fields, −1 behind each set)
 *   PATHS    = count:uint64 count:uint64 ints(paths) ints(tokens) ints(jumps)
 *   SPECS    = count:uint64 ints(paths) ints(field sets) ints(kinds)
 *   ints     = packed:uint64 block
 * </pre>
 */
final class UsdCrateTables {

  static final String MAGIC = "PXR-USDC";

  /** A path's last element. */
  enum Element {
    ROOT,
    CHILD,
    PROPERTY
  }

  final ByteSource in;
  final int version; // minor
  final String[] tokens;
  final int[] strings;
  final int[] fieldTokens;
  final long[] fieldValues;
  final int[] fieldSets;
  final int[] pathParents; // −1 for the root and for what no spec can stand on
  final int[] pathTokens;
  final Element[] pathElements;
  final int[] specPaths;
  final int[] specFieldSets;
  final int[] specKinds;

  private final ReadLimits limits;
  private final Map<String, long[]> sections = new HashMap<>();

  UsdCrateTables(ByteSource in, ReadLimits limits) {
    this.in = in;
    this.limits = limits;
    if (in.size() < 88) {
      throw in.garbled(0, "the header is incomplete");
    }
    version = in.u8(9);
    if (in.u8(8) != 0 || version < 4) {
      throw in.error(
          8,
          "crate version " + in.u8(8) + "." + version + " is not read here; 0.4 and later are",
          "Save it again with a newer library");
    }
    contents(in.i64(16));
    tokens = tokens(section("TOKENS"));
    strings = strings(section("STRINGS"));
    ByteCursor f = section("FIELDS");
    int fields = f.count64(0);
    fieldTokens = ints(f, fields);
    fieldValues = new long[fields];
    values(f, fieldValues);
    ByteCursor sets = section("FIELDSETS");
    fieldSets = ints(sets, sets.count64(0));
    ByteCursor p = section("PATHS");
    int paths = p.count64(0);
    pathParents = new int[bounded(p, paths)];
    pathTokens = new int[paths];
    pathElements = new Element[paths];
    paths(p, paths);
    ByteCursor s = section("SPECS");
    int specs = s.count64(0);
    specPaths = ints(s, specs);
    specFieldSets = ints(s, specs);
    specKinds = ints(s, specs);
  }

  private void contents(long offset) {
    ByteCursor c = in.at(offset);
    int count = c.count64(32);
    for (int i = 0; i < count; i++) {
      String name = new String(c.bytes(16), StandardCharsets.ISO_8859_1).replaceAll("\0.*", "");
      long start = c.i64();
      long size = c.i64();
      in.check(start, size);
      sections.putIfAbsent(name, new long[] {start, size});
    }
  }

  private ByteCursor section(String name) {
    long[] s = sections.get(name);
    if (s == null) {
      throw in.garbled(in.i64(16), "the section " + name + " is missing");
    }
    return in.at(s[0]);
  }

  private int bounded(ByteCursor at, int count) {
    if (count > limits.mostNumbers()) {
      throw at.garbled(count + " entries are claimed");
    }
    return count;
  }

  private String[] tokens(ByteCursor c) {
    int count = c.count64(0);
    int at = c.position();
    long plain = c.i64();
    byte[] packed = c.bytes(c.count64(1));
    if (plain < count || plain > 256L * packed.length + 64) {
      throw in.garbled(at, "tokens of " + plain + " bytes are claimed");
    }
    byte[] all = unpack(packed, (int) plain, at);
    String[] out = new String[count];
    int start = 0;
    for (int i = 0; i < count; i++) {
      int end = start;
      while (end < all.length && all[end] != 0) {
        end++;
      }
      if (end == all.length) {
        throw in.garbled(at, "token " + i + " of " + count + " is missing");
      }
      out[i] = new String(all, start, end - start, StandardCharsets.UTF_8);
      start = end + 1;
    }
    return out;
  }

  private int[] strings(ByteCursor c) {
    int[] out = new int[c.count64(4)];
    for (int i = 0; i < out.length; i++) {
      out[i] = index(c.i32(), tokens.length, c, "token");
    }
    return out;
  }

  private void values(ByteCursor c, long[] into) {
    int at = c.position();
    byte[] packed = c.bytes(c.count64(1));
    byte[] plain = unpack(packed, Math.multiplyExact(8, into.length), at);
    if (plain.length < 8L * into.length) {
      throw in.garbled(at, "the fields' values end early");
    }
    java.nio.ByteBuffer.wrap(plain)
        .order(java.nio.ByteOrder.LITTLE_ENDIAN)
        .asLongBuffer()
        .get(into);
  }

  private void paths(ByteCursor c, int paths) {
    int encoded = c.count64(0);
    int at = c.position();
    int[] index = ints(c, encoded);
    int[] token = ints(c, encoded);
    int[] jump = ints(c, encoded);
    java.util.Arrays.fill(pathParents, -1);
    boolean[] seen = new boolean[encoded];
    // Of each pair: where siblings go on, and their parent.
    int[] pending = new int[64];
    int top = 0;
    int i = 0;
    int parent = -1;
    while (i < encoded) {
      if (seen[i]) {
        throw in.garbled(at, "the paths run in a circle");
      }
      seen[i] = true;
      int path = index(index[i], paths, c, "path");
      int name = Math.abs(token[i]);
      pathParents[path] = parent;
      if (parent < 0) {
        pathElements[path] = Element.ROOT;
      } else {
        pathTokens[path] = index(name, tokens.length, c, "token");
        pathElements[path] = token[i] < 0 ? Element.PROPERTY : Element.CHILD;
      }
      boolean child = jump[i] > 0 || jump[i] == -1;
      boolean sibling = jump[i] >= 0;
      if (child) {
        if (sibling) {
          if (top + 2 > pending.length) {
            pending = java.util.Arrays.copyOf(pending, 2 * pending.length);
          }
          pending[top++] = i + jump[i];
          pending[top++] = parent;
        }
        parent = path;
        i++;
      } else if (sibling) {
        i++;
      } else if (top > 0) {
        parent = pending[--top];
        i = pending[--top];
      } else {
        break;
      }
      if (i < 0 || i > encoded) {
        throw in.garbled(at, "the paths jump out of their table");
      }
    }
  }

  /** Packed 32-bit integers, their packed size in front. */
  int[] ints(ByteCursor c, int count) {
    int at = c.position();
    byte[] packed = c.bytes(c.count64(1));
    if (count > limits.mostNumbers() || UsdCompression.leastPacked(count) > packed.length) {
      throw in.garbled(at, count + " integers are claimed");
    }
    try {
      return UsdCompression.unpackInts(packed, count);
    } catch (UsdCompression.Garbled e) {
      throw in.garbled(at, e.getMessage());
    }
  }

  long[] longs(ByteCursor c, int count) {
    int at = c.position();
    byte[] packed = c.bytes(c.count64(1));
    if (count > limits.mostNumbers() || UsdCompression.leastPacked(count) > packed.length) {
      throw in.garbled(at, count + " integers are claimed");
    }
    try {
      return UsdCompression.unpackLongs(packed, count);
    } catch (UsdCompression.Garbled e) {
      throw in.garbled(at, e.getMessage());
    }
  }

  private byte[] unpack(byte[] packed, int most, int at) {
    if (most > 256L * packed.length + 64) {
      throw in.garbled(at, most + " unpacked bytes are claimed");
    }
    try {
      return UsdCompression.unpack(packed, most);
    } catch (UsdCompression.Garbled e) {
      throw in.garbled(at, e.getMessage());
    }
  }

  private static int index(int i, int count, ByteCursor at, String what) {
    if (i < 0 || i >= count) {
      throw at.garbled(what + " " + i + " of " + count + " is meant");
    }
    return i;
  }

  String token(int i, ByteCursor at) {
    return tokens[index(i, tokens.length, at, "token")];
  }

  String string(int i, ByteCursor at) {
    return tokens[strings[index(i, strings.length, at, "string")]];
  }

  /** The text of a path; absolute, with {@code {set=variant}} parts where it goes through one. */
  String path(int i, ByteCursor at) {
    int p = index(i, pathParents.length, at, "path");
    java.util.ArrayDeque<String> parts = new java.util.ArrayDeque<>();
    for (;
        p >= 0 && pathElements[p] != null && pathElements[p] != Element.ROOT;
        p = pathParents[p]) {
      String t = tokens[pathTokens[p]];
      boolean variant = t.startsWith("{");
      parts.push(pathElements[p] == Element.PROPERTY ? "." + t : variant ? t : "/" + t);
      if (parts.size() > 512) {
        throw at.garbled("a path is deeper than 512");
      }
    }
    String s = String.join("", parts);
    return s.isEmpty() ? "/" : s;
  }

  InputError garbled(long at, String cause) {
    return in.garbled(at, cause);
  }
}
