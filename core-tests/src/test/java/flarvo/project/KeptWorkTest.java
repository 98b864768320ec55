package flarvo.project;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.decision.DecisionLog;
import flarvo.decision.ReceiveDecision;
import flarvo.receive.Fact;
import flarvo.scene.PlateRole;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is kept beside and between sessions: unsaved work, recent projects, diary, found files. */
class KeptWorkTest {

  @TempDir private Path dir;

  private ProjectFile project(Path file, String rate) {
    return new ProjectFile(
        file,
        "P",
        List.of(
            new ProjectShot(
                "s1",
                List.of("in/camera.fbx", "in/tracks.csv"),
                List.of(new ProjectShot.PlateFolder("a/plates", PlateRole.ORIGINAL)),
                Optional.empty(),
                DecisionLog.of(List.of(new ReceiveDecision.Rule(Fact.RATE, rate))))));
  }

  @Test
  void unsavedWorkIsThereUntilItIsSaved() throws IOException {
    Recovery r = new Recovery(dir.resolve("home"));
    ProjectFile saved = project(dir.resolve("p.json"), "24");
    saved.save();
    assertThat(r.recovered(saved)).isEmpty();
    r.keep(project(dir.resolve("p.json"), "25"), 1);
    assertThat(r.recovered(saved).get(0).project().shots().get(0).rulings())
        .containsEntry("rate", "25");
    assertThat(r.recovered(project(dir.resolve("p.json"), "25"))).isEmpty();
    assertThat(r.recovered(project(dir.resolve("other.json"), "24"))).isEmpty();
    r.forget(saved.file(), 1);
    assertThat(r.recovered(saved)).isEmpty();
  }

  @Test
  void locksOfRunsThatWereKilledAreRemoved() throws IOException {
    Path kept = Files.createDirectories(dir.resolve("home/recovery"));
    Path old = Files.createFile(kept.resolve("old.lock"));
    Files.setLastModifiedTime(old, FileTime.from(Instant.now().minusSeconds(600)));
    Path young = Files.createFile(kept.resolve("young.lock"));
    Recovery other = new Recovery(dir.resolve("home"));
    other.keep(project(dir.resolve("o.json"), "25"), 1);
    Path held;
    try (Stream<Path> all = Files.list(kept)) {
      held = all.filter(p -> p.toString().endsWith(".lock") && !p.equals(young)).findFirst().get();
    }
    Files.setLastModifiedTime(held, FileTime.from(Instant.now().minusSeconds(600)));
    assertThat(old).doesNotExist();

    new Recovery(dir.resolve("home")).keep(project(dir.resolve("p.json"), "25"), 1);
    assertThat(young).as("a run that just begins may not hold it yet").exists();
    assertThat(held).exists();
  }

  @Test
  void aSaveDoesNotTakeWhatWasEditedMeanwhile() {
    Recovery r = new Recovery(dir.resolve("home"));
    ProjectFile saved = project(dir.resolve("p.json"), "24");
    r.keep(project(saved.file(), "30"), 7);
    r.forget(saved.file(), 6);
    assertThat(r.recovered(saved)).as("edit 7 is in no file yet").hasSize(1);
    r.forget(saved.file(), 7);
    assertThat(r.recovered(saved)).isEmpty();
  }

  /** What one run left and nobody answered for stays, whatever the next run keeps. */
  @Test
  void severalCopiesWaitSideBySide() {
    ProjectFile saved = project(dir.resolve("p.json"), "24");
    for (String rate : new String[] {"25", "30", "48"}) {
      Recovery run = new Recovery(dir.resolve("home"));
      run.keep(project(saved.file(), rate), 1);
      run.close();
    }
    Recovery now = new Recovery(dir.resolve("home"));
    now.keep(project(saved.file(), "50"), 1);
    List<RecoveredWork> all = now.recovered(saved);
    assertThat(all)
        .extracting(w -> w.project().shots().get(0).rulings().get("rate"))
        .containsExactlyInAnyOrder("25", "30", "48", "50");
    now.discard(all.get(1));
    assertThat(now.recovered(saved)).hasSize(3).doesNotContain(all.get(1));
  }

  @Test
  void whatAnotherWindowStillEditsIsNotOffered() {
    ProjectFile saved = project(dir.resolve("p.json"), "24");
    Recovery other = new Recovery(dir.resolve("home"));
    other.keep(project(saved.file(), "25"), 1);
    Recovery mine = new Recovery(dir.resolve("home"));
    assertThat(mine.recovered(saved)).isEmpty();
    other.close();
    assertThat(mine.recovered(saved)).hasSize(1);
  }

