package flarvo.format;

import flarvo.scene.Texture;
import java.util.Locale;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A path with a number in its name, as those of a sequence have: {@code plates/a.1001.jpg}.
 *
 * @param digits least number of digits
 */
public record NumberedPath(String prefix, int number, int digits, String suffix) {

  /** More pictures than a shot has. */
  private static final int MOST = 100_000;

  private static final int LONGEST = 4_096;

  /** The last number in the name, with what is behind it free of digits and folders. */
  private static final Pattern FORM = Pattern.compile("(.*?)(\\d{1,9})([^\\d/]*(\\.[^./]*)?)");

  /** Of a path; empty where its name has no number. */
  public static Optional<NumberedPath> of(String path) {
    Matcher m = FORM.matcher(path);
    return path.length() <= LONGEST && m.matches()
        ? Optional.of(
            new NumberedPath(
                m.group(1), Integer.parseInt(m.group(2)), m.group(2).length(), m.group(3)))
        : Optional.empty();
  }

  /** The path of another number. */
  public String at(int n) {
    return prefix + String.format(Locale.ROOT, "%0" + digits + "d", n) + suffix;
  }

  /**
   * How much higher the pictures' numbers are than their frames, for a format that has a sequence
   * as its first file and an offset; empty for a texture that is no such sequence.
   */
  public static OptionalInt offset(Texture t) {
    Optional<NumberedPath> first = of(t.files().firstEntry().getValue());
    if (t.isStill() || first.isEmpty()) {
      return OptionalInt.empty();
    }
    int by = first.get().number() - t.files().firstKey();
    for (Map.Entry<Integer, String> e : t.files().entrySet()) {
      if (!e.getValue().equals(first.get().at(e.getKey() + by))) {
        return OptionalInt.empty();
      }
    }
    return OptionalInt.of(by);
  }

  /**
   * A sequence that begins with this path.
   *
   * @param offset how much higher the pictures' numbers are than their frames
   * @param last number of the last picture; where it is none, one picture stays
   */
  public Texture sequence(int offset, int last, boolean alpha) {
    NavigableMap<Integer, String> files = new TreeMap<>();
    files.put(number - offset, at(number));
    for (int n = number + 1; n <= Math.min(last, number + MOST); n++) {
      files.put(n - offset, at(n));
    }
    return new Texture(files, alpha);
  }
}
