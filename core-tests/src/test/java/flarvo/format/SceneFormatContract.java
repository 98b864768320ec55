package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.HostileFiles;
import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.proof.DriftReport;
import flarvo.proof.Proof;
import flarvo.proof.ProofReport;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.scene.Vec3;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What every format must do; each format's own test inherits it. */
public abstract class SceneFormatContract {

  @TempDir protected Path dir;

  protected abstract SceneFormat format();

  /** Largest drift that this format's numbers can cause, in pixels. */
  protected abstract double limitPx();

  /** Words that a reader needs for its errors: a line, or an offset. */
  protected static final String PLACE = ".*(line \\d+|byte offset \\d+|claims \\d+).*";

  protected final Path send(Shot shot, Dialect to, String name) {
    Path file = dir.resolve(name + format().extensions().get(0));
    Dispatcher.send(
        shot,
        new Delivery(
            name, to, format(), Contents.CAMERA_AND_TRACKERS, file.getFileName().toString()),
        file,
        Progress.NONE);
    return file;
  }

  protected final void holds(Shot shot, Dialect to, double limit) {
    Path file = send(shot, to, to.name());
    ProofReport p = Proof.of(shot, file, to, limit, Progress.NONE);
    DriftReport d = p.drift().orElseThrow();
    assertThat(d.compared()).isPositive();
    assertThat(d.maxPx()).as("drift to %s", to).isLessThanOrEqualTo(limit);
    assertThat(p.checks()).as("checks to %s", to).allMatch(c -> c.holds(), "holds");
    assertThat(p.holds()).isTrue();
  }

  @Test
  void aWalkComesBackFromEveryDialect() {
    Shot shot = TestShots.walk(20, 40, 3);
    for (Dialect d : Dialects.shipped().all()) {
      holds(shot, d, limitPx());
    }
  }

  @Test
  void aShotFiveKilometresAwayComesBackToo() {
    Shot shot = TestShots.moved(TestShots.walk(20, 40, 3), new Vec3(4000, 120, -3000));
    for (Dialect d : Dialects.shipped().all()) {
      holds(shot, d, Math.max(limitPx(), 1e-6));
    }
  }

  @Test
  protected void aZoomWithAShiftedLensComesBackWhereTheRecipientUnderstandsIt() {
    Shot shot = TestShots.zoom(15, 20, 8);
    for (String d : new String[] {"anim-yup-cm", "comp-yup", "engine-zup-left-cm"}) {
      holds(shot, Dialects.shipped().get(d), limitPx());
    }
  }

  @Test
  protected void oneTrackerAndOneFrameAreEnough() {
    holds(TestShots.walk(1, 2, 4), Dialects.shipped().get("anim-zup-m"), limitPx());
  }

  @Test
  void isKnownByItsContent() {
    Path file = send(TestShots.walk(2, 2, 1), Dialects.shipped().get("comp-yup"), "a");
    assertThat(Formats.recognise(file).id()).isEqualTo(format().id());
  }

  @Test
  void theSameShotGivesTheSameBytes() throws IOException {
    Dialect d = Dialects.shipped().get("anim-yup-m");
    byte[] a = Files.readAllBytes(send(TestShots.walk(5, 5, 1), d, "a"));
    byte[] b = Files.readAllBytes(send(TestShots.walk(5, 5, 1), d, "b"));
    assertThat(a).isEqualTo(b);
  }

  @Test
  void aMissingAndAnEmptyFileAreErrors() throws IOException {
    Path none = dir.resolve("none" + format().extensions().get(0));
    assertThatThrownBy(() -> read(none))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("file not found");
    Files.createFile(none);
    assertThatThrownBy(() -> read(none))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("empty");
  }

  @Test
  void aFileCutOffAnywhereIsAnErrorWithItsPlace() throws IOException {
    byte[] whole =
        Files.readAllBytes(
            send(TestShots.walk(12, 9, 1), Dialects.shipped().get("track-zup"), "whole"));
    Path file = dir.resolve("cut" + format().extensions().get(0));
    HostileFiles.cutOff(whole, file, cut -> readsTheSame(cut, whole), this::read);
  }

  /** Where a format ends in a part that repeats what came before, cutting it off loses nothing. */
  protected boolean readsTheSame(int cut, byte[] whole) {
    return false;
  }

  @Test
  void garbledFilesEndInAnErrorOrAScene() throws IOException {
    byte[] whole =
        Files.readAllBytes(
            send(TestShots.walk(4, 4, 1), Dialects.shipped().get("track-zup"), "whole"));
    HostileFiles.garbled(whole, dir.resolve("garbled" + format().extensions().get(0)), this::read);
  }

  @Test
  void aDeliveryThatIsStoppedLeavesNoFileAtAll() throws IOException {
    Shot shot = TestShots.walk(50, 50, 1);
    Dialect d = Dialects.shipped().get("anim-yup-m");
    for (int after : new int[] {0, 1, 7, 30}) {
      Path file = dir.resolve("stopped" + format().extensions().get(0));
      Progress impatient = new StopAfter(after);
      assertThatThrownBy(
              () ->
                  Dispatcher.send(
                      shot,
                      new Delivery("x", d, format(), Contents.CAMERA_AND_TRACKERS, "x"),
                      file,
                      impatient))
          .isInstanceOf(Cancelled.class);
      try (Stream<Path> left = Files.list(dir)) {
        assertThat(left).isEmpty();
      }
    }
  }

  @Test
  void aFailedDeliveryLeavesTheOldFileAsItWas() throws IOException {
    Dialect d = Dialects.shipped().get("anim-yup-m");
    Path file = send(TestShots.walk(3, 3, 1), d, "kept");
    byte[] before = Files.readAllBytes(file);
    assertThatThrownBy(
            () ->
                Dispatcher.send(
                    TestShots.walk(60, 60, 2),
                    new Delivery("x", d, format(), Contents.CAMERA_AND_TRACKERS, "x"),
                    file,
                    new StopAfter(9)))
        .isInstanceOf(Cancelled.class);
    assertThat(Files.readAllBytes(file)).isEqualTo(before);
  }

  protected final FileScene read(Path file) {
    return format().read(file, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
  }

  protected final Path file(String text) throws IOException {
    Path f = dir.resolve("given" + format().extensions().get(0));
    Files.writeString(f, text);
    return f;
  }

  /** Cancels after a number of steps. */
  private static final class StopAfter implements Progress {
    private int left;

    StopAfter(int steps) {
      left = steps;
    }

    @Override
    public void at(long done, long total) {}

    @Override
    public boolean isCancelled() {
      return left-- <= 0;
    }
  }
}
