package flarvo.desktop.state;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialects;
import flarvo.decision.VetDecision;
import flarvo.desktop.work.Lane;
import flarvo.project.ProjectFile;
import flarvo.project.RecoveredWork;
import flarvo.project.Recovery;
import flarvo.project.UserFolder;
import flarvo.vet.Culling;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Unsaved work without a window: in whatever order things happen, no edit is lost. */
class UnsavedWorkTest {

  @TempDir private Path dir;

  private String before;
  private Path home;

  /** One run of the program. */
  private static final class Run {
    final HandDriven by = new HandDriven();
    final Deque<Runnable> later = new ArrayDeque<>();
    final List<String> said = new ArrayList<>();
    private final List<ProjectStore> project = new ArrayList<>(); // edits come before it is made
    final ShotStore store =
        new ShotStore(by.jobs, List.of(), said::add, what -> project.forEach(ProjectStore::edited));

    Run() {
      project.add(
          new ProjectStore(
              by.jobs, Dialects::shipped, store, new ShotDiary(store), said::add, later::add));
      by.everything();
    }

    ProjectStore project() {
      return project.get(0);
    }

    Run open(Path... files) {
      project().open(List.of(files));
      by.everything();
      return this;
    }

    void cull(String name) {
      begin(name);
      by.applied();
    }

    /** A cull that is not applied yet. */
    void begin(String name) {
      store.decide(new VetDecision.Cull(new Culling.ByHand(Set.of(name))));
    }

    /** The wait after an edit is over. */
    void soon() {
      while (!later.isEmpty()) {
        later.remove().run();
      }
    }

    Set<String> culled() {
      return store.now().get().state().vetting().culled();
    }

    void close() {
      project().autosave().close();
      by.everything();
      project().closed();
    }
  }

  @BeforeEach
  void write() throws IOException {
    before = System.getProperty(UserFolder.PROPERTY);
    home = dir.resolve("home");
    System.setProperty(UserFolder.PROPERTY, home.toString());
    Files.writeString(
        dir.resolve("camera.csv"),
        "# picture: 1920x1080\n# rate: 24\n# rotation order: XYZ\n"
            + "frame,tx,ty,tz,rx,ry,rz,focal_mm,film_width_mm,film_height_mm\n"
            + "1,0,0,0,0,0,0,35,36,20.25\n2,1,0,0,0,0,0,35,36,20.25\n");
    Files.writeString(
        dir.resolve("points.csv"), "tracker,x,y,z\na,0,0,-5\nb,1,0,-6\nc,0,1,-7\nd,1,1,-8\n");
  }

  @AfterEach
  void restore() {
    if (before == null) {
      System.clearProperty(UserFolder.PROPERTY);
    } else {
      System.setProperty(UserFolder.PROPERTY, before);
    }
  }

  private Path saved() {
    Run r = new Run().open(dir.resolve("camera.csv"), dir.resolve("points.csv"));
    Path file = dir.resolve("p.json");
    r.project().saveAs(file);
    r.by.everything();
    assertThat(r.said).contains("Saved p.json");
    r.close();
    return file;
  }

  private List<RecoveredWork> left(Path file) {
    return new Recovery(home).recovered(ProjectFile.read(file));
  }

  @Test
  void anEditWhileASaveRunsStaysUnsavedAndIsKept() {
    Path file = saved();
    Run r = new Run().open(file);
    r.cull("a");
    r.project().save();
    r.cull("b"); // the save has begun, and knows nothing of it
    r.by.everything();
    assertThat(r.project().autosave().isUnsaved()).isTrue();
    r.close();
    assertThat(left(file)).hasSize(1);
    Run next = new Run().open(file);
    assertThat(next.culled()).containsExactly("a");
    assertThat(next.project().autosave().recovered().get()).isNotNull();
    next.project().autosave().restore();
    next.by.everything();
    assertThat(next.culled()).containsExactlyInAnyOrder("a", "b");
    next.project().save();
    next.by.everything();
    assertThat(next.project().autosave().isUnsaved()).isFalse();
    next.close();
    assertThat(left(file)).as("saved, so nothing is left").isEmpty();
  }

  /** What was decided before the save is saved, be it applied or not. */
  @Test
  void aSaveWaitsForWhatWasDecided() {
    Path file = saved();
    Run r = new Run().open(file);
    r.begin("a");
    r.begin("b");
    r.project().save();
    assertThat(r.by.waiting(Lane.KEEP)).isZero();
    r.by.everything();
    r.close();
    assertThat(new Run().open(file).culled()).containsExactlyInAnyOrder("a", "b");
  }

  @Test
  void anotherFileWaitsForWhatWasDecided() {
    Path file = saved();
    Run r = new Run().open(file);
    r.begin("a");
    r.project().open(List.of(dir.resolve("camera.csv"), dir.resolve("points.csv")));
    r.by.work(Lane.LOAD);
    r.by.window(); // read before the decision is applied
    assertThat(r.project().file()).isPresent();
    r.by.everything();
    assertThat(r.project().file()).isEmpty();
    r.close();
    assertThat(left(file)).hasSize(1);
    Run next = new Run().open(file);
    next.project().autosave().restore();
    next.by.everything();
    assertThat(next.culled()).containsExactly("a");
  }

  /** The copy of the newer edit was written before the save's answer came back. */
  @Test
  void aSaveDoesNotRemoveTheCopyOfALaterEdit() {
    Path file = saved();
    Run r = new Run().open(file);
    r.cull("a");
    r.project().save();
    r.cull("b");
    r.soon(); // the autosave waits behind the save
    r.by.everything();
    r.close();
    assertThat(left(file)).hasSize(1);
  }

