package flarvo.receive;

import flarvo.format.Formats;
import flarvo.format.TextSource;
import flarvo.plate.PlateFinder;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/** Puts one shot together from the files that came for it: scenes, tables, logs and plates. */
public final class ShotIntake {

  /** Folders inside a dropped folder that are looked into. */
  private static final int DEEPEST = 4;

  private final List<ReceivedFile> files = new ArrayList<>();
  private final List<PlateSequence> plates = new ArrayList<>();
  private final List<ShotLog> logs = new ArrayList<>();
  private final List<LensSheet> lenses = new ArrayList<>();
  private final List<Note> notes = new ArrayList<>();

  /**
   * Takes in a file by its content, the plates that a picture belongs to, or all that lies in a
   * folder.
   */
  public ShotIntake add(Path path, IntakeOptions options, Progress progress) {
    if (Files.isDirectory(path)) {
      folder(path, options, progress, 0);
    } else if (PlateFinder.isPicture(path)) {
      plates.addAll(PlateFinder.find(path));
    } else {
      file(path, options, progress);
    }
    return this;
  }

  /** Plates that are already known, with the role they were given. */
  public ShotIntake add(PlateSequence sequence) {
    plates.add(sequence);
    return this;
  }

  private void file(Path path, IntakeOptions options, Progress progress) {
    byte[] head = TextSource.head(path);
    if (LensSheet.recognises(head)) {
      lenses.add(LensSheet.read(path));
    } else if (!Formats.isKnown(head) && !Formats.isExtension(path) && ShotLog.recognises(head)) {
      logs.add(ShotLog.read(path));
    } else {
      ReceivedFile f = ReceivedFile.read(path, options.from(), progress);
      files.add(f);
      notes.addAll(f.scene().notes());
    }
  }

  /** What is not understood in a folder is noted and left alone. */
  private void folder(Path path, IntakeOptions options, Progress progress, int depth) {
    List<Path> inside;
    try (Stream<Path> list = Files.list(path)) {
      inside = list.sorted().toList();
    } catch (IOException e) {
      throw new InputError(path.toString(), "", "the folder cannot be read", "", e);
    }
    boolean pictures = inside.stream().anyMatch(PlateFinder::isPicture);
    if (pictures) {
      plates.addAll(PlateFinder.find(path));
    }
    for (Path p : inside) {
      progress.step(0, 0);
      if (Files.isDirectory(p) && depth < DEEPEST) {
        folder(p, options, progress, depth + 1);
      } else if (Files.isRegularFile(p) && !PlateFinder.isPicture(p)) {
        try {
          file(p, options, progress);
        } catch (InputError e) {
          notes.add(Note.ignored(p.getFileName().toString(), e.reason()));
        }
      }
    }
    if (depth == 0 && files.isEmpty() && plates.isEmpty() && logs.isEmpty()) {
      throw new InputError(
          path.toString(),
          "",
          "there is nothing in this folder that is known here",
          "Drop the folder with the camera, the tracks or the plates");
    }
  }

  public ReceivedSet received(IntakeOptions base) {
    return new ReceivedSet(files, plates, logs, lenses, base, notes);
  }

  public List<Note> notes() {
    return List.copyOf(notes);
  }

  /** See {@link ReceivedSet#shot(String, IntakeOptions)}. */
  public Shot shot(String name, IntakeOptions options) {
    return received(options).shot(name, options);
  }
}