  @Test
  void aShotWithoutAProjectIsKeptUnderANameOfItsOwn() {
    Recovery r = new Recovery(dir.resolve("home"));
    Path place = r.unnamed();
    r.keep(project(place, "25"), 1);
    assertThat(r.isUnnamed(place)).isTrue();
    assertThat(r.isUnnamed(dir.resolve("unnamed-1.json"))).isFalse();
    assertThat(r.recoveredUnnamed()).as("this run's own").isEmpty();
    r.close();
    Recovery next = new Recovery(dir.resolve("home"));
    RecoveredWork w = next.recoveredUnnamed().get(0);
    assertThat(w.project()).isEqualTo(project(place, "25"));
    next.discard(w);
    assertThat(next.recoveredUnnamed()).isEmpty();
  }

  @Test
  void preferencesComeBackAndNonsenseIsTheUsual() throws IOException {
    assertThat(Preferences.read(dir)).isEqualTo(Preferences.USUAL);
    new Preferences(true, true, false).write(dir);
    assertThat(Preferences.read(dir).watchFiles()).isFalse();
    assertThat(Preferences.read(dir).keepOnClose()).isTrue();
    Files.writeString(dir.resolve("preferences.json"), "{\"keepOnClose\": 3");
    assertThat(Preferences.read(dir)).isEqualTo(Preferences.USUAL);
  }

  @Test
  void aKeptCopyThatWasCutOffIsNotOffered() throws IOException {
    Recovery r = new Recovery(dir.resolve("home"));
    ProjectFile p = project(dir.resolve("p.json"), "24");
    r.keep(project(p.file(), "25"), 1);
    try (var files = Files.list(dir.resolve("home/recovery"))) {
      Path copy = files.filter(f -> f.toString().endsWith(".json")).findFirst().orElseThrow();
      Files.writeString(copy, Files.readString(copy).substring(0, 40));
    }
    assertThat(r.recovered(p)).isEmpty();
  }

  @Test
  void recentProjectsComeLastFirstAndOnlyWhileTheyAreThere() throws IOException {
    RecentProjects recent = new RecentProjects(dir);
    for (int i = 0; i < 20; i++) {
      recent.add(Files.writeString(dir.resolve("p" + i + ".json"), "{}"));
    }
    recent.add(dir.resolve("p15.json"));
    assertThat(recent.list()).hasSize(12);
    assertThat(recent.list().get(0)).isEqualTo(dir.resolve("p15.json"));
    assertThat(recent.list().get(1)).isEqualTo(dir.resolve("p19.json"));
    Files.delete(dir.resolve("p19.json"));
    assertThat(recent.list()).doesNotContain(dir.resolve("p19.json")).hasSize(11);
  }

  @Test
  void oneSearchFindsAllThatIsMissing() throws IOException {
    ProjectFile p = project(dir.resolve("p.json"), "24");
    Path moved = dir.resolve("elsewhere/deep");
    for (String f : new String[] {"x/in/camera.fbx", "in/tracks.csv", "y/camera.fbx"}) {
      Files.createDirectories(moved.resolve(f).getParent());
      Files.writeString(moved.resolve(f), "x");
    }
    Files.createDirectories(moved.resolve("plates"));
    Relink.Result r =
        Relink.under(
            p,
            List.of("in/camera.fbx", "in/tracks.csv", "a/plates", "in/gone.abc"),
            dir.resolve("elsewhere"),
            Progress.NONE);
    assertThat(r.lost()).containsExactly("in/gone.abc");
    ProjectShot s = r.project().shots().get(0);
    // Of two files of one name, the one whose folders are called as they were.
    assertThat(s.files())
        .containsExactly("elsewhere/deep/x/in/camera.fbx", "elsewhere/deep/in/tracks.csv");
    assertThat(s.plates().get(0).path()).isEqualTo("elsewhere/deep/plates");
  }

  @Test
  void aDiaryTellsNotesFromWhatWasDone() {
    Diary d =
        new Diary(List.of(), Clock.fixed(Instant.parse("2026-03-04T05:06:07Z"), ZoneOffset.UTC));
    d.add("Rate is 25 · 0.31 px");
    d.note("  ask tracking for the lens  ");
    assertThat(Diary.asText("s1", d.entries(), ZoneOffset.UTC))
        .isEqualTo(
            "Diary of s1\n2026-03-04 05:06:07  Rate is 25 · 0.31 px\n"
                + "2026-03-04 05:06:07  note: ask tracking for the lens\n");
  }
}
