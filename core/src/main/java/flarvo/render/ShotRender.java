package flarvo.render;

import flarvo.plate.remap.SequenceName;
import flarvo.report.InputError;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What a shot is rendered with: its plates, and where its pictures go. */
public final class ShotRender {

  private ShotRender() {}

  /**
   * The plates that the camera fits: undistorted ones, or any where there is no lens.
   *
   * @param lens whether the shot has one
   * @return empty where the shot has no plates
   * @throws InputError when there are only original plates of a lens
   */
  public static Optional<PlateSequence> plates(Shot shot, boolean lens) {
    Optional<PlateSequence> straight = shot.plate(PlateRole.UNDISTORTED);
    if (straight.isPresent() || !lens || shot.plates().isEmpty()) {
      return straight.or(() -> shot.plates().stream().findFirst());
    }
    throw InputError.words(
        "the shot has a lens and only original plates, which the camera does not fit",
        "Undistort them first");
  }

  /**
   * The keyed plates that are laid over what is drawn.
   *
   * @throws InputError when the shot has none
   */
  public static PlateSequence keyed(Shot shot) {
    return shot.plate(PlateRole.KEYED)
        .orElseThrow(
            () -> InputError.words("the shot has no keyed plates", "Add their sequence first"));
  }

  /** {@code SHOT_witness.####.png} in a folder. */
  public static SequenceName witness(Path folder, String shot) {
    return SequenceName.parse(folder.resolve(shot + "_witness.####.png"));
  }

  /** {@code SHOT_passes.####.exr} in a folder. */
  public static SequenceName passes(Path folder, String shot) {
    return SequenceName.parse(folder.resolve(shot + "_passes.####.exr"));
  }

  /** The witness pictures that a run made, in order. */
  public static List<Path> pictures(RenderJob job, RenderJob.Outcome made) {
    List<Path> out = new ArrayList<>();
    job.witness().ifPresent(w -> made.made().forEach(f -> out.add(w.file(f))));
    return out;
  }
}
