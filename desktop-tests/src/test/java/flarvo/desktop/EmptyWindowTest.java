package flarvo.desktop;

import static flarvo.desktop.WindowHarness.HOME;
import static flarvo.desktop.WindowHarness.await;
import static flarvo.desktop.WindowHarness.onWindow;
import static org.assertj.core.api.Assertions.assertThat;

import flarvo.desktop.state.Session;
import flarvo.desktop.window.MainWindow;
import java.nio.file.Files;
import java.nio.file.Path;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.testfx.api.FxRobot;
import org.testfx.api.FxToolkit;

/** The window before anything is open: what can be done in it. */
@ExtendWith(SettledExtension.class)
class EmptyWindowTest {

  private static final Path DEMO = Path.of("../demo/meridian/project.json");

  private Session session;
  private MainWindow window;

  @BeforeEach
  void start() throws Exception {
    System.setProperty(DemoCopy.PROPERTY, DEMO.toAbsolutePath().toString());
    WindowHarness.forgetOtherTests();
    FxToolkit.setupStage(
        stage -> {
          session = new Session();
          SettledRobot.drives(session);
          window = FlarvoApp.open(stage, session);
        });
  }

  @AfterEach
  void stop() throws Exception {
    SettledRobot.drives(null); // what a closed window began is never done
    onWindow(
        () -> {
          window.close();
          session.close();
        });
    System.clearProperty(DemoCopy.PROPERTY);
  }

  private Node empty(FxRobot robot) {
    return robot.lookup("#empty-window").query();
  }

  @Test
  void theDemoIsOpenedFromACopyAndIsARecentProjectAfterwards(FxRobot robot) throws Exception {
    assertThat(empty(robot).isVisible()).isTrue();
    assertThat(robot.lookup("#open-files").queryAs(Button.class).isDisabled()).isFalse();
    robot.clickOn("#open-demo");
    await(() -> session.isOpen() && session.ledger().get() != null);
    Path copy = session.project().file().orElseThrow().file();
    assertThat(copy).startsWith(HOME);
    assertThat(Files.size(copy)).isEqualTo(Files.size(DEMO));
    assertThat(empty(robot).isVisible()).isFalse();
    await(() -> session.project().autosave().recent().get().contains(copy));
  }

  /** What nobody sees yet is not styled at the start; a card that was open once stays. */
  @Test
  void cardsJoinTheSceneWhenTheyAreFirstShown(FxRobot robot) throws Exception {
    assertThat(robot.lookup(".pop-up").queryAll()).isEmpty();
    onWindow(() -> window.openFinder());
    await(() -> robot.lookup("#find-text").queryAll().stream().anyMatch(Node::isFocused));
    assertThat(robot.lookup(".pop-up").<Node>queryAll()).hasSize(1).allMatch(Node::isVisible);
    robot.type(KeyCode.ESCAPE);
    await(() -> robot.lookup(".overlay").queryAll().stream().noneMatch(Node::isVisible));
  }

  /** They are made when the pointer comes: each is a window of its own. */
  @Test
  void tooltipsComeWithThePointer(FxRobot robot) throws Exception {
    Button keys = robot.lookup("Keys").queryAs(Button.class);
    assertThat(keys.getTooltip()).isNull();
    assertThat(keys.getAccessibleHelp()).isNotEmpty();
    robot.moveTo(keys);
    await(
        () ->
            keys.getTooltip() != null
                && keys.getTooltip().isShowing()
                && keys.getTooltip().getText().equals(keys.getAccessibleHelp()));
  }

  @Test
  void aCopyThatWasWorkedOnStaysAsItIs() throws Exception {
    Path first = DemoCopy.copied(DEMO, HOME.resolve("demo"));
    Files.writeString(first, "mine");
    Path again = DemoCopy.copied(DEMO, HOME.resolve("demo"));
    assertThat(again).isEqualTo(first);
    assertThat(Files.readString(again)).isEqualTo("mine");
  }

  @Test
  void aFileThatCannotBeReadIsSaidInTheMiddle(FxRobot robot) throws Exception {
    Path bad = Files.writeString(HOME.resolve("bad.usda"), "#usda 1.0\ndef Camera \"c\" {");
    onWindow(() -> session.project().open(java.util.List.of(bad)));
    await(() -> !session.project().problem().get().isEmpty());
    assertThat(empty(robot).lookupAll(".label").toString())
        .contains("bad.usda")
        .contains("Fix the file");
    assertThat(session.isOpen()).isFalse();
  }
}