  @Test
  void anotherShotIsOpenedRightAfterAnEdit() {
    Path file = saved();
    Run r = new Run().open(file);
    r.cull("a");
    r.open(dir.resolve("camera.csv"), dir.resolve("points.csv")); // the wait is not over
    assertThat(left(file)).isEmpty(); // this run still holds it
    r.close();
    assertThat(left(file)).hasSize(1);
  }

  @Test
  void editsThatFollowEachOtherDoNotPutTheCopyOff() {
    Path file = saved();
    Run r = new Run().open(file);
    r.cull("a");
    r.cull("b");
    r.cull("c");
    assertThat(r.later).as("one wait, begun by the first of them").hasSize(1);
    r.soon();
    assertThat(r.by.waiting(Lane.KEEP)).isEqualTo(1);
    r.cull("d");
    assertThat(r.later).as("the next wait").hasSize(1);
  }

  @Test
  void aShotWithoutAProjectIsKeptFromTheFirstEdit() {
    Run r = new Run().open(dir.resolve("camera.csv"), dir.resolve("points.csv"));
    r.cull("a");
    r.soon();
    r.by.everything();
    r.project().autosave().closed(); // as after a crash: nothing more is written
    Run next = new Run();
    List<RecoveredWork> left = next.project().autosave().unnamed().get();
    assertThat(left).hasSize(1);
    next.project().autosave().restore(left.get(0));
    next.by.everything();
    assertThat(next.culled()).containsExactly("a");
    assertThat(next.project().hasProject()).as("saving asks for a name").isFalse();
    assertThat(next.project().file()).isEmpty();
    Path file = dir.resolve("named.json");
    next.project().saveAs(file);
    next.by.everything();
    next.close();
    assertThat(new Recovery(home).recoveredUnnamed()).isEmpty();
    assertThat(ProjectFile.read(file).name()).isEqualTo("named");
    Run last = new Run().open(file);
    assertThat(last.culled()).containsExactly("a");
  }

  @Test
  void whatIsOfferedAndNotAnsweredStays() {
    Path file = saved();
    Run crashed = new Run().open(file);
    crashed.cull("a");
    crashed.close();
    Run r = new Run().open(file);
    assertThat(r.project().autosave().recovered().get()).isNotNull();
    r.cull("b"); // and no answer
    r.close();
    assertThat(left(file)).hasSize(2);
    Run next = new Run().open(file);
    assertThat(next.project().autosave().offers()).isEqualTo(2);
    next.project().autosave().discard();
    next.by.everything();
    assertThat(next.project().autosave().offers()).isEqualTo(1);
    next.close();
    assertThat(left(file)).hasSize(1);
  }

  @Test
  void discardingOnCloseLeavesNothing() {
    Path file = saved();
    Run r = new Run().open(file);
    r.cull("a");
    r.soon();
    r.by.everything();
    r.project().autosave().drop();
    r.by.everything();
    r.close();
    assertThat(left(file)).isEmpty();
  }

  @Test
  void aSaveThatFailsLeavesTheWorkUnsavedAndKept() throws IOException {
    Path file = saved();
    Run r = new Run().open(file);
    r.cull("a");
    Files.delete(file);
    Files.createDirectories(file.resolve("in the way"));
    r.project().save();
    r.by.everything();
    assertThat(r.project().autosave().isUnsaved()).isTrue();
    r.soon();
    r.by.everything();
    r.close();
    Files.delete(file.resolve("in the way"));
    Files.delete(file);
    saved();
    assertThat(left(file)).hasSize(1);
  }

  @Test
  void theSecondWindowOnAProjectIsReadOnlyAndSaysWhoHasIt() {
    Path file = saved();
    Run first = new Run().open(file);
    Run second = new Run().open(file);
    assertThat(first.project().holder().get()).isNull();
    assertThat(second.project().holder().get().process()).isEqualTo(ProcessHandle.current().pid());
    second.cull("a");
    second.project().save();
    second.by.everything();
    assertThat(second.said.get(second.said.size() - 1)).contains("has had this project open since");
    assertThat(second.project().autosave().isUnsaved()).isTrue();
    Path other = dir.resolve("other.json");
    second.project().saveAs(other);
    second.by.everything();
    assertThat(second.project().holder().get()).isNull();
    first.close();
    second.close();
    Run next = new Run().open(file);
    assertThat(next.project().holder().get()).as("let go on closing").isNull();
  }

  @Test
  void aProjectThatChangedOnDiskIsNotReplacedUnseen() throws IOException {
    Path file = saved();
    Run r = new Run().open(file);
    r.cull("a");
    String theirs = Files.readString(file).replace("\"p\"", "\"theirs\"");
    Files.writeString(file, theirs);
    r.project().save();
    r.by.everything();
    assertThat(r.said.get(r.said.size() - 1)).contains("changed on disk");
    assertThat(Files.readString(file)).isEqualTo(theirs);
    assertThat(r.project().autosave().isUnsaved()).isTrue();
    r.project().saveAs(file); // the user named it: they know
    r.by.everything();
    assertThat(ProjectFile.read(file).shots().get(0).log().entries()).hasSize(1);
    r.cull("b");
    r.project().save();
    r.by.everything();
    assertThat(r.project().autosave().isUnsaved()).isFalse();
  }
}
