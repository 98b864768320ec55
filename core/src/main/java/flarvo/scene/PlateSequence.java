package flarvo.scene;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;

/**
 * Numbered pictures on disk: {@code folder/prefix####suffix}.
 *
 * @param padding least number of digits; 0 means no padding
 * @param missing frames inside the range that have no file, rising
 */
public record PlateSequence(
    Path folder,
    String prefix,
    int padding,
    String suffix,
    FrameRange frames,
    List<Integer> missing,
    PictureSize size,
    PlateRole role,
    PlateFacts facts) {

  /** A sequence of which only its size is known. */
  public PlateSequence(
      Path folder,
      String prefix,
      int padding,
      String suffix,
      FrameRange frames,
      List<Integer> missing,
      PictureSize size,
      PlateRole role) {
    this(folder, prefix, padding, suffix, frames, missing, size, role, PlateFacts.UNKNOWN);
  }

  public PlateSequence {
    missing = List.copyOf(missing);
  }

  /** The file of a frame, whether it is there or not. */
  public Path file(int frame) {
    String digits = padding == 0 ? "%d" : "%0" + padding + "d";
    return folder.resolve(prefix + String.format(Locale.ROOT, digits, frame) + suffix);
  }

  /** {@code name.####.jpg}: how people write a sequence down. */
  public String pattern() {
    return prefix + "#".repeat(Math.max(1, padding)) + suffix;
  }

  /** The same for another role. */
  public PlateSequence withRole(PlateRole r) {
    return new PlateSequence(folder, prefix, padding, suffix, frames, missing, size, r, facts);
  }
}
