package flarvo.receive;

import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Free text that came along: what it says of rate, size, range, lens and the rest. */
public final class ShotLog {

  /** Longer lines are no prose; nothing is looked for in them. */
  private static final int LONGEST_LINE = 500;

  private static final String NUMBER = "(\\d+(?:\\.\\d+)?)";

  private static final Pattern RATE =
      Pattern.compile(
          "(?:(\\d+/\\d+|\\d+(?:\\.\\d+)?)\\s*(?:fps|frames? (?:a|per) second))"
              + "|(?:(?:frame ?)?rate\\W{0,3}(\\d+/\\d+|\\d+(?:\\.\\d+)?))");
  private static final Pattern SIZE = Pattern.compile("\\b(\\d{3,5}) ?[x×] ?(\\d{3,5})\\b");
  private static final Pattern RANGE =
      Pattern.compile("(?:frames?|range)\\W{0,3}(-?\\d{1,7}) ?(?:-|–|to|\\.\\.) ?(-?\\d{1,7})\\b");
  private static final Pattern FILM =
      Pattern.compile(
          "(?:film ?back|sensor|aperture)\\D{0,12}"
              + NUMBER
              + " ?(?:mm)? ?[x×] ?"
              + NUMBER
              + " ?mm");
  private static final Pattern FOCAL =
      Pattern.compile(
          "(?:focal length|focal|lens)\\D{0,10}" + NUMBER + " ?mm|" + NUMBER + " ?mm lens");
  private static final Pattern ASPECT = Pattern.compile("pixel aspect\\W{0,3}" + NUMBER);
  private static final Pattern UP = Pattern.compile("\\b([xyz])[- ]up\\b");
  private static final Pattern UNIT =
      Pattern.compile(
          "\\bunits?\\W{0,3}(mm|cm|m|inch|foot|feet)\\b"
              + "|(?<!\\d)(?<!\\d )\\b(metres?|meters?|centimet(?:re|er)s?|millimet(?:re|er)s?"
              + "|inches|feet)\\b");
  private static final Pattern FIELDS =
      Pattern.compile("\\b(progressive|upper field first|lower field first|interlaced)\\b");

  private static final Pattern CODE =
      Pattern.compile("timecode\\W{0,3}(\\d\\d:\\d\\d:\\d\\d[:;]\\d\\d)");

  private final Path path;
  private final List<Claim<?>> claims = new ArrayList<>();

  private ShotLog(Path path) {
    this.path = path;
  }

  /** Whether it reads like text that somebody wrote. */
  static boolean recognises(byte[] head) {
    int odd = 0;
    for (byte b : head) {
      odd += b >= 0 && b < ' ' && b != '\n' && b != '\r' && b != '\t' ? 1 : 0;
    }
    return head.length > 0 && odd == 0;
  }

  /**
   * Parses a log.
   *
   * @throws InputError when it cannot be read
   */
  public static ShotLog read(Path path) {
    ShotLog log = new ShotLog(path);
    int number = 0;
    for (String line : TextSource.read(path, ReadLimits.USUAL).split("\n", -1)) {
      number++;
      if (line.length() <= LONGEST_LINE) {
        log.line(line.toLowerCase(Locale.ROOT), "line " + number);
      }
    }
    return log;
  }

  public Path path() {
    return path;
  }

  private String source() {
    return path.getFileName().toString();
  }

  /** What it states, each with its line. */
  public List<Claim<?>> claims() {
    return List.copyOf(claims);
  }

  private void line(String line, String place) {
    find(RATE, line, m -> rate(m.group(1) != null ? m.group(1) : m.group(2), place));
    find(
        SIZE,
        line,
        m -> {
          PictureSize s = PictureSize.of(whole(m, 1), whole(m, 2));
          add(Fact.PICTURE_SIZE, s, s.toString(), place);
        });
    find(
        RANGE,
        line,
        m -> {
          FrameRange r = new FrameRange(whole(m, 1), whole(m, 2));
          add(Fact.FIRST_FRAME, r.first(), Integer.toString(r.first()), place);
          add(Fact.LAST_FRAME, r.last(), Integer.toString(r.last()), place);
          add(Fact.FRAME_COUNT, r.count(), Integer.toString(r.count()), place);
        });
    find(
        FILM,
        line,
        m -> {
          var b = FilmBacks.parse(m.group(1) + "x" + m.group(2));
          add(Fact.FILM_BACK, b, FilmBacks.words(b), place);
        });
    find(
        FOCAL,
        line,
        m -> {
          String mm = m.group(1) != null ? m.group(1) : m.group(2);
          double f = Double.parseDouble(mm);
          add(Fact.FOCAL_LENGTH, new FocalClaim.Millimetres(f, f), mm + " mm", place);
        });
    find(ASPECT, line, m -> add(Fact.PIXEL_ASPECT, Double.valueOf(m.group(1)), m.group(1), place));
    find(
        UP,
        line,
        m -> {
          SignedAxis a = SignedAxis.parse(m.group(1));
          add(Fact.UP_AXIS, a, a.toString(), place);
        });
    find(
        UNIT,
        line,
        m -> {
          LinearUnit u = LinearUnit.parse(unit(m.group(1) != null ? m.group(1) : m.group(2)));
          add(Fact.UNIT, u, u.toString(), place);
        });
    find(CODE, line, m -> add(Fact.TIMECODE, m.group(1), m.group(1), place));
    find(FIELDS, line, m -> add(Fact.FIELD_ORDER, m.group(1), m.group(1), place));
  }

  /** A unit's short name, from how people write it out. */
  private static String unit(String word) {
    return word.startsWith("met")
        ? "m"
        : word.startsWith("cent")
            ? "cm"
            : word.startsWith("mill")
                ? "mm"
                : word.startsWith("inch") ? "inch" : word.equals("feet") ? "foot" : word;
  }

  private void rate(String text, String place) {
    Rate r = Rate.parse(text);
    add(Fact.RATE, r, r.display().equals(text) || r.isWhole() ? r.toString() : text, place);
  }

  private static int whole(Matcher m, int group) {
    return Integer.parseInt(m.group(group));
  }

  private static void find(Pattern what, String line, java.util.function.Consumer<Matcher> then) {
    Matcher m = what.matcher(line);
    if (m.find()) {
      try {
        then.accept(m);
      } catch (IllegalArgumentException e) {
        return; // words that look like a fact and mean none, such as a rate of 0
      }
    }
  }

  private <T> void add(Fact<T> fact, T value, String text, String place) {
    claims.add(Claim.said(fact, source(), value, text, place));
  }
}
