package flarvo.desktop;

import static flarvo.desktop.WindowHarness.HOME;
import static flarvo.desktop.WindowHarness.await;
import static org.assertj.core.api.Assertions.assertThat;

import flarvo.desktop.state.Session;
import flarvo.desktop.window.MainWindow;
import flarvo.desktop.window.TextFiles;
import flarvo.project.ProjectFile;
import flarvo.receive.Fact;
import flarvo.scene.PlateRole;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.framework.junit5.Stop;
import org.testfx.util.WaitForAsyncUtils;

/** The demo's messy incoming files, dropped on a real window. */
@ExtendWith(SettledExtension.class)
class ReceiveTest {

  private static final Path SHOT =
      Path.of("../demo/meridian/mer_010_terrace").toAbsolutePath().normalize();

  private Session session;
  private MainWindow window;

  @Start
  void start(Stage stage) throws IOException {
    WindowHarness.forgetOtherTests();
    session = new Session();
    SettledRobot.drives(session);
    window = FlarvoApp.open(stage, session);
    session.project().open(List.of(SHOT.resolve("incoming"), SHOT.resolve("plates")));
  }

  @Stop
  void stop() {
    SettledRobot.drives(null);
    window.close();
    session.close();
  }

  private int open() {
    return session.ledger().get() == null ? -1 : session.ledger().get().open().size();
  }

  private double errorPx() {
    return session.errors().get() == null ? Double.NaN : session.errors().get().medianPx();
  }

  @Test
  void takingAllProposalsMakesTheShotStickAndCanBeUndone(FxRobot robot) throws Exception {
    await(() -> open() == 5);
    assertThat(errorPx()).isGreaterThan(100);
    robot.clickOn("#take-all");
    await(() -> open() == 0);
    assertThat(errorPx()).isLessThan(0.5);
    assertThat(session.state().get().shot().rate().toString()).isEqualTo("24000/1001");
    assertThat(session.state().get().rulings().texts())
        .containsEntry(Fact.FILM_BACK, "23.76x13.365")
        .containsEntry(Fact.UP_AXIS, "+Z")
        .containsEntry(Fact.UNIT, "m");
    assertThat(robot.lookup("#take-all").queryAs(Button.class).isVisible()).isFalse();
    robot.press(KeyCode.CONTROL).type(KeyCode.Z).release(KeyCode.CONTROL);
    await(() -> open() == 5);
    assertThat(errorPx()).isGreaterThan(100);
    assertThat(session.redoTitle()).contains("accept all proposals");
  }

  /** What came for the other shots is as messy, each in its own way. */
  @ParameterizedTest
  @CsvSource({"mer_020_dome,25,0,72,+Z,mm", "mer_030_cart,30000/1001,1,60,+Y,cm"})
  void everyShotOfTheDemoIsSettledByItsProposals(
      String name, String rate, int first, int count, String up, String unit, FxRobot robot)
      throws Exception {
    await(() -> open() == 5);
    Path shot = SHOT.resolveSibling(name);
    WaitForAsyncUtils.asyncFx(
        () -> session.project().open(List.of(shot.resolve("incoming"), shot.resolve("plates"))));
    // The shot before had five questions too: its name tells that the new one is there, and from
    // then on a ledger is either not there yet or its own.
    await(() -> session.state().get().shot().name().equals(name) && open() == 5);
    robot.clickOn("#take-all");
    await(() -> open() == 0);
    assertThat(errorPx()).isLessThan(0.5);
    var s = session.state().get().shot();
    assertThat(s.rate().toString()).isEqualTo(rate);
    assertThat(s.frames().first()).isEqualTo(first);
    assertThat(s.frames().count()).isEqualTo(count);
    assertThat(session.state().get().rulings().texts())
        .containsEntry(Fact.FILM_BACK, "23.76x13.365")
        .containsEntry(Fact.UP_AXIS, up)
        .containsEntry(Fact.UNIT, unit);
  }

  @Test
  void aSequenceIsToldWhatItIsFor(FxRobot robot) throws Exception {
    await(() -> open() == 5);
    ComboBox<PlateRole> role = robot.lookup("#plate-role-0").query();
    assertThat(role.getValue()).isEqualTo(PlateRole.ORIGINAL);
    robot.interact(() -> role.setValue(PlateRole.KEYED));
    await(() -> session.state().get().shot().plate(PlateRole.KEYED).isPresent());
    assertThat(session.undoTitle()).contains("terrace.####.jpg is keyed");
    WaitForAsyncUtils.asyncFx(session::undo);
    await(() -> session.state().get().shot().plate(PlateRole.ORIGINAL).isPresent());
  }

