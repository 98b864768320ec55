package flarvo.format.fbx;

import flarvo.format.ByteCursor;
import flarvo.format.ByteSource;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.zip.DataFormatException;
import java.util.zip.Inflater;
import org.joml.Vector3d;

/** Binary container to records; {@link FbxBinary} shows the layout. */
final class FbxBinaryParser {

  /** No packing does better than this, so a larger claim is a lie. */
  private static final long BEST_RATIO = 1032;

  /** How deep objects stand. */
  private static final int OBJECT = 2;

  private final ByteSource in;
  private final ByteCursor c;
  private final ReadLimits limits;
  private final Progress progress;
  private final boolean wide;
  private final FbxWords words = new FbxWords();
  private final FbxRecords.Loader loader =
      new FbxRecords.Loader() {
        @Override
        public FbxNode load(int offset, int depth, long end) {
          return again(offset, depth, end);
        }

        @Override
        public double number(int offset, int i) {
          return valueAgain(offset, i) > i ? numberHere() : Double.NaN;
        }

        @Override
        public void vector(int offset, int from, Vector3d into) {
          vectorAgain(offset, from, into);
        }

        @Override
        public long whole(int offset, int i) {
          return valueAgain(offset, i) > i ? wholeHere() : 0;
        }
      };
  private final List<Header> headers = new ArrayList<>();
  private final FbxRecords.Places places = new FbxRecords.Places();
  private int records;

  FbxBinaryParser(ByteSource in, ReadLimits limits, Progress progress) {
    this.in = in;
    this.limits = limits;
    this.progress = progress;
    if (in.size() < FbxBinary.HEADER || !FbxBinary.recognises(in.bytes(0, FbxBinary.HEADER))) {
      throw in.garbled(0, "the header is incomplete");
    }
    long version = in.u32(FbxBinary.MAGIC.length);
    if (version < 7000 || version >= 9000) {
      throw in.error(
          FbxBinary.MAGIC.length,
          "FBX version " + version / 1000 + "." + version % 1000 / 100 + " is not read; 7.x is",
          "Save it again as 7.3 or later");
    }
    wide = version >= FbxBinary.WIDE_FROM;
    c = in.at(FbxBinary.HEADER);
  }

  FbxNode parse() {
    FbxNode root = new FbxNode("");
    while (true) {
      FbxNode n = record(1, in.size());
      if (n == null) {
        return root;
      }
      root.add(n);
    }
  }

  /** Where a record ends, and what of it are values; all zeros where a list of records ends. */
  private static final class Header {
    private long end;
    private int count;
    private long bytes;
    private String name;

    Header set(long end, int count, long bytes, String name) {
      this.end = end;
      this.count = count;
      this.bytes = bytes;
      this.name = name;
      return this;
    }
  }

  /** One for each depth, filled again by every record there: a large file has millions. */
  private Header room(int depth) {
    while (headers.size() <= depth) {
      headers.add(new Header());
    }
    return headers.get(depth);
  }

  /** Valid until the next record of this depth. */
  private Header header(int depth, long limit) {
    int start = c.position();
    long end = wide ? c.i64() : c.u32();
    long count = wide ? c.i64() : c.u32();
    long bytes = wide ? c.i64() : c.u32();
    int nameLength = c.u8();
    if (end == 0) {
      if (count != 0 || bytes != 0 || nameLength != 0) {
        throw in.garbled(start, "a record ends where it should begin");
      }
      return room(depth).set(0, 0, 0, "");
    }
    if (depth > limits.deepest()) {
      throw in.garbled(start, "records are nested deeper than " + limits.deepest());
    }
    if (++records > 8L * limits.mostObjects()) {
      throw in.garbled(start, "there are more records than a scene has");
    }
    in.check(c.position(), nameLength);
    String name = words.take(c, nameLength);
    if (end > limit || end < c.position() + bytes || bytes < count || count < 0) {
      if (end > in.size()) {
        throw in.error(
            start,
            "the record '"
                + name
                + "' reaches to offset "
                + end
                + ", and the file has "
                + in.size()
                + " bytes",
            "It was cut off; request a new copy");
      }
      throw in.garbled(start, "the record '" + name + "' claims an end at " + end);
    }
    return room(depth).set(end, (int) count, bytes, name);
  }

