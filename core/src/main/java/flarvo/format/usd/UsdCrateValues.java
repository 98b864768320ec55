package flarvo.format.usd;

import flarvo.format.ByteCursor;
import flarvo.format.ByteSource;
import flarvo.format.Half;
import flarvo.format.ReadLimits;
import java.util.AbstractList;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Values of a crate, by their 64 bits:
 *
 * <pre>
 *   bit 63 array, 62 inlined, 61 compressed; bits 48–55 the type; bits 0–47 the offset or the value
 * </pre>
 */
final class UsdCrateValues {

  private static final long ARRAY = 1L << 63;
  private static final long INLINED = 1L << 62;
  private static final long COMPRESSED = 1L << 61;
  private static final long PAYLOAD = (1L << 48) - 1;

  /** Shorter arrays are not compressed, whatever their bits say. */
  private static final int SHORTEST_COMPRESSED = 16;

  /** Values inside values; no sound file comes near. */
  private static final int DEEPEST = 32;

  private final UsdCrateTables tables;
  private final ByteSource in;
  private final ReadLimits limits;
  private final Map<Long, double[]> times = new HashMap<>();

  UsdCrateValues(UsdCrateTables tables, ReadLimits limits) {
    this.tables = tables;
    this.in = tables.in;
    this.limits = limits;
  }

  static UsdCrateType type(long rep) {
    return UsdCrateType.of((int) (rep >>> 48) & 0xFF);
  }

  static boolean isArray(long rep) {
    return (rep & ARRAY) != 0;
  }

  Object value(long rep) {
    return value(rep, 0);
  }

  /** The bytes of a value that lies in the file. */
  ByteCursor at(long rep) {
    return in.at(rep & PAYLOAD);
  }

  private Object value(long rep, int depth) {
    UsdCrateType type = type(rep);
    long payload = rep & PAYLOAD;
    if (type == null || (rep & (1L << 60)) != 0) {
      return null; // a kind from a later version: nobody here asks for it
    }
    if (depth > DEEPEST) {
      throw in.garbled(Math.min(payload, in.size()), "values are nested deeper than " + DEEPEST);
    }
    if (isArray(rep)) {
      return array(type, rep);
    }
    if ((rep & INLINED) != 0) {
      return inlined(type, (int) payload);
    }
    ByteCursor c = in.at(payload);
    if (type.isNumeric()) {
      double[] v = new double[type.components];
      for (int i = 0; i < v.length; i++) {
        v[i] = number(type.entry, c);
      }
      return tuple(type, v);
    }
    return switch (type) {
      case STRING -> tables.string(c.i32(), c);
      case TOKEN -> tables.token(c.i32(), c);
      case ASSET -> new UsdAsset(tables.token(c.i32(), c), "");
      case DICTIONARY -> dictionary(c, depth);
      case TOKEN_LIST_OP -> listOp(c, depth, x -> tables.token(x.i32(), x));
      case STRING_LIST_OP -> listOp(c, depth, x -> tables.string(x.i32(), x));
      case PATH_LIST_OP -> listOp(c, depth, x -> tables.path(x.i32(), x));
      case REFERENCE_LIST_OP -> listOp(c, depth, x -> reference(x, depth, true));
      case PAYLOAD_LIST_OP -> listOp(c, depth, x -> reference(x, depth, false));
      case PAYLOAD -> reference(c, depth, false);
      case TOKEN_VECTOR -> list(c, 4, x -> tables.token(x.i32(), x));
      case STRING_VECTOR -> list(c, 4, x -> tables.string(x.i32(), x));
      case PATH_VECTOR -> list(c, 4, x -> tables.path(x.i32(), x));
      case VARIANT_SELECTIONS -> selections(c);
      case RELOCATES -> relocates(c);
      case LAYER_OFFSETS -> list(c, 16, x -> new double[] {x.f64(), x.f64()});
      case DOUBLE_VECTOR -> new UsdArray(0, new double[0]);
      default -> null;
    };
  }

  private Object inlined(UsdCrateType type, int bits) {
    ByteCursor here = in.at(0);
    return switch (type) {
      case BOOL -> bits != 0 ? "true" : "false";
      case UCHAR -> (double) (bits & 0xFF);
      case INT, INT64 -> (double) bits;
      case UINT, UINT64 -> (double) (bits & 0xFFFFFFFFL);
      case HALF -> Half.toDouble(bits);
      case FLOAT, DOUBLE, TIME_CODE -> (double) Float.intBitsToFloat(bits);
      case STRING -> tables.string(bits, here);
      case TOKEN -> tables.token(bits, here);
      case ASSET -> new UsdAsset(tables.token(bits, here), "");
      case SPECIFIER, PERMISSION, VARIABILITY -> (double) bits;
      case VALUE_BLOCK -> UsdAttribute.BLOCK;
      case DICTIONARY -> new LinkedHashMap<String, Object>();
      case MATRIX2D, MATRIX3D, MATRIX4D -> diagonal(type, bits);
      default -> {
        if (!type.isNumeric()) {
          yield null;
        }
        double[] v = new double[type.components];
        for (int i = 0; i < v.length; i++) {
          v[i] = (byte) (bits >> 8 * i);
        }
        yield tuple(type, v);
      }
    };
  }

