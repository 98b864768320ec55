package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.desktop.action.Action;
import flarvo.desktop.theme.Theme;
import flarvo.dispatch.Delivery;
import flarvo.project.ProjectFile;
import flarvo.receive.Fact;
import flarvo.scene.PlateRole;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.util.WaitForAsyncUtils;

/** The real window, driven as a person would: by keys, mouse, and what stands on the screen. */
class WindowTest extends WindowHarness {

  /** The first slice from end to end: open, scrub, dispatch, and read the proof off the screen. */
  @Test
  void opensScrubsDispatchesAndProves(FxRobot robot) throws Exception {
    robot.type(KeyCode.RIGHT, KeyCode.RIGHT);
    assertThat(frame()).isEqualTo(1003);
    robot.press(KeyCode.SHIFT).type(KeyCode.RIGHT).release(KeyCode.SHIFT);
    assertThat(frame()).isEqualTo(1013);
    robot.type(KeyCode.END);
    assertThat(frame()).isEqualTo(1096);
    robot.type(KeyCode.DIGIT6);
    assertThat(session.stop().get()).isEqualTo("dispatch");
    assertThat(robot.lookup("#deliveries").<TableView<?>>query().getItems())
        .hasSizeGreaterThanOrEqualTo(2);
    robot.clickOn("#send-all");
    await(this::allSent);
    for (Delivery d : session.state().get().deliveries()) {
      assertThat(dir.resolve("deliveries").resolve(d.fileName())).exists();
    }
    robot.clickOn("#stop-7");
    WaitForAsyncUtils.waitForFxEvents();
    String figure = robot.lookup("#max-drift").queryAs(Label.class).getText();
    assertThat(figure).endsWith(" px");
    double px = Double.parseDouble(figure.replace(" px", ""));
    assertThat(px).isBetween(0.0, 1e-4);
    Delivery chosen = session.chosen().get();
    assertThat(px)
        .isEqualTo(
            Math.rint(
                    session
                            .sending()
                            .states()
                            .get(chosen)
                            .proof()
                            .orElseThrow()
                            .drift()
                            .orElseThrow()
                            .maxPx()
                        * 1e6)
                / 1e6);
  }

  @Test
  void aChangedDeliveryIsUndoneAndRedoneByName(FxRobot robot) {
    robot.type(KeyCode.DIGIT6);
    Delivery before = session.chosen().get();
    TextField first = robot.lookup("#delivery-first").queryAs(TextField.class);
    robot
        .clickOn(first)
        .push(KeyCode.CONTROL, KeyCode.A)
        .write("7")
        .type(KeyCode.ENTER)
        .type(KeyCode.ESCAPE);
    WaitForAsyncUtils.waitForFxEvents();
    assertThat(session.chosen().get().dialect().frames().firstFrame()).hasValue(7);
    robot.press(KeyCode.CONTROL).type(KeyCode.Z).release(KeyCode.CONTROL);
    assertThat(message(robot)).isEqualTo("Undone: change first frame of " + before.name());
    assertThat(session.state().get().deliveries()).contains(before);
    robot.press(KeyCode.CONTROL, KeyCode.SHIFT).type(KeyCode.Z);
    robot.release(KeyCode.SHIFT, KeyCode.CONTROL);
    assertThat(message(robot)).startsWith("Redone: change first frame");
  }

  @Test
  void aRulingMovesTheShotAndForgetsWhatWasSent(FxRobot robot) throws Exception {
    robot.press(KeyCode.CONTROL).type(KeyCode.ENTER).release(KeyCode.CONTROL);
    await(this::allSent);
    robot
        .clickOn("#rule-firstFrame")
        .push(KeyCode.CONTROL, KeyCode.A)
        .write("101")
        .type(KeyCode.ENTER);
    await(() -> session.ledger().get().rulings().of(Fact.FIRST_FRAME).orElse("").equals("101"));
    assertThat(session.state().get().shot().frames().first()).isEqualTo(101);
    assertThat(session.sending().states()).isEmpty();
    TextField first = robot.lookup("#rule-firstFrame").queryAs(TextField.class);
    robot.clickOn(first).push(KeyCode.CONTROL, KeyCode.A).write("soon").type(KeyCode.ENTER);
    assertThat(first.getStyleClass()).contains("bad");
    assertThat(message(robot)).contains("'soon' is not a frame");
    assertThat(session.state().get().shot().frames().first()).isEqualTo(101);
  }

  @Test
  void theFinderPutsWhatCanBeDoneFirst(FxRobot robot) {
    robot.push(KeyCode.CONTROL, KeyCode.K).write("report");
    ListView<Action> found = robot.lookup(".overlay .list-view").query();
    assertThat(found.getItems())
        .extracting(Action::title)
        .first()
        .isEqualTo("Save a problem report");
    assertThat(found.getItems()).extracting(a -> a.can().get().isYes()).contains(false);
    robot.push(KeyCode.ESCAPE);
  }

