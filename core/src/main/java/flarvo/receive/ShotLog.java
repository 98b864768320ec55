package flarvo.receive;

import flarvo.convention.FilmBack;
import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import flarvo.shotlist.ShotEntry;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Text that came along: what it says of rate, size, range, lens and the rest. It is free text, or
 * the entry of one shot in a list.
 */
public final class ShotLog {

  /** Longer lines are no prose; nothing is looked for in them. */
  private static final int LONGEST_LINE = 500;

  private static final Pattern DECIMAL_COMMA =
      Pattern.compile("(?<![\\d.,])(\\d{1,3}),(\\d+)(?![\\d.,])");

  /** The largest film formats are smaller; larger numbers are pixels. */
  private static final double LARGEST_BACK_MM = 100;

  private static final String NUMBER = "(\\d+(?:\\.\\d+)?)";

  /** What stands between a fact's name and its value. */
  private static final String IS = "(?:\\s+is)?\\s*[:=]?\\s*";

  /** Between two numbers of a size. */
  private static final String BY = "\\s*(?:x|×|\\*|by)\\s*";

  private static final String TO = "\\s*(?:-|–|—|to|\\.{2,3}|through)\\s*";

  private static final String FPS = "(\\d+/\\d+|\\d+(?:\\.\\d+)?)";

  /** Rates at which pictures are scanned whole, as in 24p; 1080p is a height. */
  private static final String SCANNED =
      "(23\\.976|23\\.98|24|25|29\\.97|30|48|50|59\\.94|60|120)p\\b";

  private static final Pattern RATE =
      Pattern.compile(
          ("(?<![\\d./])" + FPS + "\\s*(?:fps|f/s|frames?\\s*(?:a|per|/)\\s*s(?:ec(?:ond)?)?)\\b")
              + ("|\\bfps" + IS + FPS)
              + ("|(?<!bit )(?<!sample )(?<!data )\\b(?:frame ?rate|rate|time ?base)" + IS + FPS)
              + ("|(?<![\\d.])" + SCANNED));

  private static final Pattern SIZE =
      Pattern.compile(
          "(?<![\\d.,])(\\d{1,2},\\d{3}|\\d{3,5})" + BY + "(\\d{1,2},\\d{3}|\\d{3,5})(?![\\d.])");

  private static final Pattern WIDTH_HEIGHT =
      Pattern.compile(
          "\\b(?:w|width)" + IS + "(\\d{3,5})\\D{1,12}\\b(?:h|height)" + IS + "(\\d{3,5})\\b");

  /** Heights by which formats of 16:9 are called. */
  private static final Pattern SCAN_LINES = Pattern.compile("(?<![\\d.])(720|1080|2160)[pi]\\b");

  private static final Pattern RANGE =
      Pattern.compile(
          "(?:\\bframes?(?: range)?|\\brange)" + IS + "(-?\\d{1,7})" + TO + "(-?\\d{1,7})\\b");

  private static final Pattern FIRST_LAST =
      Pattern.compile(
          "\\b(?:first|start|in)(?: ?frame)?"
              + IS
              + "(-?\\d{1,7})\\b\\D{1,15}"
              + "\\b(?:last|end|out)(?: ?frame)?"
              + IS
              + "(-?\\d{1,7})\\b");

  private static final Pattern FILM =
      Pattern.compile(
          "(?:film ?back|film ?gate|sensor|aperture)(?: size)?"
              + IS
              + NUMBER
              + " ?(?:mm|in|inch|\")?"
              + BY
              + NUMBER
              + " ?(mm|in|inch|\")?");

  private static final Pattern FOCAL =
      Pattern.compile(
          "\\b(?:focal length|focal|lens|fl)"
              + IS
              + NUMBER
              + " ?(?:mm)?\\b(?!\\s*(?:-|–|to)\\s*\\d)(?![.%])"
              + "|(?<![\\d.x×-])"
              + NUMBER
              + " ?mm (?:lens|prime)");

  private static final Pattern ASPECT =
      Pattern.compile("\\b(?:pixel aspect(?: ratio)?|par|squeeze)" + IS + NUMBER);