  private static UsdArray diagonal(UsdCrateType type, int bits) {
    double[] m = new double[type.components];
    int n = (int) Math.sqrt(m.length);
    for (int i = 0; i < n; i++) {
      m[i * (n + 1)] = (byte) (bits >> 8 * i);
    }
    return new UsdArray(1, m);
  }

  /** Quaternions lie as x y z w and are written w x y z. */
  private static Object tuple(UsdCrateType type, double[] v) {
    if (type == UsdCrateType.BOOL) {
      return v[0] != 0 ? "true" : "false";
    }
    if (v.length == 1) {
      return v[0];
    }
    realFirst(type, v);
    return new UsdArray(1, v);
  }

  private static void realFirst(UsdCrateType type, double[] v) {
    if (type.text.startsWith("quat")) {
      for (int i = 0; i < v.length; i += 4) {
        double w = v[i + 3];
        System.arraycopy(v, i, v, i + 1, 3);
        v[i] = w;
      }
    }
  }

  private static double number(char entry, ByteCursor c) {
    return switch (entry) {
      case 'B' -> c.u8();
      case 'h' -> Half.toDouble(c.u16());
      case 'i' -> c.i32();
      case 'u' -> c.u32();
      case 'l' -> c.i64();
      case 'f' -> c.f32();
      default -> c.f64();
    };
  }

  private Object array(UsdCrateType type, long rep) {
    long payload = rep & PAYLOAD;
    if (payload == 0) {
      return type.isNumeric() ? new UsdArray(0, new double[0]) : List.of();
    }
    ByteCursor c = in.at(payload);
    if (tables.version < 5) {
      c.skip(4); // a rank that is always 1
    }
    boolean compressed =
        (rep & COMPRESSED) != 0 && (tables.version >= 6 || "iul".indexOf(type.entry) >= 0);
    int each = compressed ? 0 : type.width() * type.components;
    int count = tables.version < 7 ? c.count32(each) : c.count64(each);
    if (!type.isNumeric()) {
      if (type.width() == 0) {
        return null;
      }
      List<Object> out = new ArrayList<>(count);
      for (int i = 0; i < count; i++) {
        int index = c.i32();
        out.add(
            switch (type) {
              case STRING -> tables.string(index, c);
              case TOKEN -> tables.token(index, c);
              // Alone, an asset is a token; in an array, a string.
              default -> new UsdAsset(tables.string(index, c), "");
            });
      }
      return out;
    }
    long numbers = (long) count * type.components;
    if (numbers > limits.mostNumbers()) {
      throw in.error(
          payload, "an array of " + numbers + " numbers is claimed", "Larger ones are not read");
    }
    double[] out = new double[(int) numbers];
    if (compressed && count >= SHORTEST_COMPRESSED) {
      compressed(type, c, out);
    } else {
      in.check(c.position(), numbers * type.width());
      plain(type.entry, c, out);
    }
    realFirst(type, out);
    return new UsdArray(count, out);
  }

  private void plain(char entry, ByteCursor c, double[] out) {
    switch (entry) {
      case 'f' -> {
        var b = in.buffer(c.position(), 4L * out.length).asFloatBuffer();
        for (int i = 0; i < out.length; i++) {
          out[i] = b.get(i);
        }
      }
      case 'd' -> in.buffer(c.position(), 8L * out.length).asDoubleBuffer().get(out);
      case 'i' -> {
        var b = in.buffer(c.position(), 4L * out.length).asIntBuffer();
        for (int i = 0; i < out.length; i++) {
          out[i] = b.get(i);
        }
      }
      default -> {
        for (int i = 0; i < out.length; i++) {
          out[i] = number(entry, c);
        }
      }
    }
  }

  private void compressed(UsdCrateType type, ByteCursor c, double[] out) {
    switch (type.entry) {
      case 'i' -> fill(out, tables.ints(c, out.length), false);
      case 'u' -> fill(out, tables.ints(c, out.length), true);
      case 'l' -> {
        long[] v = tables.longs(c, out.length);
        for (int i = 0; i < out.length; i++) {
          out[i] = v[i];
        }
      }
      default -> {
        int at = c.position();
        int code = c.u8();
        if (code == 'i') {
          fill(out, tables.ints(c, out.length), false);
        } else if (code == 't') {
          double[] table = new double[c.count32(type.width())];
          for (int i = 0; i < table.length; i++) {
            table[i] = number(type.entry, c);
          }
          int[] index = tables.ints(c, out.length);
          for (int i = 0; i < out.length; i++) {
            if (index[i] < 0 || index[i] >= table.length) {
              throw in.garbled(at, "entry " + index[i] + " of a table of " + table.length);
            }
            out[i] = table[index[i]];
          }
        } else {
          throw in.garbled(at, "the array is compressed in a way that is not known");
        }
      }
    }
  }