  @Test
  void tabShowsSpaceAndTheFinderGoesToATracker(FxRobot robot) {
    robot.type(KeyCode.TAB);
    assertThat(window.picture().isVisible()).as("picture in the ledger's place").isTrue();
    robot.type(KeyCode.TAB).type(KeyCode.DIGIT3).type(KeyCode.TAB);
    assertThat(window.space().isVisible()).isTrue();
    assertThat(window.picture().isVisible()).isFalse();
    robot.type(KeyCode.TAB);
    assertThat(window.picture().isVisible()).isTrue();
    robot.press(KeyCode.CONTROL).type(KeyCode.K).release(KeyCode.CONTROL);
    robot.write("tracker t042").type(KeyCode.ENTER);
    assertThat(session.selection()).containsExactly("t042");
    robot.type(KeyCode.ESCAPE);
    assertThat(session.selection()).isEmpty();
  }

  @Test
  void bothThemesApply(FxRobot robot) {
    robot.press(KeyCode.CONTROL).type(KeyCode.T).release(KeyCode.CONTROL);
    assertThat(session.view().theme().get()).isEqualTo(Theme.LIGHT);
    assertThat(window.root().getScene().getStylesheets()).anyMatch(s -> s.endsWith("light.css"));
  }

  @Test
  void savingKeepsWhatWasDecided(FxRobot robot) throws Exception {
    TextField first = robot.lookup("#rule-firstFrame").queryAs(TextField.class);
    robot.clickOn(first).push(KeyCode.CONTROL, KeyCode.A).write("2001").type(KeyCode.ENTER);
    robot.press(KeyCode.CONTROL).type(KeyCode.S).release(KeyCode.CONTROL);
    await(() -> message(robot).startsWith("Saved"));
    assertThat(ProjectFile.read(dir.resolve("project.json")).shots().get(0).rulings())
        .containsEntry("firstFrame", "2001");
  }

  @Test
  void aBrokenFileIsSaidAndTheShotStays(FxRobot robot) throws Exception {
    Path bad = dir.resolve("bad.usda");
    Files.writeString(bad, "#usda 1.0\ndef Camera \"c\" {");
    WaitForAsyncUtils.asyncFx(() -> session.project().open(List.of(bad)));
    await(() -> !session.project().problem().get().isEmpty());
    assertThat(session.project().problem().get()).contains("bad.usda", "line 2");
    assertThat(session.isOpen()).isTrue();
    assertThat(message(robot)).contains("cut off");
  }

  /** While a hand drags over the ladder, the window goes on drawing. */
  @Test
  void scrubbingDoesNotBlock(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT3);
    await(() -> window.picture().cache().loaded(plates()) > 20);
    double load = MachineLoad.factor();
    PulseMeter best = scrub();
    for (int i = 0;
        i < 2 && (best.longestMillis() >= 500 * load || best.medianMillis() >= 50 * load);
        i++) {
      best = scrub(); // other work on a shared machine only ever adds time
      load = Math.max(load, MachineLoad.factor());
    }
    assertThat(best.count()).isGreaterThan((int) (20 / load));
    assertThat(best.medianMillis()).as("median pulse, load %s", load).isLessThan(50 * load);
    assertThat(best.longestMillis()).as("longest pulse, load %s", load).isLessThan(500 * load);
  }

  private PulseMeter scrub() throws Exception {
    PulseMeter meter = new PulseMeter();
    onWindow(meter::start);
    for (int round = 0; round < 6; round++) {
      for (int f = 1001; f <= 1096; f += 4) {
        int to = f;
        WaitForAsyncUtils.asyncFx(() -> session.playhead().goTo(to));
        Thread.sleep(16);
      }
    }
    onWindow(meter::stop);
    return meter;
  }

  private flarvo.scene.PlateSequence plates() {
    return session.shot().get().plate(PlateRole.UNDISTORTED).orElseThrow();
  }

  /** Which frame shows follows from the clock, so three seconds are three seconds. */
  @Test
  void playbackHoldsItsTrueRate(FxRobot robot) throws Exception {
    robot.type(KeyCode.HOME);
    long start = System.nanoTime();
    robot.type(KeyCode.SPACE);
    Thread.sleep(3000);
    int[] at = new int[1];
    long[] when = new long[1];
    WaitForAsyncUtils.asyncFx(
            () -> {
              at[0] = frame();
              when[0] = System.nanoTime();
            })
        .get();
    robot.type(KeyCode.SPACE);
    double expected = (when[0] - start) / 1e9 * 24000 / 1001;
    double load = MachineLoad.factor();
    assertThat((double) at[0] - 1001).isBetween(expected - 6 * load, expected + 1);
    assertThat(session.playhead().shownFrames()).isGreaterThan((int) (20 / load));
  }
}
