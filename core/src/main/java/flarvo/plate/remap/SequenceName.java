package flarvo.plate.remap;

import flarvo.report.InputError;
import java.nio.file.Path;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Where numbered pictures are written: {@code folder/name.####.exr}.
 *
 * @param padding least number of digits
 */
public record SequenceName(Path folder, String prefix, int padding, String suffix) {

  private static final Pattern NAME = Pattern.compile("([^#]*)(#+)([^#]*)");

  /**
   * Reads a pattern with one run of {@code #}.
   *
   * @throws InputError when it is none, or its ending is not that of a picture
   */
  public static SequenceName parse(Path pattern) {
    String name = String.valueOf(pattern.getFileName());
    Matcher m = NAME.matcher(name);
    if (!m.matches() || !m.group(3).toLowerCase(Locale.ROOT).matches("\\.(jpe?g|png|tiff?|exr)")) {
      throw new InputError(
          pattern.toString(),
          "",
          "not the name of a sequence",
          "Write it as name.####.exr; endings are .jpg, .png, .tif and .exr");
    }
    Path folder = pattern.toAbsolutePath().getParent();
    return new SequenceName(folder, m.group(1), m.group(2).length(), m.group(3));
  }

  /** The file of a frame, whether it is there or not. */
  public Path file(int frame) {
    return folder.resolve(
        prefix + String.format(Locale.ROOT, "%0" + padding + "d", frame) + suffix);
  }

  /** {@code name.####.exr} */
  public String pattern() {
    return prefix + "#".repeat(padding) + suffix;
  }

  /** The stamp beside the pictures, which says from what each was made. */
  public Path stamp() {
    return folder.resolve("." + pattern().replace('#', '_') + ".made.jsonl");
  }
}
