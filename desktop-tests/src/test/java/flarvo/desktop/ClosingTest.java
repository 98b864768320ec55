package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.decision.VetDecision;
import flarvo.project.Preferences;
import flarvo.project.ProjectFile;
import flarvo.project.Recovery;
import flarvo.project.UserFolder;
import flarvo.vet.Culling;
import java.nio.file.Path;
import java.util.Set;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;

/** Closing the window with unsaved work asks once what becomes of it. */
class ClosingTest extends WindowHarness {

  private final AtomicBoolean closed = new AtomicBoolean();
  private String before;
  private int stored;

  /** The window's own home folder: what is preferred here must not be preferred elsewhere. */
  @BeforeEach
  void edit() throws Exception {
    before = System.getProperty(UserFolder.PROPERTY);
    stored = decisions();
    String tracker = session.solved().trackers().get(0).names().get(0);
    onWindow(
        () -> session.store().decide(new VetDecision.Cull(new Culling.ByHand(Set.of(tracker)))));
    await(() -> session.project().autosave().isUnsaved());
  }

  @AfterEach
  void restore() {
    if (before != null) {
      System.setProperty(UserFolder.PROPERTY, before);
    } else {
      System.clearProperty(UserFolder.PROPERTY);
    }
  }

  private boolean ask() throws Exception {
    AtomicBoolean may = new AtomicBoolean();
    onWindow(() -> may.set(window.mayClose(() -> closed.set(true))));
    return may.get();
  }

  private int decisions() {
    return file().shots().get(0).log().entries().size();
  }

  private ProjectFile file() {
    return ProjectFile.read(dir.resolve("project.json"));
  }

  @Test
  void cancelStays(FxRobot robot) throws Exception {
    assertThat(ask()).isFalse();
    robot.clickOn("#closing-cancel");
    assertThat(closed).isFalse();
    assertThat(robot.lookup("#closing-card").query().isVisible()).isFalse();
  }

  @Test
  void saveSavesAndCloses(FxRobot robot) throws Exception {
    assertThat(ask()).isFalse();
    robot.clickOn("#closing-save");
    await(closed::get);
    assertThat(decisions()).isEqualTo(stored + 1);
    assertThat(ask()).as("nothing is unsaved any more").isTrue();
  }

  /** Without the wait the window would close as saved, and the decision would be gone. */
  @Test
  void whatIsStillBeingAppliedIsAskedAbout(FxRobot robot) throws Exception {
    onWindow(() -> session.project().save());
    await(() -> !session.project().autosave().isUnsaved());
    String tracker = session.solved().trackers().get(0).names().get(1);
    AtomicBoolean may = new AtomicBoolean(true);
    onWindow(
        () -> {
          session.store().decide(new VetDecision.Cull(new Culling.ByHand(Set.of(tracker))));
          may.set(window.mayClose(() -> closed.set(true)));
        });
    assertThat(may).isFalse();
    await(() -> robot.lookup("#closing-card").query().isVisible());
    assertThat(closed).isFalse();
  }

  @Test
  void keepForLaterCloses(FxRobot robot) throws Exception {
    assertThat(ask()).isFalse();
    robot.clickOn("#closing-keep");
    assertThat(closed).isTrue();
    assertThat(decisions()).isEqualTo(stored);
  }

  @Test
  void discardLeavesNoCopy(FxRobot robot) throws Exception {
    assertThat(ask()).isFalse();
    robot.clickOn("#closing-discard");
    assertThat(closed).isTrue();
    await(() -> session.jobs().running().isEmpty());
    assertThat(new Recovery(UserFolder.data()).recovered(file())).isEmpty();
  }

  @Test
  void whoeverAlwaysKeepsIsNotAsked() throws Exception {
    Path own = dir.resolve("home");
    System.setProperty(UserFolder.PROPERTY, own.toString());
    new Preferences(true, true, true).write(own);
    assertThat(ask()).isTrue();
  }
}
