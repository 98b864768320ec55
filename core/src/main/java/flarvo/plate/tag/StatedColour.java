package flarvo.plate.tag;

import flarvo.plate.tag.PlateTags.Attribute;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** The colours that a picture says it has, in a few words; what nobody states is not guessed. */
public final class StatedColour {

  /** Red, green and blue in CIE xy, as ITU-R BT.709 and BT.2020, SMPTE ST 2113 and ST 2065 have. */
  private static final Map<String, double[]> PRIMARIES =
      Map.of(
          "Rec. 709", new double[] {0.64, 0.33, 0.3, 0.6, 0.15, 0.06},
          "Rec. 2020", new double[] {0.708, 0.292, 0.17, 0.797, 0.131, 0.046},
          "P3", new double[] {0.68, 0.32, 0.265, 0.69, 0.15, 0.06},
          "ACES AP0", new double[] {0.7347, 0.2653, 0, 1, 0.0001, -0.077},
          "ACES AP1", new double[] {0.713, 0.293, 0.165, 0.83, 0.128, 0.044});

  private static final double SAME = 0.002;

  /** Code points of ITU-T H.273 that cICP uses. */
  private static final Map<Integer, String> H273_PRIMARIES =
      Map.of(1, "Rec. 709", 9, "Rec. 2020", 11, "P3 (DCI)", 12, "P3");

  private static final Map<Integer, String> H273_TRANSFER =
      Map.of(1, "Rec. 709", 8, "linear", 13, "sRGB", 16, "PQ", 18, "HLG");

  private static final int LONGEST_NAME = 80;

  private StatedColour() {}

  /** In words such as {@code sRGB} or {@code Rec. 2020, linear}; empty where nothing is stated. */
  public static String of(List<Attribute> tags) {
    return named(tags, "cICP")
        .map(StatedColour::cicp)
        .or(
            () ->
                tags.stream()
                    .filter(a -> a.home() == TagHome.PROFILE)
                    .findFirst()
                    .map(StatedColour::profile))
        .or(() -> named(tags, "sRGB").map(a -> "sRGB"))
        .or(() -> named(tags, "chromaticities").map(StatedColour::chromaticities))
        .or(() -> named(tags, "gAMA").map(StatedColour::gamma))
        .orElse("");
  }

  private static Optional<Attribute> named(List<Attribute> tags, String name) {
    return tags.stream()
        .filter(a -> a.name().equals(name) && a.home() != TagHome.NOWHERE)
        .findFirst();
  }

  private static String cicp(Attribute a) {
    if (a.value().length < 2) {
      return "cICP";
    }
    int p = a.value()[0] & 255;
    int t = a.value()[1] & 255;
    String transfer = H273_TRANSFER.getOrDefault(t, "transfer " + t);
    String primaries = H273_PRIMARIES.getOrDefault(p, "primaries " + p);
    return primaries.equals(transfer) ? primaries : primaries + ", " + transfer;
  }

  private static String gamma(Attribute a) {
    int g = a.value().length < 4 ? 0 : ByteBuffer.wrap(a.value()).getInt();
    return g <= 0 ? "gamma" : String.format(Locale.ROOT, "gamma %.2f", 100_000.0 / g);
  }

  /** Numbers of an OpenEXR stand for light, so they are linear. */
  private static String chromaticities(Attribute a) {
    if (a.value().length < 24) {
      return "";
    }
    ByteBuffer b = ByteBuffer.wrap(a.value()).order(ByteOrder.LITTLE_ENDIAN);
    double[] xy = new double[6];
    for (int i = 0; i < 6; i++) {
      xy[i] = b.getFloat(4 * i);
    }
    return PRIMARIES.entrySet().stream()
            .filter(e -> isSame(e.getValue(), xy))
            .map(Map.Entry::getKey)
            .findFirst()
            .orElse("own primaries")
        + ", linear";
  }

  private static boolean isSame(double[] a, double[] b) {
    for (int i = 0; i < a.length; i++) {
      if (!(Math.abs(a[i] - b[i]) < SAME)) {
        return false;
      }
    }
    return true;
  }

  /** A profile's own description (ICC.1, tag {@code desc}, in either of its two types). */
  private static String profile(Attribute a) {
    ByteBuffer b = ByteBuffer.wrap(a.value());
    if (b.limit() < 132) {
      return "ICC profile";
    }
    int count = b.getInt(128);
    for (int i = 0; i < count && 132 + 12L * (i + 1) <= b.limit(); i++) {
      if (b.getInt(132 + 12 * i) == 0x64657363) {
        String text = description(b, b.getInt(136 + 12 * i), b.getInt(140 + 12 * i));
        return text.isEmpty() ? "ICC profile" : text;
      }
    }
    return "ICC profile";
  }

  private static String description(ByteBuffer b, int at, int length) {
    if (at < 0 || length < 28 || at > b.limit() - (long) length) {
      return "";
    }
    byte[] all = new byte[length];
    b.get(at, all);
    ByteBuffer d = ByteBuffer.wrap(all);
    if (d.getInt(0) == 0x6D6C7563) { // mluc: the first language
      int size = d.getInt(20);
      int from = d.getInt(24);
      return size < 0 || from < 0 || from > length - (long) size
          ? ""
          : plain(new String(all, from, size, StandardCharsets.UTF_16BE));
    }
    int size = Math.min(d.getInt(8), length - 12);
    return size <= 0 ? "" : plain(new String(all, 12, size, StandardCharsets.US_ASCII));
  }

  private static String plain(String s) {
    String clean = s.replaceAll("\\p{Cntrl}", "").strip();
    return clean.length() > LONGEST_NAME ? clean.substring(0, LONGEST_NAME) + "…" : clean;
  }
}
