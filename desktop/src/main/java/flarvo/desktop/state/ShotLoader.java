package flarvo.desktop.state;

import flarvo.convention.Dialects;
import flarvo.decision.DecisionHistory;
import flarvo.decision.ShotState;
import flarvo.folder.ShotFinder;
import flarvo.format.Reach;
import flarvo.format.TextSource;
import flarvo.format.table.TableMapping;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.project.ProjectShot;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;

/**
 * A shot that was opened, and the project it is of.
 *
 * @param history null where nothing makes a shot before the user says what a table holds
 * @param drawn what is made of the shot, worked out beside the window
 * @param waiting what came then; else null
 * @param found several shots in folders that were opened; else null
 * @param project null for files that were dropped without one, and so is {@code entry}
 */
public record ShotLoader(
    ProjectFile project,
    ProjectShot entry,
    DecisionHistory history,
    DerivedShot drawn,
    ReceivedSet waiting,
    ShotFinder.Found found) {

  /** Null where nothing makes a shot yet. */
  ShotState state() {
    return history == null ? null : history.present();
  }

  /** What was opened; for a shot that there is. */
  String sentence() {
    Shot shot = drawn.shot();
    return history.filesChanged()
        ? "The files of "
            + state().name()
            + " changed since its decisions were made; what they worked out is from before"
        : "Opened "
            + shot.name()
            + ": "
            + shot.frames().count()
            + " frames, "
            + shot.trackerCount()
            + " trackers";
  }

  /**
   * Makes a shot of scene files, tables, logs and plates; folders are looked through.
   *
   * @param one whether folders hold one shot, whatever it looks like
   */
  static ShotLoader files(
      List<Path> files,
      boolean one,
      Function<String, Optional<TableMapping>> known,
      Reach reach,
      Progress progress) {
    if (!one && files.stream().allMatch(Files::isDirectory)) {
      ShotFinder.Found found = ShotFinder.find(files, Optional.empty(), progress);
      // Folders that are opened together may be parts of one shot: its files here, its plates
      // there.
      long solves = found.shots().stream().filter(s -> !s.files().isEmpty()).count();
      if (solves > 1 || files.size() == 1 && found.shots().size() > 1) {
        return new ShotLoader(null, null, null, null, null, found);
      }
    }
    ShotIntake in = new ShotIntake(known);
    IntakeOptions options = IntakeOptions.NONE.withReach(reach);
    files.forEach(f -> in.add(f, options, progress));
    ReceivedSet received = in.received(options);
    boolean camera = received.files().stream().anyMatch(f -> !f.scene().cameras().isEmpty());
    return !camera && !received.unmapped().isEmpty()
        ? new ShotLoader(null, null, null, null, received, null)
        : of(received, name(files));
  }

  /** Makes a shot of files that are read already. */
  static ShotLoader of(ReceivedSet received) {
    return of(received, name(received.files().stream().map(ReceivedFile::path).toList()));
  }

  private static ShotLoader of(ReceivedSet received, String name) {
    return opened(null, null, new DecisionHistory(ShotState.of(name, received)));
  }

  /**
   * Reads everything that a project names for a shot.
   *
   * @param missing told what is not where the project says, before the error is thrown
   */
  static ShotLoader shot(
      ProjectFile project,
      ProjectShot shot,
      Dialects dialects,
      Function<String, Optional<TableMapping>> known,
      Reach reach,
      Progress progress,
      Consumer<List<String>> missing) {
    ProjectLoader loader = new ProjectLoader(project, dialects, known, reach);
    List<String> gone = loader.missing(shot);
    if (!gone.isEmpty()) {
      missing.accept(gone);
      throw new InputError(
          project.file().toString(),
          "shot " + shot.name(),
          gone.size()
              + (gone.size() == 1 ? " file is" : " files are")
              + " not where the project says, such as "
              + gone.get(0),
          "Name the folder that holds them with 'Find missing files'");
    }
    return opened(project, shot, loader.open(shot, progress));
  }

  private static ShotLoader opened(
      ProjectFile project, ProjectShot entry, DecisionHistory history) {
    return new ShotLoader(project, entry, history, DerivedShot.of(history.present()), null, null);
  }

  /** By its first bytes; what cannot be read is no project, and is an error where it is opened. */
  static boolean isProject(Path file) {
    try {
      return file.toString().endsWith(".json")
          && new String(TextSource.head(file), StandardCharsets.UTF_8).contains("flarvo-project");
    } catch (InputError e) {
      return false;
    }
  }

  /** Several files are called by the folder they share. */
  private static String name(List<Path> files) {
    Path parent = files.get(0).toAbsolutePath().normalize().getParent();
    boolean shared =
        files.size() > 1
            && parent.getFileName() != null
            && files.stream().allMatch(f -> f.toAbsolutePath().normalize().startsWith(parent));
    return name(shared ? parent : files.get(0));
  }

  /** A file's name without its extension. */
  static String name(Path file) {
    String n = file.getFileName().toString();
    int dot = n.lastIndexOf('.');
    return dot > 0 ? n.substring(0, dot) : n;
  }
}
