package flarvo.scene;

import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Timecode as SMPTE ST 12-1 counts it: hours, minutes, seconds and frames of a nominal whole rate.
 * A semicolon or a full stop before the frames marks drop frame, which leaves out the first two
 * numbers (four at 60) of each minute but every tenth.
 */
public final class Timecode {

  private static final Pattern TEXT =
      Pattern.compile("(\\d{1,2}):(\\d{2}):(\\d{2})([:;.])(\\d{2,3})");

  private Timecode() {}

  /** Whether a text is written as timecode. */
  public static boolean isTimecode(String text) {
    return TEXT.matcher(text).matches();
  }

  /**
   * Frames since 00:00:00:00.
   *
   * @throws IllegalArgumentException with a sentence for the user when it is no timecode at the
   *     rate
   */
  public static int frames(String text, Rate rate) {
    Matcher m = TEXT.matcher(text);
    if (!m.matches()) {
      throw new IllegalArgumentException("'" + text + "' is no timecode; write 01:02:03:04");
    }
    int nominal = (int) Math.ceil(rate.toDouble() - 1e-9);
    int h = Integer.parseInt(m.group(1));
    int min = Integer.parseInt(m.group(2));
    int s = Integer.parseInt(m.group(3));
    int f = Integer.parseInt(m.group(5));
    if (h > 23 || min > 59 || s > 59 || f >= nominal || nominal > 960) {
      throw new IllegalArgumentException(
          "'" + text + "' is no timecode at " + rate.display() + " fps");
    }
    int minutes = 60 * h + min;
    int count = nominal * (60 * minutes + s) + f;
    if (m.group(4).equals(":")) {
      return count;
    }
    boolean drops = nominal % 30 == 0 && !rate.isWhole();
    if (!drops) {
      throw new IllegalArgumentException(
          "'" + text + "' is drop frame, which " + rate.display() + " fps does not have");
    }
    int dropped = 2 * nominal / 30;
    if (s == 0 && f < dropped && min % 10 != 0) {
      throw new IllegalArgumentException("'" + text + "' is left out by drop frame");
    }
    return count - dropped * (minutes - minutes / 10);
  }

  /**
   * The timecode so many frames later, written as the first one is; after a day it begins again.
   *
   * @param text of the first frame
   * @param later may be negative
   * @throws IllegalArgumentException with a sentence for the user when the text is no timecode at
   *     the rate
   */
  public static String later(String text, int later, Rate rate) {
    long count = frames(text, rate);
    Matcher m = TEXT.matcher(text);
    boolean drop = m.matches() && !m.group(4).equals(":");
    int nominal = (int) Math.ceil(rate.toDouble() - 1e-9);
    int dropped = drop ? 2 * nominal / 30 : 0;
    long tenMinutes = 600L * nominal - 9L * dropped;
    count = Math.floorMod(count + later, 144 * tenMinutes);
    // Of ten minutes, the first has all of its numbers.
    long tens = count / tenMinutes;
    long within = count % tenMinutes;
    long first = 60L * nominal;
    long minute = within < first ? 0 : 1 + (within - first) / (first - dropped);
    long number = within + dropped * minute + tens * 600 * nominal;
    String digits = "%0" + m.group(5).length() + "d";
    return String.format(
        Locale.ROOT,
        "%02d:%02d:%02d%s" + digits,
        number / (3600L * nominal),
        number / (60L * nominal) % 60,
        number / nominal % 60,
        m.group(4),
        number % nominal);
  }
}
