package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialects;
import flarvo.decision.DecisionLog;
import flarvo.decision.ShotState;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.level.BuildWork;
import flarvo.desktop.stop.level.LevelWork;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.project.ProjectShot;
import flarvo.receive.Fact;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.util.WaitForAsyncUtils;

/** Missing files, several shots, the diary and the ledger's text, in a real window. */
class ProjectInWindowTest extends WindowHarness {

  private Path project() {
    return dir.resolve("project.json");
  }

  /** The demo itself beside its project file, for tests that move it about. */
  private void ownCopy() throws IOException {
    DemoProject.copyTerrace(dir);
    Files.copy(
        DemoProject.MERIDIAN.resolve("project.json"),
        project(),
        StandardCopyOption.REPLACE_EXISTING);
  }

  @Test
  void missingFilesAreSaidAndFoundInOneSearch(FxRobot robot) throws Exception {
    ownCopy();
    Path moved = dir.resolve("moved");
    Files.move(dir.resolve("mer_010_terrace"), moved);
    onWindow(() -> session.project().open(List.of(project())));
    await(() -> !session.project().problem().get().isEmpty());
    assertThat(session.project().problem().get())
        .contains("7 files are not where the project says")
        .contains("Find missing files");
    await(() -> session.project().missing().size() == 7);
    assertThat(session.project().file().orElseThrow().file())
        .as("the open one stays")
        .isEqualTo(project());
    assertThat(session.state().get().shot().trackerCount()).isEqualTo(113);
    onWindow(() -> session.project().relink(dir));
    await(() -> session.project().problem().get().isEmpty() && !session.project().loading().get());
    await(() -> session.ledger().get() != null);
    assertThat(session.state().get().shot().plates()).hasSize(2);
    assertThat(session.errors().get().medianPx()).isLessThan(0.5);
    onWindow(session.project()::save);
    await(() -> message(robot).startsWith("Saved"));
    ProjectShot s = ProjectFile.read(project()).shots().get(0);
    assertThat(s.files()).allMatch(f -> f.startsWith("moved/"));
    assertThat(s.diary()).extracting(d -> d.text()).anyMatch(t -> t.contains("missing files"));
  }

  @Test
  void aProjectThatIsNotThereIsAnErrorAndNotACrash(FxRobot robot) throws Exception {
    onWindow(() -> session.project().open(List.of(dir.resolve("none.json"))));
    await(() -> !session.project().problem().get().isEmpty());
    assertThat(session.project().problem().get()).contains("file not found");
    assertThat(session.isOpen()).isTrue();
  }

  @Test
  void anotherShotOfTheProjectIsOpenedFromTheFinder(FxRobot robot) throws Exception {
    ownCopy();
    ProjectFile p = ProjectFile.read(project());
    ProjectShot first = p.shots().get(0);
    List<ProjectShot> two = new ArrayList<>(p.shots());
    two.add(
        new ProjectShot(
            "mer_010_solve",
            List.of("mer_010_terrace/solve/mer_010_terrace_solve.usda"),
            first.plates(),
            java.util.Optional.of("track-zup"),
            DecisionLog.EMPTY));
    p.withShots(two).save();
    onWindow(() -> session.project().open(List.of(project())));
    await(
        () ->
            session.project().file().isPresent()
                && session.project().file().get().shots().size() == two.size());
    await(() -> !session.project().loading().get());
    robot.press(KeyCode.CONTROL).type(KeyCode.K).release(KeyCode.CONTROL);
    robot.write("shot mer_010_solve").type(KeyCode.ENTER);
    await(() -> session.state().get().shot().name().equals("mer_010_solve"));
    await(() -> session.ledger().get() != null);
    assertThat(session.ledger().get().conflict(Fact.RATE)).isEmpty();
  }