  /** Null for the record of zeros that ends a list. */
  private FbxNode record(int depth, long limit) {
    progress.step(c.position(), in.size());
    int start = c.position();
    Header h = header(depth, limit);
    return h.end == 0 ? null : record(start, h, depth);
  }

  private FbxNode record(int start, Header h, int depth) {
    long valuesEnd = c.position() + h.bytes;
    FbxNode node = new FbxNode(h.name, values(h.count));
    valuesFill(valuesEnd, start, h);
    switch (h.name) {
      case "Properties70" -> node.children = records(depth + 1, h.end, "P");
      case "Connections" -> node.children = records(depth + 1, h.end, "C");
      default -> children(node, depth, h.end);
    }
    endsThere(start, h);
    return node;
  }

  /** Of models and their attributes, which a large file has most of, the properties alone count. */
  private void children(FbxNode of, int depth, long end) {
    boolean propertiesAlone =
        depth == OBJECT && (of.name.equals("Model") || of.name.equals("NodeAttribute"));
    while (c.position() < end) {
      progress.step(c.position(), in.size());
      int start = c.position();
      Header h = header(depth + 1, end);
      if (h.end == 0) {
        break;
      }
      if (propertiesAlone && !h.name.equals("Properties70")) {
        pass(start, h, depth + 1);
      } else {
        of.add(record(start, h, depth + 1));
      }
    }
  }

  /**
   * Checks that a record is whole and leaves it in the file.
   *
   * @return its first value, empty where that is no text
   */
  private String pass(int start, Header h, int depth) {
    long valuesEnd = c.position() + h.bytes;
    String first = "";
    for (int i = 0; i < h.count; i++) {
      if (i == 0 && in.u8(c.position()) == 'S') {
        first = (String) value();
      } else {
        skipValue();
      }
    }
    valuesFill(valuesEnd, start, h);
    while (c.position() < h.end) {
      int at = c.position();
      Header inner = header(depth + 1, h.end);
      if (inner.end == 0) {
        break;
      }
      pass(at, inner, depth + 1);
    }
    endsThere(start, h);
    return first;
  }

  private void valuesFill(long valuesEnd, int start, Header h) {
    if (c.position() != valuesEnd) {
      throw in.garbled(start, "the values of '" + h.name + "' do not fill their room");
    }
  }

  private void endsThere(int start, Header h) {
    if (c.position() != h.end) {
      throw in.garbled(start, "the record '" + h.name + "' does not end where it claims to");
    }
  }

  /** Records that are checked to be whole and stay in the file; named are those of one kind. */
  private FbxRecords records(int depth, long end, String kind) {
    int from = places.count();
    while (c.position() < end) {
      int start = c.position();
      Header h = header(depth, end);
      if (h.end == 0) {
        break;
      }
      String first = pass(start, h, depth);
      places.add(start, h.name.equals(kind) ? first : "");
    }
    return new FbxRecords(loader, kind, depth, end, places, from);
  }

  private FbxNode again(int at, int depth, long end) {
    int before = records;
    c.moveTo(at);
    FbxNode n = record(depth, end);
    records = before;
    return n;
  }

  /** Goes to a value of a record that was checked when it was first met; how many it has. */
  private long valueAgain(int at, int from) {
    c.moveTo(at);
    c.skip(wide ? 8 : 4);
    long count = wide ? c.i64() : c.u32();
    c.skip(wide ? 8 : 4);
    c.skip(c.u8());
    for (int i = 0; i < Math.min(count, from); i++) {
      skipValue();
    }
    return count;
  }

  private void vectorAgain(int at, int from, Vector3d into) {
    long count = valueAgain(at, from);
    for (int k = 0; k < 3 && from + k < count; k++) {
      FbxRecords.set(into, k, numberHere());
    }
  }

  /** The value here as a number; NaN where it is none. */
  private double numberHere() {
    int type = in.u8(c.position());
    if (isWhole(type)) {
      c.skip(1);
      return whole(type);
    }
    if (isReal(type)) {
      c.skip(1);
      return real(type);
    }
    skipValue();
    return Double.NaN;
  }

