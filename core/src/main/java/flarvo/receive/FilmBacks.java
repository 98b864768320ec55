package flarvo.receive;

import flarvo.convention.FilmBack;
import java.math.BigDecimal;
import java.math.MathContext;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Film backs by the size classes that people speak of, and as they are typed. */
public final class FilmBacks {

  private static final double MM_PER_INCH = 25.4;

  private static final Pattern SIZE =
      Pattern.compile(
          "([0-9.]+)\\s*(mm|in|inch|\")?\\s*[x×*]\\s*([0-9.]+)\\s*(mm|in|inch|\")?",
          Pattern.CASE_INSENSITIVE);

  private static final Map<String, FilmBack> CLASSES = new LinkedHashMap<>();

  static {
    CLASSES.put("large format 65 mm", new FilmBack(52.63, 23.01));
    CLASSES.put("full frame", new FilmBack(36, 24));
    CLASSES.put("35 mm full aperture", new FilmBack(24.89, 18.66));
    CLASSES.put("35 mm academy", new FilmBack(21.95, 16));
    CLASSES.put("half frame 3:2", new FilmBack(23.6, 15.7));
    CLASSES.put("four thirds", new FilmBack(17.3, 13));
    CLASSES.put("1 inch", new FilmBack(13.2, 8.8));
    CLASSES.put("16 mm wide", new FilmBack(12.52, 7.41));
    CLASSES.put("16 mm", new FilmBack(10.26, 7.49));
    CLASSES.put("2/3 inch", new FilmBack(9.59, 5.39));
    CLASSES.put("1/2.3 inch", new FilmBack(6.17, 4.55));
  }

  /** Millimetres below which six decimals are not every digit that counts. */
  private static final double SMALL = 1e-3;

  private FilmBacks() {}

  /** By name, largest first. */
  public static Map<String, FilmBack> classes() {
    return new LinkedHashMap<>(CLASSES);
  }

  /** Reads {@code 36x24}, {@code 36 mm × 24 mm}, {@code 1.417 in x 0.945 in} or a size class. */
  public static FilmBack parse(String text) {
    String t = text.trim().toLowerCase(Locale.ROOT);
    FilmBack named = CLASSES.get(t);
    if (named != null) {
      return named;
    }
    Matcher m = SIZE.matcher(t);
    try {
      if (m.matches()) {
        double width = Double.parseDouble(m.group(1));
        double height = Double.parseDouble(m.group(3));
        boolean inches = isInch(m.group(4)) || isInch(m.group(2));
        double scale = inches ? MM_PER_INCH : 1;
        return new FilmBack(width * scale, height * scale);
      }
    } catch (NumberFormatException e) {
      // Falls through to the one message below.
    }
    throw new IllegalArgumentException(
        "'" + text + "' is not a film back; write 36x24 in millimetres");
  }

  private static boolean isInch(String unit) {
    return unit != null && !unit.equals("mm");
  }

  /** {@code 36 × 24 mm}, without digits that nobody reads. */
  public static String words(FilmBack b) {
    return plain(b.widthMm()) + " × " + plain(b.heightMm()) + " mm";
  }

  /** As a ruling is kept: every digit that counts. */
  public static String exact(FilmBack b) {
    return exact(b.widthMm()) + "x" + exact(b.heightMm());
  }

  private static String exact(double v) {
    if (v < SMALL) {
      return new BigDecimal(v).round(new MathContext(9)).toPlainString();
    }
    return String.format(Locale.ROOT, "%.6f", v).replaceAll("\\.?0+$", "");
  }

  private static String plain(double v) {
    return String.format(Locale.ROOT, "%.3f", v).replaceAll("\\.?0+$", "");
  }
}