  @Test
  void aTypedRulingOverrulesAndNonsenseIsShownAsSuch(FxRobot robot) throws Exception {
    await(() -> open() == 5);
    TextField rate = robot.lookup("#rule-rate").queryAs(TextField.class);
    robot.clickOn(rate).write("parsec").type(KeyCode.ENTER);
    assertThat(rate.getStyleClass()).contains("bad");
    assertThat(open()).isEqualTo(5);
    robot.clickOn(rate).press(KeyCode.CONTROL).type(KeyCode.A).release(KeyCode.CONTROL);
    robot.write("30000/1001").type(KeyCode.ENTER);
    await(() -> open() == 4);
    assertThat(session.state().get().shot().rate().toString()).isEqualTo("30000/1001");
    assertThat(session.ledger().get().conflict(Fact.RATE).orElseThrow().ruled()).isTrue();
  }

  @Test
  void whatWasRuledIsSavedAsAProjectWithItsDiary(FxRobot robot) throws Exception {
    await(() -> open() == 5);
    robot.clickOn("#take-all");
    await(() -> open() == 0);
    WaitForAsyncUtils.asyncFx(() -> session.project().note("ask tracking for the lens"));
    Path file = HOME.resolve("p/project.json");
    WaitForAsyncUtils.asyncFx(() -> session.project().saveAs(file));
    await(() -> session.message().get().startsWith("Saved"));
    ProjectFile p = ProjectFile.read(file);
    assertThat(p.shots().get(0).files()).hasSize(5).noneMatch(f -> f.startsWith("/"));
    assertThat(p.shots().get(0).rulings()).hasSize(5);
    assertThat(p.shots().get(0).diary())
        .extracting(d -> d.text())
        .anyMatch(t -> t.startsWith("Accept all proposals · ") && t.endsWith(" px"))
        .contains("ask tracking for the lens");
    WaitForAsyncUtils.asyncFx(() -> session.project().open(List.of(file)));
    await(() -> session.message().get().startsWith("Opened"));
    await(() -> open() == 0);
    assertThat(errorPx()).isLessThan(0.5);
    assertThat(session.project().autosave().recent().get()).contains(file);
  }

  @Test
  void diaryAndLedgerAreSavedAsText(FxRobot robot) throws Exception {
    await(() -> open() == 5);
    WaitForAsyncUtils.asyncFx(() -> session.project().note("the log is right about the film back"));
    WaitForAsyncUtils.waitForFxEvents();
    TextFiles texts = new TextFiles(session);
    Path file = HOME.resolve("texts/diary.txt");
    robot.interact(() -> texts.save("diary", texts.diary().orElseThrow(), file));
    await(() -> session.message().get().equals("Saved the diary as diary.txt"));
    assertThat(Files.readString(file)).contains("the log is right about the film back");
    Path ledger = HOME.resolve("texts/ledger.txt");
    robot.interact(() -> texts.save("ledger", texts.ledger().orElseThrow(), ledger));
    await(() -> session.message().get().equals("Saved the ledger as ledger.txt"));
    assertThat(Files.readString(ledger)).contains("Film back").contains("23.76");
  }

  @Test
  void unsavedWorkIsOfferedBack(FxRobot robot) throws Exception {
    await(() -> open() == 5);
    Path file = HOME.resolve("q/project.json");
    WaitForAsyncUtils.asyncFx(() -> session.project().saveAs(file));
    await(() -> session.message().get().startsWith("Saved"));
    robot.clickOn("#take-all");
    await(() -> open() == 0);
    Path kept = HOME.resolve("recovery");
    await(
        () ->
            kept.toFile().list() != null
                && kept.toFile().list((d, n) -> n.matches("(?!unnamed).*json")).length == 1);
    // As after a crash: the project is opened again and the copy is still there.
    WaitForAsyncUtils.asyncFx(() -> session.project().open(List.of(file)));
    await(() -> session.project().autosave().recovered().get() != null);
    await(() -> open() == 5);
    robot.clickOn("#restore-work");
    await(() -> open() == 0);
    assertThat(errorPx()).isLessThan(0.5);
  }
}
