package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.scene.Shot;
import flarvo.suspect.Mending;
import flarvo.vet.MadeShots;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A file that came back, against the shot's 2D tracks and against the shot itself. */
class ReturnedFileTest {

  @TempDir private Path dir;

  private final Shot shot = MadeShots.made(MadeShots.Move.WALK, 1, 0.3, 0, 60, 80, 5).truth();

  private Path sent() {
    Path file = dir.resolve("back.usda");
    Delivery d =
        new Delivery(
            "d",
            Dialects.shipped().get("comp-yup"),
            Formats.byId("usd-text"),
            Contents.CAMERA_AND_TRACKERS,
            "d");
    Dispatcher.send(shot, d, file, Progress.NONE);
    return file;
  }

  private ReturnedFile read(Path file) {
    return ReturnedFile.of(
        List.of(file),
        ShotIntake::new,
        IntakeOptions.NONE.withSize(shot.picture()),
        shot.observations(),
        Optional.empty(),
        Progress.NONE);
  }

  @Test
  void aFileAsItWasSentHasNothingWrong() {
    ReturnedFile f = read(sent());
    assertThat(f.report().cause()).isEmpty();
    assertThat(f.report().notes()).noneMatch(n -> n.contains("between frames"));
    assertThat(f.against(shot, Progress.NONE).orElseThrow().maxPx()).isLessThan(0.001);
  }

  /** Every key half a frame late: said of the keys, found by the tracks, and mended. */
  @Test
  void keysBetweenFramesAreSaidAndFound() throws IOException {
    Path file = sent();
    Files.writeString(file, Files.readString(file).replaceAll("(?m)^(\\s+\\d{4}): \\(", "$1.5: ("));
    ReturnedFile f = read(file);
    assertThat(f.report().notes())
        .anyMatch(n -> n.startsWith("60 of 60 keys of camera cam lie between frames"));
    assertThat(f.report().cause().orElseThrow().causes().get(0).code()).isEqualTo("frame-shift");
    double before = f.against(shot, Progress.NONE).orElseThrow().rmsPx();
    double after =
        ReturnedFile.drift(
                shot,
                Mending.of(f.shot(), f.report().cause().orElseThrow()).levelled(),
                Progress.NONE)
            .orElseThrow()
            .rmsPx();
    assertThat(after).isLessThan(before / 5);
  }
}
