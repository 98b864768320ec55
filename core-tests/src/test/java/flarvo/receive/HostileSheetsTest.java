package flarvo.receive;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.HostileFiles;
import flarvo.convention.Dialects;
import flarvo.lens.LensSheet;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Lens sheets, logs, 2D tracks and project files, cut off and garbled. */
class HostileSheetsTest {

  private static final Path MERIDIAN = Path.of("../demo/meridian");
  private static final Path INCOMING = MERIDIAN.resolve("mer_010_terrace/incoming");

  @TempDir private Path dir;

  private static byte[] demo(String name) throws IOException {
    return Files.readAllBytes(INCOMING.resolve("mer_010_terrace_" + name));
  }

  @Test
  void lensSheets() throws IOException {
    byte[] whole = demo("lens.json");
    HostileFiles.cutOff(whole, dir.resolve("cut.json"), cut -> cut == 0, LensSheet::read);
    HostileFiles.garbled(whole, dir.resolve("bad.json"), LensSheet::read);
  }

  /** A log is free text: whatever is left of it is one, and claims nothing that it does not say. */
  @Test
  void logs() throws IOException {
    byte[] whole = demo("log.txt");
    HostileFiles.garbled(whole, dir.resolve("bad.txt"), ShotLog::read);
    int most = ShotLog.read(INCOMING.resolve("mer_010_terrace_log.txt")).claims().size();
    for (int i = 1; i <= 200; i++) {
      Path file = dir.resolve("cut.txt");
      Files.write(file, java.util.Arrays.copyOf(whole, Math.max(1, whole.length * i / 200)));
      assertThat(ShotLog.read(file).claims()).hasSizeLessThanOrEqualTo(most);
    }
  }

  @Test
  void tracks() throws IOException {
    String text = new String(demo("tracks.csv"), StandardCharsets.UTF_8);
    byte[] whole = text.substring(0, text.indexOf('\n', 1200)).getBytes(StandardCharsets.UTF_8);
    HostileFiles.garbled(whole, dir.resolve("bad.csv"), this::takeIn);
  }

  private void takeIn(Path file) {
    new ShotIntake()
        .add(file, IntakeOptions.NONE, Progress.NONE)
        .received(IntakeOptions.NONE)
        .files();
  }

  @Test
  void projects() throws IOException {
    byte[] whole = Files.readAllBytes(MERIDIAN.resolve("project.json"));
    Dialects dialects = Dialects.shipped();
    HostileFiles.cutOff(whole, dir.resolve("cut.json"), cut -> cut == 0, ProjectFile::read);
    HostileFiles.garbled(
        whole,
        dir.resolve("bad.json"),
        file -> {
          ProjectFile p = ProjectFile.read(file);
          if (!p.shots().isEmpty()) {
            // Names of files are whatever they became; they are looked for and not found.
            try {
              new ProjectLoader(p, dialects).missing(p.shots().get(0));
            } catch (java.nio.file.InvalidPathException e) {
              throw new InputError(file.toString(), "files", "no path", "", e);
            }
          }
        });
  }
}
