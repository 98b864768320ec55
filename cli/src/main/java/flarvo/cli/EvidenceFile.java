package flarvo.cli;

import flarvo.plate.PlateLuma;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.suspect.TrustedSolve;
import flarvo.trace.Mask;
import flarvo.trace.PlatePixels;
import flarvo.trace.TraceOptions;
import flarvo.trace.Tracer;
import flarvo.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/**
 * What files are measured against: 2D tracks, a solve that is known to be right, or undistorted
 * plates, in which features are followed.
 *
 * @param tracks in plate frames; of a solve, where its camera sees its points
 * @param solve empty where the file holds 2D tracks
 */
record EvidenceFile(Observations tracks, Optional<Shot> solve) {

  /**
   * @throws InputError when it holds neither
   */
  static EvidenceFile read(Path file, ShotIntake intake, IntakeOptions options, Progress p) {
    if (Files.isDirectory(file) || String.valueOf(file.getFileName()).contains("#")) {
      return new EvidenceFile(
          followed(SequenceCommand.sequence(file), options, p), Optional.empty());
    }
    ReceivedSet set = intake.add(file, options, p).received(options);
    for (ReceivedFile f : set.files()) {
      if (!f.scene().observations().isEmpty()) {
        return new EvidenceFile(f.scene().observations(), Optional.empty());
      }
    }
    boolean camera = set.files().stream().anyMatch(f -> !f.scene().cameras().isEmpty());
    if (camera) {
      Shot solve = set.shot("evidence", options);
      Observations seen = TrustedSolve.tracks(solve);
      if (!seen.isEmpty()) {
        return new EvidenceFile(seen, Optional.of(solve));
      }
    }
    throw new InputError(
        file.toString(),
        "",
        "it contains neither 2D tracks nor a camera with points",
        "Give the tracks of the shot");
  }

  /**
   * Features of undistorted plates, in pixels of the picture where its size is stated. No point of
   * a solve has their names: the camera is measured.
   */
  private static Observations followed(PlateSequence plates, IntakeOptions options, Progress p) {
    Observations own =
        Tracer.of(plates.frames(), f -> PlateLuma.of(plates, f), TraceOptions.USUAL, Mask.NONE, p)
            .observations();
    return PlatePixels.of(plates, options.size().orElse(plates.picture())).toPicture(own);
  }
}
