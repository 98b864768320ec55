package flarvo.cli;

import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.suspect.TrustedSolve;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.Optional;

/**
 * What files are measured against: 2D tracks, or a solve that is known to be right.
 *
 * @param tracks in plate frames; of a solve, where its camera sees its points
 * @param solve empty where the file holds 2D tracks
 */
record EvidenceFile(Observations tracks, Optional<Shot> solve) {

  /**
   * @throws InputError when it holds neither
   */
  static EvidenceFile read(Path file, ShotIntake intake, IntakeOptions options, Progress p) {
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
}