  private static void fill(double[] out, int[] v, boolean unsigned) {
    for (int i = 0; i < out.length; i++) {
      out[i] = unsigned ? v[i] & 0xFFFFFFFFL : v[i];
    }
  }

  private interface Item {
    Object read(ByteCursor c);
  }

  private List<Object> list(ByteCursor c, int bytesEach, Item item) {
    int n = c.count64(bytesEach);
    List<Object> out = new ArrayList<>(n);
    for (int i = 0; i < n; i++) {
      out.add(item.read(c));
    }
    return out;
  }

  /** One byte says which lists follow, in this order. */
  private UsdListOp listOp(ByteCursor c, int depth, Item item) {
    if (depth > DEEPEST) {
      throw c.garbled("values are nested too deep");
    }
    int bits = c.u8();
    List<Object> items = (bits & 2) != 0 ? list(c, 4, item) : List.of();
    List<Object> added = (bits & 4) != 0 ? list(c, 4, item) : List.of();
    List<Object> before = (bits & 32) != 0 ? list(c, 4, item) : List.of();
    List<Object> behind = (bits & 64) != 0 ? list(c, 4, item) : List.of();
    List<Object> deleted = (bits & 8) != 0 ? list(c, 4, item) : List.of();
    if (!added.isEmpty()) {
      behind = new ArrayList<>(behind);
      behind.addAll(added);
    }
    return new UsdListOp((bits & 1) != 0, items, before, behind, deleted);
  }

  private UsdAsset reference(ByteCursor c, int depth, boolean customData) {
    String asset = tables.string(c.i32(), c);
    int p = c.i32();
    String prim = p == -1 ? "" : tables.path(p, c);
    double offset = 0;
    double scale = 1;
    if (customData || tables.version >= 8) {
      offset = c.f64();
      scale = c.f64();
    }
    if (customData) {
      dictionary(c, depth + 1);
    }
    return new UsdAsset(asset, prim.equals("/") ? "" : prim, offset, scale);
  }

  private Map<String, Object> dictionary(ByteCursor c, int depth) {
    int n = c.count64(12);
    Map<String, Object> out = new LinkedHashMap<>();
    for (int i = 0; i < n; i++) {
      String key = tables.string(c.i32(), c);
      long rep = nested(c);
      out.put(key, value(rep, depth + 1));
    }
    return out;
  }

  private Map<String, Object> selections(ByteCursor c) {
    int n = c.count64(8);
    Map<String, Object> out = new LinkedHashMap<>();
    for (int i = 0; i < n; i++) {
      out.put(tables.string(c.i32(), c), tables.string(c.i32(), c));
    }
    return out;
  }

  /** From where to where; to nowhere for what is removed. */
  private Map<String, Object> relocates(ByteCursor c) {
    int n = c.count64(8);
    Map<String, Object> out = new LinkedHashMap<>();
    for (int i = 0; i < n; i++) {
      String from = tables.path(c.i32(), c);
      int to = c.i32();
      String there = to == -1 ? "" : tables.path(to, c);
      out.put(from, there.equals("/") ? "" : there);
    }
    return out;
  }

  /** What a value writes of its own stands between a jump and the value's bits. */
  private long nested(ByteCursor c) {
    jump(c);
    return c.i64();
  }

  private static void jump(ByteCursor c) {
    int start = c.position();
    c.moveTo(start + c.i64());
  }

  /** Samples stay in the file until they are asked for. */
  UsdAttribute samples(String name, String type, Object fixed, long rep) {
    ByteCursor c = in.at(rep & PAYLOAD);
    double[] t = times(nested(c));
    jump(c);
    int count = c.count64(8);
    int from = c.position();
    if (count != t.length || count == 0) {
      throw in.garbled(
          from, count == 0 ? "zero samples" : t.length + " times but " + count + " values");
    }
    List<Object> values =
        new AbstractList<>() {
          @Override
          public Object get(int i) {
            return value(in.i64(from + 8L * i));
          }

          @Override
          public int size() {
            return count;
          }
        };
    return new UsdAttribute(name, type, fixed, t, values);
  }

  private double[] times(long rep) {
    double[] known = times.get(rep);
    if (known != null) {
      return known;
    }
    long at = rep & PAYLOAD;
    double[] t;
    if (isArray(rep)) {
      t = ((UsdArray) array(UsdCrateType.DOUBLE, rep)).numbers();
    } else {
      ByteCursor c = in.at(at);
      t = new double[c.count64(8)];
      for (int i = 0; i < t.length; i++) {
        t[i] = c.f64();
      }
    }
    for (int i = 0; i < t.length; i++) {
      if (!Double.isFinite(t[i]) || (i > 0 && t[i] <= t[i - 1])) {
        throw in.garbled(at, "the times of samples are not in order");
      }
    }
    times.put(rep, t);
    return t;
  }
}
