package flarvo.plate.tag;

import flarvo.plate.tag.PlateTags.Attribute;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;

/** Segments of a JPEG beside its picture (ISO/IEC 10918-1, B.2.4; profiles by ICC.1, annex B.4). */
public final class JpegTags {

  /** Where other segments begin: behind the start of the image and a JFIF segment. */
  public static final int HEAD = 20;

  private static final int SCAN = 0xDA;
  private static final int COMMENT = 0xFE;
  private static final int APP0 = 0xE0;
  private static final int APP2 = 0xE2;
  private static final int COLOUR_TRANSFORM = 0xEE; // how this file packs its colours
  private static final int APP15 = 0xEF;
  private static final int LONGEST = 65533;
  private static final int PER_UNIT = 6000;
  private static final byte[] PROFILE = "ICC_PROFILE\0".getBytes(StandardCharsets.US_ASCII);

  private JpegTags() {}

  static List<Attribute> read(ByteBuffer b) {
    List<Attribute> out = new ArrayList<>();
    TreeMap<Integer, byte[]> profile = new TreeMap<>();
    int kept = 0;
    for (int at = 2; at + 4 <= b.limit() && (b.get(at) & 255) == 0xFF; ) {
      int marker = b.get(at + 1) & 255;
      if (marker == 0xFF) {
        at++; // fill
        continue;
      }
      int length = (b.getShort(at + 2) & 0xFFFF) - 2;
      if (marker == SCAN || length < 0 || at + 4 + length > b.limit()) {
        break;
      }
      byte[] value = new byte[length];
      b.get(at + 4, value);
      at += 4 + length;
      if (marker == COMMENT || marker > APP0 && marker <= APP15 && marker != COLOUR_TRANSFORM) {
        kept += length;
        if (marker == APP2 && startsWith(value, PROFILE) && length > PROFILE.length + 2) {
          profile.put(value[PROFILE.length] & 255, value);
        } else {
          out.add(segment(marker, value, kept));
        }
      }
    }
    if (!profile.isEmpty()) {
      out.add(profile(profile));
    }
    return out;
  }

  private static Attribute segment(int marker, byte[] value, int kept) {
    String name = marker == COMMENT ? "comment" : "APP" + (marker - APP0) + word(value);
    // What stands in APP2 names places in the file: further pictures of it.
    return kept > PictureTags.MOST_BYTES || marker == APP2
        ? Attribute.leftOut(name)
        : new Attribute(TagHome.JPEG, name, String.valueOf(marker), value);
  }

  /** The word that a segment begins with, to know it by. */
  private static String word(byte[] value) {
    StringBuilder s = new StringBuilder();
    for (int i = 0; i < Math.min(12, value.length) && value[i] > ' ' && value[i] < 127; i++) {
      s.append((char) value[i]);
    }
    return s.length() < 3 ? "" : " (" + s + ")";
  }

  private static Attribute profile(TreeMap<Integer, byte[]> parts) {
    byte[] first = parts.firstEntry().getValue();
    if (parts.firstKey() != 1 || (first[PROFILE.length + 1] & 255) != parts.size()) {
      return Attribute.leftOut("ICC profile");
    }
    ByteArrayOutputStream all = new ByteArrayOutputStream();
    for (byte[] p : parts.values()) {
      all.write(p, PROFILE.length + 2, p.length - PROFILE.length - 2);
    }
    return new Attribute(TagHome.PROFILE, "ICC profile", "", all.toByteArray());
  }

  private static boolean startsWith(byte[] value, byte[] with) {
    return value.length >= with.length
        && ByteBuffer.wrap(value, 0, with.length).equals(ByteBuffer.wrap(with));
  }

  /**
   * The beginning of a JPEG with its tags.
   *
   * @param head its first {@link #HEAD} bytes, as a library wrote them
   * @return what to write in their place
   * @throws IOException when it does not begin with a JFIF segment
   */
  public static byte[] head(byte[] head, PlateTags tags) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ByteBuffer b = ByteBuffer.wrap(head.clone());
    if ((b.getShort(2) & 0xFFFF) != 0xFF00 + APP0 || b.getShort(4) != HEAD - 4) {
      throw new IOException("the JPEG has no place for its tags");
    }
    if (!tags.isSquare()) {
      b.put(13, (byte) 0); // a ratio, no unit
      b.putShort(14, (short) PER_UNIT);
      b.putShort(16, (short) Math.round(PER_UNIT * tags.pixelAspect()));
    }
    out.writeBytes(b.array());
    for (Attribute a : tags.in(TagHome.JPEG)) {
      if (a.home() == TagHome.PROFILE) {
        parts(a.value(), out);
      } else {
        put(Integer.parseInt(a.type()), a.value(), out);
      }
    }
    return out.toByteArray();
  }

  private static void parts(byte[] profile, ByteArrayOutputStream out) {
    int each = LONGEST - PROFILE.length - 2;
    int n = (profile.length + each - 1) / each;
    for (int k = 0; k < n && n < 256; k++) {
      int length = Math.min(each, profile.length - k * each);
      ByteBuffer part = ByteBuffer.allocate(PROFILE.length + 2 + length).put(PROFILE);
      part.put((byte) (k + 1)).put((byte) n).put(profile, k * each, length);
      put(APP2, part.array(), out);
    }
  }

  private static void put(int marker, byte[] value, ByteArrayOutputStream out) {
    out.write(0xFF);
    out.write(marker);
    out.write((value.length + 2) >> 8);
    out.write(value.length + 2);
    out.writeBytes(value);
  }
}
