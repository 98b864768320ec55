package flarvo.folder;

import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.receive.ShotLog;
import flarvo.report.Note;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * What was found of one shot.
 *
 * @param files scenes, tables, lens sheets and logs
 * @param plates folders of numbered pictures
 * @param listed what a shot list states about it
 * @param notes what of it was left out
 */
public record FoundShot(
    String name, List<Path> files, List<Path> plates, Optional<ShotLog> listed, List<Note> notes) {

  public FoundShot {
    files = List.copyOf(files);
    plates = List.copyOf(plates);
    notes = List.copyOf(notes);
  }

  /**
   * Reads all of it. What cannot be read is a note of the answer.
   *
   * @param options what is said of the sender
   */
  public ReceivedSet received(IntakeOptions options, Progress progress) {
    ShotIntake intake = new ShotIntake();
    plates.forEach(intake::addPlates);
    for (Path f : files) {
      intake.addReadable(f, options, progress);
    }
    listed.ifPresent(intake::add);
    return intake.received(options);
  }
}
