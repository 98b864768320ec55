package flarvo.scene;

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
}