  private static final Pattern UP =
      Pattern.compile("\\b([xyz])[- ]?up\\b|\\bup(?:[- ]?axis)?" + IS + "([+]?[xyz])\\b");

  private static final Pattern UNIT =
      Pattern.compile(
          "\\bunits?"
              + IS
              + "(?:1 ?)?(mm|cm|m|inch(?:es)?|foot|feet|met(?:re|er)s?|centimet(?:re|er)s?"
              + "|millimet(?:re|er)s?)\\b"
              + "|(?<!\\d)(?<!\\d )\\b(metres?|meters?|centimet(?:re|er)s?|millimet(?:re|er)s?"
              + "|inches|feet)\\b");
  private static final Pattern FIELDS =
      Pattern.compile("\\b(progressive|upper field first|lower field first|interlaced)\\b");

  private static final Pattern CODE =
      Pattern.compile("timecode\\W{0,3}(\\d\\d:\\d\\d:\\d\\d[:;]\\d\\d)");

  private final Path path;
  private final Optional<String> entry;
  private final List<Claim<?>> claims = new ArrayList<>();

  private ShotLog(Path path, Optional<String> entry) {
    this.path = path;
    this.entry = entry;
  }

  /** Whether it reads like text that somebody wrote. */
  public static boolean recognises(byte[] head) {
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
    ShotLog log = new ShotLog(path, Optional.empty());
    int number = 0;
    for (String line : TextSource.read(path, ReadLimits.USUAL).split("\n", -1)) {
      number++;
      if (line.length() <= LONGEST_LINE) {
        log.line(line.toLowerCase(Locale.ROOT).replace('\t', ' '), "line " + number);
      }
    }
    return log;
  }

  /**
   * What a shot list states about one shot: its frames with their handles, and its rate.
   *
   * @param list file of the list
   */
  public static ShotLog listed(Path list, ShotEntry shot) {
    ShotLog log = new ShotLog(list, Optional.of(shot.name()));
    String cut =
        shot.cut().isPresent() && !shot.handles().isEmpty()
            ? ", cut " + shot.cut().get() + " with " + shot.handles()
            : "";
    shot.frames().ifPresent(f -> log.range(f, shot.place() + cut));
    shot.count()
        .ifPresent(
            n -> log.add(Fact.FRAME_COUNT, n, Integer.toString(n), shot.place() + ", the cut"));
    shot.rate().ifPresent(r -> log.add(Fact.RATE, r, r.toString(), shot.place()));
    return log;
  }

  public Path path() {
    return path;
  }

  /** The shot that it is about, where the file is a list of many. */
  public Optional<String> entry() {
    return entry;
  }

  private String source() {
    return path.getFileName().toString();
  }

  /** The frames that it states first; empty where it states none. */
  Optional<FrameRange> frames() {
    Optional<Integer> first = first(Fact.FIRST_FRAME);
    Optional<Integer> last = first(Fact.LAST_FRAME);
    return first.isEmpty() || last.isEmpty()
        ? Optional.empty()
        : Optional.of(new FrameRange(first.get(), last.get()));
  }

  private Optional<Integer> first(Fact<Integer> fact) {
    return Claim.about(fact, claims).stream().findFirst().flatMap(Claim::value);
  }

  /** What it states, each with its line. */
  public List<Claim<?>> claims() {
    return List.copyOf(claims);
  }

