package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.project.DiaryEntry;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectShot;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;

/** Next week's solve: noticed, received, and every decision replayed on it. */
class IncomingTest extends WindowHarness {

  private static final String SOLVE = "mer_010_terrace/incoming/mer_010_terrace_camera";

  private Path project() {
    return dir.resolve("project.json");
  }

  private Path solve(String version) {
    return dir.resolve(SOLVE + version + ".fbx");
  }

  /** The demo in a folder of its own, with a version in the name of the terrace's solve. */
  private void openOwnCopy() throws Exception {
    DemoProject.copyTerrace(dir);
    Files.move(solve(""), solve("_v001"));
    String text = Files.readString(DemoProject.MERIDIAN.resolve("project.json"));
    Files.writeString(project(), text.replace(SOLVE + ".fbx", SOLVE + "_v001.fbx"));
    onWindow(() -> session.project().open(List.of(project())));
    await(
        () ->
            !session.project().loading().get()
                && session.project().file().isPresent()
                && received().contains(solve("_v001")));
    await(() -> session.ledger().get() != null);
  }

  private List<Path> received() {
    return session.state().get().received().stream()
        .flatMap(r -> r.files().stream())
        .map(f -> f.path().toAbsolutePath().normalize())
        .toList();
  }

  private List<String> diary() {
    return session.project().diary().entries().stream().map(DiaryEntry::text).toList();
  }

  @Test
  void aNewerVersionIsReceivedAndSentAgainWithOneClick(FxRobot robot) throws Exception {
    openOwnCopy();
    int decisions = session.store().now().get().log().counting().size();
    double before = session.errors().get().rmsPx();
    assertThat(decisions).isGreaterThan(4);
    Files.copy(solve("_v001"), solve("_v002"));
    await(() -> isShown(robot, "#receive-and-send"));
    assertThat(label(robot))
        .isEqualTo(
            "mer_010_terrace_camera_v002.fbx is a newer version. Replays "
                + decisions
                + " decisions.");
    robot.clickOn("#receive-and-send");
    await(() -> received().contains(solve("_v002")));
    assertThat(session.store().now().get().log().counting()).hasSize(decisions);
    await(() -> session.errors().get() != null);
    assertThat(session.errors().get().rmsPx()).isEqualTo(before);
    int all = session.state().get().deliveries().size();
    await(
        () ->
            session.sending().states().values().stream().filter(s -> s.sent().isPresent()).count()
                == all);
    assertThat(diary())
        .anyMatch(
            t ->
                t.contains(
                    "Received mer_010_terrace_camera_v002.fbx: "
                        + decisions
                        + " of "
                        + decisions
                        + " decisions replayed"));
    assertThat(isShown(robot, "#receive-arrival")).isFalse();
    onWindow(session.project()::save);
    await(() -> message(robot).startsWith("Saved"));
    ProjectShot s = ProjectFile.read(project()).shots().get(0);
    assertThat(s.files()).contains(SOLVE + "_v002.fbx").doesNotContain(SOLVE + "_v001.fbx");
  }

  @Test
  void aChangeOnDiskIsOfferedUntilItIsDismissed(FxRobot robot) throws Exception {
    openOwnCopy();
    Files.setLastModifiedTime(solve("_v001"), FileTime.fromMillis(1_700_000_000_000L));
    await(() -> isShown(robot, "#receive-arrival"));
    assertThat(label(robot)).startsWith("mer_010_terrace_camera_v001.fbx changed on disk");
    robot.clickOn("#dismiss-arrival");
    await(() -> !isShown(robot, "#receive-arrival"));
    // The next one is offered again.
    Files.copy(solve("_v001"), solve("_v003"), StandardCopyOption.REPLACE_EXISTING);
    await(() -> isShown(robot, "#receive-arrival"));
    assertThat(label(robot)).startsWith("mer_010_terrace_camera_v003.fbx is a newer version");
    robot.clickOn("#receive-arrival");
    await(() -> received().contains(solve("_v003")));
  }

  @Test
  void aBoardSaysWhetherItsFilesAreWatched(FxRobot robot) throws Exception {
    openOwnCopy();
    Files.copy(solve("_v001"), solve("_v002"));
    await(() -> isShown(robot, "#receive-arrival"));
    onWindow(() -> session.stop().set("dispatch"));
    robot.clickOn("#board-menu").clickOn("#board-watch");
    await(() -> session.state().get().watched().equals(Optional.of(false)));
    await(() -> !isShown(robot, "#receive-arrival"));
    onWindow(session.project()::save);
    await(() -> message(robot).startsWith("Saved"));
    assertThat(Files.readString(project())).contains("\"watch-files\"");
    onWindow(session.store()::undo);
    await(() -> isShown(robot, "#receive-arrival"));
  }

  /** Other trackers under other names: what could not be applied is listed, not dropped. */
  @Test
  void whatDoesNotApplyToAnotherSolveIsInTheDiary(FxRobot robot) throws Exception {
    openOwnCopy();
    int decisions = session.store().now().get().log().counting().size();
    Path second = dir.resolve("mer_010_terrace/second/mer_010_terrace_v2.usdc");
    onWindow(() -> session.incoming().receive(second));
    await(() -> received().contains(second));
    assertThat(session.store().now().get().log().entries()).hasSize(decisions);
    assertThat(diary()).anyMatch(t -> t.startsWith("Received mer_010_terrace_v2.usdc: "));
    long missed =
        session.store().now().get().log().entries().stream()
            .filter(e -> e.problem().isPresent() || !e.missed().isEmpty())
            .count();
    assertThat(diary().stream().filter(t -> t.startsWith("Not as before: "))).hasSize((int) missed);
  }

  @Test
  void aFileThatCannotBeReadChangesNothing(FxRobot robot) throws Exception {
    openOwnCopy();
    Path bad = dir.resolve("bad.usda");
    Files.writeString(bad, "#usda 1.0\ndef Xform \"a\" {");
    onWindow(() -> session.incoming().receive(bad));
    await(() -> !session.project().problem().get().isEmpty());
    assertThat(session.project().problem().get()).contains("bad.usda");
    assertThat(received()).contains(solve("_v001"));
    assertThat(session.project().loading().get()).isFalse();
  }

  private static boolean isShown(FxRobot robot, String id) {
    return robot.lookup(id).queryAll().stream()
        .anyMatch(n -> n.isVisible() && n.getParent().isVisible());
  }

  private static String label(FxRobot robot) {
    return ((javafx.scene.control.Label)
            robot.lookup("#receive-arrival").query().getParent().lookup(".label"))
        .getText();
  }
}
