package flarvo.plate.tag;

import flarvo.plate.tag.PlateTags.Attribute;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import javax.imageio.metadata.IIOInvalidTreeException;
import javax.imageio.metadata.IIOMetadata;
import javax.imageio.plugins.tiff.TIFFDirectory;
import javax.imageio.plugins.tiff.TIFFField;
import javax.imageio.plugins.tiff.TIFFTag;

/** Fields of a TIFF's first directory that do not say how its pixels are packed (TIFF 6.0). */
public final class TiffTags {

  private static final int PROFILE = 34675;
  private static final int X_RESOLUTION = 282;
  private static final int Y_RESOLUTION = 283;
  private static final int UNIT = 296;
  private static final int FIRST_OF_OWN = 32768;
  private static final long PER_UNIT = 1_000_000;
  private static final int[] BYTES = {0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8};

  /** Of the numbers that the standard uses, those that say nothing of how pixels are packed. */
  private static final Map<Integer, String> KNOWN =
      Map.ofEntries(
          Map.entry(269, "DocumentName"),
          Map.entry(270, "ImageDescription"),
          Map.entry(271, "Make"),
          Map.entry(272, "Model"),
          Map.entry(274, "Orientation"),
          Map.entry(X_RESOLUTION, "XResolution"),
          Map.entry(Y_RESOLUTION, "YResolution"),
          Map.entry(285, "PageName"),
          Map.entry(UNIT, "ResolutionUnit"),
          Map.entry(301, "TransferFunction"),
          Map.entry(305, "Software"),
          Map.entry(306, "DateTime"),
          Map.entry(315, "Artist"),
          Map.entry(316, "HostComputer"),
          Map.entry(318, "WhitePoint"),
          Map.entry(319, "PrimaryChromaticities"),
          Map.entry(700, "XMP"));

  /** They name places in the file. */
  private static final Map<Integer, String> POINTERS =
      Map.of(330, "SubIFDs", 34665, "Exif", 34853, "GPS", 40965, "Interoperability");

  private TiffTags() {}

  static List<Attribute> read(ByteBuffer b) {
    List<Attribute> out = new ArrayList<>();
    long at = b.getInt(4) & 0xFFFFFFFFL;
    if (at + 2 > b.limit()) {
      return out;
    }
    int count = b.getShort((int) at) & 0xFFFF;
    int kept = 0;
    for (int i = 0; i < count && at + 2 + 12L * (i + 1) <= b.limit(); i++) {
      int entry = (int) at + 2 + 12 * i;
      int tag = b.getShort(entry) & 0xFFFF;
      if (POINTERS.containsKey(tag)) {
        out.add(Attribute.leftOut(POINTERS.get(tag)));
      } else if (KNOWN.containsKey(tag) || tag >= FIRST_OF_OWN) {
        byte[] value = value(b, entry);
        kept += value.length;
        out.add(field(tag, b.getShort(entry + 2) & 0xFFFF, value, kept));
      }
    }
    return out;
  }

  private static Attribute field(int tag, int type, byte[] value, int kept) {
    String name = KNOWN.getOrDefault(tag, "tag " + tag);
    if (value.length == 0 || kept > PictureTags.MOST_BYTES) {
      return Attribute.leftOut(tag == PROFILE ? "ICC profile" : name);
    }
    return tag == PROFILE
        ? new Attribute(TagHome.PROFILE, "ICC profile", "", value)
        : new Attribute(TagHome.TIFF, name, tag + " " + type, value);
  }

  /** With the highest byte of each number first; empty where it lies outside or is of no kind. */
  private static byte[] value(ByteBuffer b, int entry) {
    int type = b.getShort(entry + 2) & 0xFFFF;
    int each = type < BYTES.length ? BYTES[type] : 0;
    long length = each * (b.getInt(entry + 4) & 0xFFFFFFFFL);
    long from = length > 4 ? b.getInt(entry + 8) & 0xFFFFFFFFL : entry + 8;
    if (length == 0 || length > PictureTags.MOST_BYTES || from + length > b.limit()) {
      return new byte[0];
    }
    byte[] out = new byte[(int) length];
    b.get((int) from, out);
    int word = type == TIFFTag.TIFF_RATIONAL || type == TIFFTag.TIFF_SRATIONAL ? 4 : each;
    if (b.order() == ByteOrder.LITTLE_ENDIAN && word > 1) {
      for (int i = 0; i < out.length; i += word) {
        for (int k = 0; k < word / 2; k++) {
          byte first = out[i + k];
          out[i + k] = out[i + word - 1 - k];
          out[i + word - 1 - k] = first;
        }
      }
    }
    return out;
  }

  /** Shape of a pixel by the resolutions across and upright; 1 where they are not both stated. */
  public static double pixelAspect(List<Attribute> attributes) {
    double across = resolution(attributes, X_RESOLUTION);
    double upright = resolution(attributes, Y_RESOLUTION);
    return across > 0 && upright > 0 ? upright / across : 1;
  }