  private void line(String written, String place) {
    String line = DECIMAL_COMMA.matcher(written).replaceAll("$1.$2");
    find(RATE, line, m -> rate(group(m), place));
    if (!size(SIZE, written, place) && !size(WIDTH_HEIGHT, written, place)) {
      find(
          SCAN_LINES,
          line,
          m -> {
            PictureSize s = PictureSize.of(whole(m, 1) * 16 / 9, whole(m, 1));
            add(Fact.PICTURE_SIZE, s, s.toString(), place);
          });
    }
    if (!range(RANGE, line, place)) {
      range(FIRST_LAST, line, place);
    }
    find(FILM, line, m -> film(m, place));
    find(
        FOCAL,
        line,
        m -> {
          double f = Double.parseDouble(group(m));
          add(Fact.FOCAL_LENGTH, new FocalClaim.Millimetres(f, f), group(m) + " mm", place);
        });
    find(ASPECT, line, m -> add(Fact.PIXEL_ASPECT, Double.valueOf(m.group(1)), m.group(1), place));
    find(
        UP,
        line,
        m -> {
          SignedAxis a = SignedAxis.parse(group(m));
          add(Fact.UP_AXIS, a, a.toString(), place);
        });
    find(
        UNIT,
        line,
        m -> {
          LinearUnit u = LinearUnit.parse(unit(group(m)));
          add(Fact.UNIT, u, u.toString(), place);
        });
    find(CODE, line, m -> add(Fact.TIMECODE, m.group(1), m.group(1), place));
    find(FIELDS, line, m -> add(Fact.FIELD_ORDER, m.group(1), m.group(1), place));
  }

  /** The one group of several ways to say something that was met. */
  private static String group(Matcher m) {
    for (int i = 1; i <= m.groupCount(); i++) {
      if (m.group(i) != null) {
        return m.group(i);
      }
    }
    throw new IllegalArgumentException("nothing was met");
  }

  private boolean size(Pattern how, String line, String place) {
    return find(
        how,
        line,
        m -> {
          PictureSize s = PictureSize.of(plain(m.group(1)), plain(m.group(2)));
          add(Fact.PICTURE_SIZE, s, s.toString(), place);
        });
  }

  /** Thousands may be set off with a comma. */
  private static int plain(String digits) {
    return Integer.parseInt(digits.replace(",", ""));
  }

  private boolean range(Pattern how, String line, String place) {
    return find(
        how,
        line,
        m -> {
          range(new FrameRange(whole(m, 1), whole(m, 2)), place);
        });
  }

  private void range(FrameRange r, String place) {
    add(Fact.FIRST_FRAME, r.first(), Integer.toString(r.first()), place);
    add(Fact.LAST_FRAME, r.last(), Integer.toString(r.last()), place);
    add(Fact.FRAME_COUNT, r.count(), Integer.toString(r.count()), place);
  }

  /** In inches where the text says so; what looks like a picture's size is none. */
  private void film(Matcher m, String place) {
    boolean inches = m.group(3) != null && !m.group(3).equals("mm");
    double width = Double.parseDouble(m.group(1)) * (inches ? 25.4 : 1);
    double height = Double.parseDouble(m.group(2)) * (inches ? 25.4 : 1);
    if (width < LARGEST_BACK_MM && height < LARGEST_BACK_MM) {
      var b = inches ? new FilmBack(width, height) : FilmBacks.parse(m.group(1) + "x" + m.group(2));
      add(Fact.FILM_BACK, b, FilmBacks.words(b), place);
    }
  }

  /** A unit's short name, from how people write it out. */
  private static String unit(String word) {
    return word.startsWith("met")
        ? "m"
        : word.startsWith("cent")
            ? "cm"
            : word.startsWith("mill")
                ? "mm"
                : word.startsWith("inch") ? "inch" : word.startsWith("f") ? "foot" : word;
  }

  private void rate(String text, String place) {
    Rate r = Rate.parse(text);
    add(Fact.RATE, r, r.display().equals(text) || r.isWhole() ? r.toString() : text, place);
  }

  private static int whole(Matcher m, int group) {
    return Integer.parseInt(m.group(group));
  }

  /** Whether it was there and made sense. */
  private static boolean find(Pattern what, String line, Consumer<Matcher> then) {
    Matcher m = what.matcher(line);
    if (!m.find()) {
      return false;
    }
    try {
      then.accept(m);
      return true;
    } catch (IllegalArgumentException e) {
      return false; // words that look like a fact and mean none, such as a rate of 0
    }
  }

  private <T> void add(Fact<T> fact, T value, String text, String place) {
    claims.add(Claim.said(fact, source(), value, text, place));
  }
}