  @Test
  void theDiaryShowsWhatWasDoneAndTakesNotes(FxRobot robot) throws Exception {
    robot.clickOn("#rule-rate").press(KeyCode.CONTROL).type(KeyCode.A).release(KeyCode.CONTROL);
    robot.write("25").type(KeyCode.ENTER);
    await(() -> session.ledger().get().rulings().of(Fact.RATE).orElse("").equals("25"));
    robot.press(KeyCode.CONTROL).type(KeyCode.D).release(KeyCode.CONTROL);
    robot.write("rate came by phone").type(KeyCode.ENTER);
    WaitForAsyncUtils.waitForFxEvents();
    ListView<?> lines =
        robot.lookup(n -> "Diary of the shot".equals(n.getAccessibleText())).query();
    assertThat(lines.getItems()).hasSize(2);
    assertThat(session.project().diary().entries().get(0).text()).startsWith("Set rate to 25 · ");
    assertThat(session.project().diary().entries().get(1).note()).isTrue();
    robot.type(KeyCode.ESCAPE);
    robot.press(KeyCode.CONTROL).type(KeyCode.Z).release(KeyCode.CONTROL);
    await(() -> session.ledger().get().rulings().of(Fact.RATE).orElse("").contains("24000"));
    await(() -> session.project().diary().entries().size() > 2);
    assertThat(session.project().diary().entries()).hasSize(3);
  }

  @Test
  void theLedgerIsCopiedAsText(FxRobot robot) throws Exception {
    robot.clickOn("Copy as text");
    String[] text = {""};
    onWindow(() -> text[0] = Clipboard.getSystemClipboard().getString());
    assertThat(text[0])
        .startsWith("fact\t")
        .contains("Film back\t36 × 24 mm")
        .contains("ruled: 24000/1001");
    Label mark = robot.from(robot.lookup("#fact-rate").queryAll()).lookup(".ledger-mark").query();
    assertThat(mark.getText()).as("the mark tells by its shape").isEqualTo("=");
  }

  /** The other shots of the project go along, and their files are found from the new place. */
  @Test
  void savingElsewhereKeepsTheOtherShots(FxRobot robot) throws Exception {
    List<String> names =
        session.project().file().orElseThrow().shots().stream().map(ProjectShot::name).toList();
    assertThat(names).hasSize(4);
    Path there = dir.resolve("elsewhere/deep/other.json");
    onWindow(() -> session.project().saveAs(there));
    await(() -> message(robot).startsWith("Saved"));
    ProjectFile saved = ProjectFile.read(there);
    assertThat(saved.shots()).extracting(ProjectShot::name).containsExactlyElementsOf(names);
    for (ProjectShot s : saved.shots()) {
      assertThat(new ProjectLoader(saved, Dialects.shipped()).missing(s)).as(s.name()).isEmpty();
      assertThat(s.rulings()).as(s.name()).isNotEmpty();
    }
    // Files that decisions name are found from there too.
    ShotState carts =
        new ProjectLoader(saved, Dialects.shipped()).load(saved.shots().get(3), Progress.NONE);
    assertThat(carts.objects()).hasSize(2);
  }

  /** What was decided before the project was closed can be undone after it is opened. */
  @Test
  void undoReachesBackBeyondTheOpening(FxRobot robot) throws Exception {
    assertThat(session.undoTitle()).contains("add delivery Compositing");
    onWindow(session::undo);
    assertThat(session.state().get().deliveries()).hasSize(2);
    onWindow(session.project()::save);
    await(() -> message(robot).startsWith("Saved"));
    onWindow(() -> session.project().open(List.of(project())));
    await(() -> message(robot).startsWith("Opened"));
    assertThat(session.redoTitle()).contains("add delivery Compositing");
    onWindow(session::redo);
    assertThat(session.state().get().deliveries()).hasSize(3);
  }

  @Test
  void anEmptyWindowSaysThatNoShotIsOpen() throws Exception {
    onWindow(
        () -> {
          Session empty = new Session();
          BuildWork build = new BuildWork(empty, new LevelWork(empty));
          build.card();
          assertThat(empty.message().get()).isEqualTo("No shot open");
          empty.message().set("");
          build.clearLocators();
          assertThat(empty.message().get()).isEqualTo("No shot open");
          build.removeChosen();
          empty.close();
        });
  }
}