  private static double resolution(List<Attribute> attributes, int tag) {
    for (Attribute a : attributes) {
      if (a.home() == TagHome.TIFF && number(a) == tag && a.value().length >= 8) {
        ByteBuffer b = ByteBuffer.wrap(a.value());
        double of = b.getInt(4) & 0xFFFFFFFFL;
        return of > 0 ? (b.getInt(0) & 0xFFFFFFFFL) / of : 0;
      }
    }
    return 0;
  }

  private static int number(Attribute a) {
    return Integer.parseInt(a.type().substring(0, a.type().indexOf(' ')));
  }

  private static int type(Attribute a) {
    return Integer.parseInt(a.type().substring(a.type().indexOf(' ') + 1));
  }

  /**
   * A writer's own metadata with the tags in it.
   *
   * @throws IIOInvalidTreeException when the library does not take a field
   */
  public static IIOMetadata metadata(IIOMetadata given, PlateTags tags)
      throws IIOInvalidTreeException {
    TIFFDirectory dir = TIFFDirectory.createFromMetadata(given);
    for (Attribute a : tags.in(TagHome.TIFF)) {
      if (a.home() == TagHome.PROFILE) {
        dir.addTIFFField(field(PROFILE, TIFFTag.TIFF_UNDEFINED, a.value()));
      } else {
        dir.addTIFFField(field(number(a), type(a), a.value()));
      }
    }
    if (!tags.isSquare()) {
      ByteBuffer x = ByteBuffer.allocate(8).putInt((int) PER_UNIT).putInt(1000);
      long upright = Math.round(PER_UNIT * tags.pixelAspect());
      ByteBuffer y = ByteBuffer.allocate(8).putInt((int) upright).putInt(1000);
      dir.addTIFFField(field(X_RESOLUTION, TIFFTag.TIFF_RATIONAL, x.array()));
      dir.addTIFFField(field(Y_RESOLUTION, TIFFTag.TIFF_RATIONAL, y.array()));
      dir.addTIFFField(field(UNIT, TIFFTag.TIFF_SHORT, new byte[] {0, 1}));
    }
    return dir.getAsMetadata();
  }

  private static TIFFField field(int tag, int type, byte[] value) {
    ByteBuffer b = ByteBuffer.wrap(value);
    int n = value.length / BYTES[type];
    Object data =
        switch (type) {
          case TIFFTag.TIFF_ASCII -> text(value);
          case TIFFTag.TIFF_SHORT -> chars(b, n);
          case TIFFTag.TIFF_SSHORT -> shorts(b, n);
          case TIFFTag.TIFF_LONG -> longs(b, n);
          case TIFFTag.TIFF_SLONG -> ints(b, n);
          case TIFFTag.TIFF_RATIONAL -> pairs(b, n);
          case TIFFTag.TIFF_SRATIONAL -> signedPairs(b, n);
          case TIFFTag.TIFF_FLOAT -> floats(b, n);
          case TIFFTag.TIFF_DOUBLE -> doubles(b, n);
          default -> value;
        };
    int count = data instanceof String[] lines ? lines.length : n;
    return new TIFFField(new TIFFTag("field", tag, 1 << type), type, count, data);
  }

  private static String[] text(byte[] value) {
    String all = new String(value, StandardCharsets.UTF_8);
    return (all.endsWith("\0") ? all.substring(0, all.length() - 1) : all).split("\0", -1);
  }

  private static char[] chars(ByteBuffer b, int n) {
    char[] out = new char[n];
    b.asCharBuffer().get(out);
    return out;
  }

  private static short[] shorts(ByteBuffer b, int n) {
    short[] out = new short[n];
    b.asShortBuffer().get(out);
    return out;
  }

  private static int[] ints(ByteBuffer b, int n) {
    int[] out = new int[n];
    b.asIntBuffer().get(out);
    return out;
  }

  private static float[] floats(ByteBuffer b, int n) {
    float[] out = new float[n];
    b.asFloatBuffer().get(out);
    return out;
  }

  private static double[] doubles(ByteBuffer b, int n) {
    double[] out = new double[n];
    b.asDoubleBuffer().get(out);
    return out;
  }

  private static long[] longs(ByteBuffer b, int n) {
    long[] out = new long[n];
    for (int i = 0; i < n; i++) {
      out[i] = b.getInt() & 0xFFFFFFFFL;
    }
    return out;
  }

  private static long[][] pairs(ByteBuffer b, int n) {
    long[][] out = new long[n][2];
    for (long[] p : out) {
      p[0] = b.getInt() & 0xFFFFFFFFL;
      p[1] = b.getInt() & 0xFFFFFFFFL;
    }
    return out;
  }

  private static int[][] signedPairs(ByteBuffer b, int n) {
    int[][] out = new int[n][2];
    for (int[] p : out) {
      p[0] = b.getInt();
      p[1] = b.getInt();
    }
    return out;
  }
}
