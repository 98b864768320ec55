package flarvo.plate.remap;

import flarvo.lens.Direction;
import flarvo.lens.LensTrack;
import flarvo.report.InputError;
import flarvo.scene.PlateSequence;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * How the original plates of a shot are undistorted. The pictures go into a folder beside the
 * original's, so that nothing received is touched and two shots never share one.
 *
 * @param suffix ending of the files, such as {@code .exr}; empty for the original's
 */
public record Undistortion(Filter filter, OverscanRule overscan, Light light, String suffix) {

  private static final List<String> SUFFIXES = List.of("", ".jpg", ".png", ".tif", ".exr");

  public Undistortion {
    if (!SUFFIXES.contains(suffix)) {
      throw new IllegalArgumentException("pictures are written as .jpg, .png, .tif or .exr");
    }
  }

  /** Where the undistorted pictures of a sequence go. */
  public SequenceName target(PlateSequence original) {
    return target(original, suffix);
  }

  /**
   * The same for an ending.
   *
   * @param suffix such as {@code .exr}; empty for the original's
   */
  public static SequenceName target(PlateSequence original, String suffix) {
    Path folder = original.folder().toAbsolutePath().normalize();
    String stem = original.prefix().replaceAll("[._-]$", "");
    return new SequenceName(
        folder.resolveSibling(folder.getFileName() + "_undistorted"),
        stem + "_undistorted.",
        Math.max(1, original.padding()),
        suffix.isEmpty() ? original.suffix() : suffix);
  }

  /**
   * Makes the pictures that are missing or not fresh.
   *
   * @param jobs pictures at once
   * @throws InputError when the lens folds within the picture, or the folder cannot be made
   */
  public SequenceRemap.Outcome run(
      PlateSequence original, LensTrack lens, int jobs, Progress progress) {
    RemapOptions options =
        new RemapOptions(
            Bending.of(lens),
            Direction.ORIGINAL_TO_UNDISTORTED,
            overscan.on(lens, original.size()),
            filter,
            light,
            1,
            Optional.empty());
    return SequenceRemap.run(
        original, target(original), options, original.frames(), jobs, progress);
  }
}