  /** The value here as a whole number; 0 where it is none. */
  private long wholeHere() {
    int type = in.u8(c.position());
    if (isWhole(type)) {
      c.skip(1);
      return whole(type);
    }
    return (long) numberHere(); // NaN becomes 0
  }

  private static boolean isWhole(int type) {
    return type == 'L' || type == 'I' || type == 'Y' || type == 'C' || type == 'B';
  }

  private static boolean isReal(int type) {
    return type == 'D' || type == 'F';
  }

  private long whole(int type) {
    return switch (type) {
      case 'L' -> c.i64();
      case 'I' -> c.i32();
      case 'Y' -> (short) c.u16();
      default -> c.u8();
    };
  }

  private double real(int type) {
    return type == 'D' ? c.f64() : c.f32();
  }

  private void skipValue() {
    int type = in.u8(c.position());
    switch (type) {
      case 'C', 'B' -> c.skip(2);
      case 'Y' -> c.skip(3);
      case 'I', 'F' -> c.skip(5);
      case 'L', 'D' -> c.skip(9);
      case 'S', 'R' -> {
        c.skip(1);
        c.skip(c.count32(1));
      }
      default -> value(); // arrays, and what is of no kind that is known
    }
  }

  private List<Object> values(int count) {
    if (count == 0) {
      return List.of();
    }
    Object[] out = new Object[count];
    for (int i = 0; i < count; i++) {
      out[i] = value();
    }
    return Arrays.asList(out);
  }

  private Object value() {
    int at = c.position();
    int type = c.u8();
    return switch (type) {
      case 'L', 'I', 'Y', 'C', 'B' -> whole(type);
      case 'D', 'F' -> real(type);
      case 'S' -> words.take(c, c.count32(1));
      case 'R' -> {
        c.skip(c.count32(1));
        yield "";
      }
      case 'f', 'i' -> array(type, 4);
      case 'd', 'l' -> array(type, 8);
      case 'b', 'c' -> array(type, 1);
      default -> throw in.garbled(at, "a value of an unknown kind " + type);
    };
  }

  /** Arrays stay in the file until they are asked for; their claims are checked at once. */
  private FbxNode.Packed array(int type, int width) {
    int at = c.position();
    long length = c.u32();
    long encoding = c.u32();
    int bytes = c.count32(1);
    int data = c.position();
    boolean packed = encoding == 1;
    if (encoding > 1
        || length > limits.mostNumbers()
        || (packed ? length * width > BEST_RATIO * bytes : length * width != bytes)) {
      throw in.garbled(at, "an array claims " + length + " numbers in " + bytes + " bytes");
    }
    c.skip(bytes);
    return () -> numbers(type, width, (int) length, packed, data, bytes);
  }

  private double[] numbers(int type, int width, int length, boolean packed, int at, int bytes) {
    ByteSource plain = in;
    int from = at;
    if (packed) {
      plain = ByteSource.of(in.file(), inflate(at, bytes, length * width));
      from = 0;
    }
    var b = plain.buffer(from, (long) length * width);
    double[] out = new double[length];
    switch (type) {
      case 'f' -> {
        for (int i = 0; i < length; i++) {
          out[i] = b.getFloat(4 * i);
        }
      }
      case 'd' -> b.asDoubleBuffer().get(out);
      case 'i' -> {
        for (int i = 0; i < length; i++) {
          out[i] = b.getInt(4 * i);
        }
      }
      case 'l' -> {
        for (int i = 0; i < length; i++) {
          out[i] = b.getLong(8 * i);
        }
      }
      default -> {
        for (int i = 0; i < length; i++) {
          out[i] = b.get(i);
        }
      }
    }
    return out;
  }

  private byte[] inflate(int at, int bytes, int wanted) {
    byte[] out = new byte[wanted];
    Inflater inflater = new Inflater();
    try {
      inflater.setInput(in.buffer(at, bytes));
      int n = 0;
      while (n < wanted) {
        int more = inflater.inflate(out, n, wanted - n);
        if (more == 0) {
          throw broken(at);
        }
        n += more;
      }
      return out;
    } catch (DataFormatException e) {
      throw broken(at);
    } finally {
      inflater.end();
    }
  }

  private InputError broken(int at) {
    return in.garbled(at, "a packed array cannot be unpacked");
  }
}
