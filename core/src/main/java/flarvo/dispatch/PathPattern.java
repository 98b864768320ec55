package flarvo.dispatch;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A file name with words in braces: {@code {project}}, {@code {shot}}, {@code {recipient}}, {@code
 * {version}} (three digits), {@code {first}} and {@code {last}} (plate frames) and {@code {ext}}
 * (without its dot). The rest stands as it is.
 */
public final class PathPattern {

  private static final Pattern WORD = Pattern.compile("\\{([^{}]*)\\}");
  private static final Set<String> WORDS =
      Set.of("project", "shot", "recipient", "version", "first", "last", "ext");

  /** What a file system somewhere refuses in a name, and blanks. */
  private static final Pattern UNSAFE = Pattern.compile("[\\\\/:*?\"<>|\\p{Cntrl}\\s]+");

  /** More than three digits are no version. */
  public static final int MOST_VERSIONS = 999;

  private PathPattern() {}

  /**
   * Refuses what could never become a file name.
   *
   * @throws IllegalArgumentException with what is wrong
   */
  public static void check(String pattern) {
    if (pattern.isBlank()) {
      throw new IllegalArgumentException("a delivery needs a file name");
    }
    Matcher m = WORD.matcher(pattern);
    while (m.find()) {
      if (!WORDS.contains(m.group(1))) {
        throw new IllegalArgumentException(
            "{"
                + m.group(1)
                + "} is not known; known are {project}, {shot}, {recipient},"
                + " {version}, {first}, {last} and {ext}");
      }
    }
    String rest = m.replaceAll("");
    if (rest.contains("{") || rest.contains("}")) {
      throw new IllegalArgumentException("a brace in '" + pattern + "' has no partner");
    }
  }

  /** Whether files made by it are numbered by version. */
  public static boolean hasVersion(String pattern) {
    return pattern.contains("{version}");
  }

  /**
   * The file name for a shot.
   *
   * @param frames of the shot, plate frames
   * @param version from 1; empty keeps the word
   * @throws InputError when a value leaves nothing of a name
   */
  public static String of(
      Delivery d, String project, String shot, FrameRange frames, OptionalInt version) {
    String ext = d.format().extensions().get(0).substring(1);
    Map<String, String> values =
        Map.of(
            "project", safe("project", project),
            "shot", safe("shot", shot),
            "recipient", safe("recipient", d.name()).toLowerCase(Locale.ROOT),
            "first", String.valueOf(frames.first()),
            "last", String.valueOf(frames.last()),
            "ext", ext,
            "version",
                version.isPresent()
                    ? String.format(Locale.ROOT, "%03d", version.getAsInt())
                    : "{version}");
    return WORD.matcher(d.fileName())
        .replaceAll(m -> Matcher.quoteReplacement(values.getOrDefault(m.group(1), m.group())));
  }

  /**
   * The file name for a shot that is sent now: where the pattern has a version, the first of which
   * there is no file.
   *
   * @param folder of the deliveries
   * @throws InputError when a value leaves nothing of a name, or it leads out of the folder
   */
  public static String next(
      Path folder, Delivery d, String project, String shot, FrameRange frames) {
    return next(folder, d, project, shot, frames, Files::exists);
  }

  /**
   * The same where files can be taken in other ways than by being there.
   *
   * @param taken whether a version is not to be written to a file
   */
  public static String next(
      Path folder,
      Delivery d,
      String project,
      String shot,
      FrameRange frames,
      Predicate<Path> taken) {
    for (int v = 1; ; v++) {
      String name = of(d, project, shot, frames, OptionalInt.of(v));
      boolean free = v >= MOST_VERSIONS || !taken.test(DeliveryPlace.in(folder, name));
      if (!hasVersion(d.fileName()) || free) {
        return name;
      }
    }
  }

  /**
   * The file that a shot was sent to last, relative to the folder; empty where there is none.
   *
   * @throws InputError when a value leaves nothing of a name, or it leads out of the folder
   */
  public static Optional<String> newest(
      Path folder, Delivery d, String project, String shot, FrameRange frames) {
    Optional<String> found = Optional.empty();
    for (int v = 1; v < MOST_VERSIONS; v++) {
      String name = of(d, project, shot, frames, OptionalInt.of(v));
      if (!Files.exists(DeliveryPlace.in(folder, name))) {
        return found;
      }
      found = Optional.of(name);
      if (!hasVersion(d.fileName())) {
        return found;
      }
    }
    return found;
  }

  private static String safe(String word, String value) {
    String s = UNSAFE.matcher(value.strip()).replaceAll("_");
    if (s.isEmpty() || s.equals(".") || s.equals("..")) {
      throw InputError.words(
          "{" + word + "} is '" + value + "', which makes no file name", "Rename it");
    }
    return s;
  }

  /** The delivery with a pattern in place of one shot's file name. */
  public static Delivery generalised(Delivery d, String shot) {
    String name = d.fileName();
    String ext = d.format().extensions().get(0);
    if (name.endsWith(ext)) {
      name = name.substring(0, name.length() - ext.length()) + ".{ext}";
    }
    if (name.contains(shot) && !shot.isBlank()) {
      return d.withFileName(name.replace(shot, "{shot}"));
    }
    int last = name.lastIndexOf('/') + 1;
    return d.withFileName(name.substring(0, last) + "{shot}_" + name.substring(last));
  }
}
