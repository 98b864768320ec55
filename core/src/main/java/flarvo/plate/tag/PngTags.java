package flarvo.plate.tag;

import flarvo.plate.tag.PlateTags.Attribute;
import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.zip.CRC32;
import java.util.zip.DataFormatException;
import java.util.zip.Deflater;
import java.util.zip.Inflater;

/** Chunks of a PNG beside its picture (PNG specification, third edition, section 11.3). */
public final class PngTags {

  /** Where other chunks begin: behind the signature and the header chunk. */
  public static final int HEAD = 33;

  private static final int BESIDE_DATA = 12;
  private static final int PER_UNIT = 1_000_000;

  /** They describe how the pixels are packed, or further pictures of the file. */
  private static final Set<String> OF_THE_PIXELS =
      Set.of(
          "IHDR", "PLTE", "IDAT", "IEND", "tRNS", "hIST", "sPLT", "bKGD", "sBIT", "acTL", "fcTL",
          "fdAT");

  private PngTags() {}

  static List<Attribute> read(ByteBuffer b) {
    List<Attribute> out = new ArrayList<>();
    int kept = 0;
    for (long at = 8; at + BESIDE_DATA <= b.limit(); ) {
      int length = b.getInt((int) at);
      if (length < 0 || at + BESIDE_DATA + length > b.limit()) {
        break; // a picture that is cut off is refused where it is decoded
      }
      byte[] four = new byte[4];
      b.get((int) at + 4, four);
      String name = new String(four, StandardCharsets.ISO_8859_1);
      if (!OF_THE_PIXELS.contains(name)) {
        kept += length;
        out.add(
            kept > PictureTags.MOST_BYTES
                ? Attribute.leftOut(name)
                : chunk(name, bytes(b, (int) at + 8, length)));
      }
      at += BESIDE_DATA + (long) length;
    }
    return out;
  }

  private static byte[] bytes(ByteBuffer b, int at, int length) {
    byte[] out = new byte[length];
    b.get(at, out);
    return out;
  }

  private static Attribute chunk(String name, byte[] value) {
    if (!name.equals("iCCP")) {
      return new Attribute(TagHome.PNG, name, "", value);
    }
    int end = 0;
    while (end < value.length && value[end] != 0) {
      end++;
    }
    byte[] profile = end + 2 < value.length ? inflated(value, end + 2) : new byte[0];
    return profile.length == 0
        ? Attribute.leftOut("iCCP")
        : new Attribute(TagHome.PROFILE, "ICC profile", "", profile);
  }

  /** Empty where it cannot be unpacked, or is larger than any profile. */
  private static byte[] inflated(byte[] packed, int from) {
    Inflater inflater = new Inflater();
    try {
      inflater.setInput(packed, from, packed.length - from);
      ByteArrayOutputStream out = new ByteArrayOutputStream();
      byte[] part = new byte[1 << 14];
      while (!inflater.finished()) {
        int n = inflater.inflate(part);
        if (n == 0 || out.size() + n > PictureTags.MOST_BYTES) {
          return new byte[0];
        }
        out.write(part, 0, n);
      }
      return out.toByteArray();
    } catch (DataFormatException e) {
      return new byte[0];
    } finally {
      inflater.end();
    }
  }

  /**
   * The chunks that state some tags, to stand at {@link #HEAD}.
   *
   * @throws IOException never; the bytes stay in memory
   */
  public static byte[] chunks(PlateTags tags) throws IOException {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    DataOutputStream out = new DataOutputStream(bytes);
    for (Attribute a : tags.in(TagHome.PNG)) {
      if (a.home() == TagHome.PROFILE) {
        put("iCCP", profile(a.value()), out);
      } else {
        put(a.name(), a.value(), out);
      }
    }
    if (!tags.isSquare()) {
      ByteBuffer shape = ByteBuffer.allocate(9).putInt(PER_UNIT);
      put("pHYs", shape.putInt((int) Math.round(PER_UNIT * tags.pixelAspect())).array(), out);
    }
    return bytes.toByteArray();
  }

  private static byte[] profile(byte[] value) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    out.write("ICC profile\0\0".getBytes(StandardCharsets.US_ASCII)); // its name, and how packed
    Deflater deflater = new Deflater(Deflater.BEST_COMPRESSION);
    deflater.setInput(value);
    deflater.finish();
    byte[] part = new byte[1 << 14];
    while (!deflater.finished()) {
      out.write(part, 0, deflater.deflate(part));
    }
    deflater.end();
    return out.toByteArray();
  }

  private static void put(String name, byte[] value, DataOutputStream out) throws IOException {
    byte[] four = name.getBytes(StandardCharsets.ISO_8859_1);
    CRC32 crc = new CRC32();
    crc.update(four);
    crc.update(value);
    out.writeInt(value.length);
    out.write(four);
    out.write(value);
    out.writeInt((int) crc.getValue());
  }
}
