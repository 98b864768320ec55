package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialects;
import flarvo.desktop.state.Comparison;
import flarvo.desktop.stop.proof.ProofDesk;
import flarvo.desktop.stop.proof.ProofStop;
import flarvo.desktop.stop.proof.SuspectPart;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.proof.ProofReport;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.atomic.AtomicReference;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.image.PixelReader;
import javafx.scene.image.WritableImage;
import javafx.scene.input.KeyCode;
import javafx.scene.paint.Color;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;

/** At Proof: the shot beside what its recipient sees, wiped, in turn, and one less the other. */
class CompareTest extends WindowHarness {

  private WritableImage shown;

  @BeforeEach
  void sendAll() throws Exception {
    onWindow(() -> session.sending().sendAll());
    await(this::allSent);
    onWindow(
        () -> {
          session.stop().set("proof");
          session.view().platesShown().set(false); // plates have the marks' colours too
          session.chosen().set(session.state().get().deliveries().get(0));
        });
  }

  private void look() throws Exception {
    AtomicReference<WritableImage> image = new AtomicReference<>();
    onWindow(() -> image.set(window.picture().snapshot(null, null)));
    shown = image.get();
  }

  private void compare(Comparison how) throws Exception {
    onWindow(() -> session.view().comparison().set(how));
    look();
  }

  /** Pixels of about a colour between two shares of the picture's width. */
  private int count(Color like, double from, double to) {
    PixelReader r = shown.getPixelReader();
    int n = 0;
    for (int x = (int) (from * shown.getWidth()); x < (int) (to * shown.getWidth()); x++) {
      for (int y = 0; y < (int) shown.getHeight(); y++) {
        Color c = r.getColor(x, y);
        double d =
            Math.abs(c.getRed() - like.getRed())
                + Math.abs(c.getGreen() - like.getGreen())
                + Math.abs(c.getBlue() - like.getBlue());
        n += d < 0.25 ? 1 : 0;
      }
    }
    return n;
  }

  private Color rings() {
    return session.view().theme().get().palette().accent();
  }

  private Color crosses() {
    return session.view().theme().get().palette().attention();
  }

  /** Bright pixels inside the picture. */
  private int bright() {
    return count(Color.WHITE, 0.1, 0.9);
  }

  /** The terrace's camera three frames late, as an animation file. */
  private Path late() {
    Shot s = session.state().get().shot().levelled().contents();
    Shot shifted =
        s.withCameras(
            List.of(
                s.camera()
                    .get()
                    .withPoses(
                        flarvo.scene.PoseTrack.of(
                            s.frames(),
                            f -> s.camera().get().poses().at(s.frames().clamp(f - 3))))));
    Path file = dir.resolve("late.usda");
    Dispatcher.send(
        shifted,
        new Delivery(
            "d",
            Dialects.shipped().get("comp-yup"),
            Formats.byId("usd-text"),
            Contents.CAMERA_AND_TRACKERS,
            "d"),
        file,
        Progress.NONE);
    return file;
  }

  /** It blinks by itself: on a busy machine it may have gone on before the picture was taken. */
  private void lookWhile(boolean other) throws Exception {
    do {
      onWindow(() -> session.view().otherShown().set(other));
      look();
    } while (session.view().otherShown().get() != other);
  }

  @Test
  void sourceAndRecipientShareThePicture() throws Exception {
    compare(Comparison.OVERLAID);
    assertThat(count(rings(), 0, 1)).isGreaterThan(300);
    assertThat(count(crosses(), 0, 1)).isGreaterThan(300);

    onWindow(() -> session.view().divide().set(0.5));
    compare(Comparison.WIPE);
    assertThat(count(rings(), 0, 0.48)).isGreaterThan(50);
    assertThat(count(rings(), 0.52, 1)).isZero();
    assertThat(count(crosses(), 0.52, 1)).isGreaterThan(50);

    compare(Comparison.BESIDE);
    assertThat(count(rings(), 0, 0.48)).isGreaterThan(100);
    assertThat(count(rings(), 0.52, 1)).isZero();
    assertThat(count(crosses(), 0.52, 1)).isGreaterThan(100);

    compare(Comparison.BLINK);
    lookWhile(false);
    int own = count(rings(), 0, 1);
    lookWhile(true);
    assertThat(own).isGreaterThan(100);
    assertThat(count(rings(), 0, 1)).isLessThan(own / 10);

    // It goes on by itself, and stands still elsewhere.
    await(() -> !session.view().otherShown().get());
    await(() -> session.view().otherShown().get());
    onWindow(() -> session.stop().set("vet"));
    assertThat(session.view().otherShown().get()).isFalse();
  }

  @Test
  void theEdgeIsDragged(FxRobot robot) throws Exception {
    compare(Comparison.WIPE);
    robot
        .moveTo(window.picture())
        .drag(javafx.scene.input.MouseButton.PRIMARY)
        .moveBy(-120, 0)
        .drop();
    assertThat(session.view().divide().get()).isBetween(0.1, 0.45);
  }

  @Test
  void nothingIsLeftOfAProvenDeliveryAndMuchOfALateOne(FxRobot robot) throws Exception {
    compare(Comparison.DIFFERENCE);
    int proven = bright();
    assertThat(proven).isLessThan(20);

    SuspectPart part = robot.lookup("#returned").query();
    Path file = late();
    robot.interact(() -> part.check(List.of(file)));
    await(() -> session.message().get().startsWith("late.usda checked: "));
    onWindow(() -> session.playhead().goTo(1050));
    look();
    assertThat(robot.lookup("#compare-with").<ComboBox<Object>>query().getValue())
        .hasToString("CHECKED");
    assertThat(bright()).isGreaterThan(proven + 200);
    // Its drift is measured against the shot at once, and its worst frames are gone to.
    assertThat(robot.lookup("#max-drift").<Label>query().getText()).matches("\\d+\\.\\d+ px");
    Button worst = robot.lookup("#worst-frames .row-button").query();
    robot.interact(worst::fire);
    assertThat(worst.getText()).contains("frame " + frame());
    assertThat(session.selection()).hasSize(1);
    // The same with its cause undone lies on the shot again, but for the frames it does not have.
    ComboBox<Object> with = robot.lookup("#compare-with").query();
    robot.interact(() -> with.setValue(with.getItems().get(3)));
    robot.interact(() -> session.playhead().goTo(1050));
    look();
    assertThat(bright()).isLessThan(20);
    robot.interact(() -> with.setValue(with.getItems().get(2)));
    // What was found about it is a page and JSON, which its sender can be given.
    ProofDesk desk = (ProofDesk) window.stop(ProofStop.class).view().desk();
    Path page = dir.resolve("late.html");
    robot.interact(() -> desk.save(page));
    await(() -> session.message().get().equals("Wrote late.html and its JSON"));
    assertThat(page).content().contains("Everything is 3 frames late").contains("<svg");
    assertThat(dir.resolve("late.json")).content().contains("\"title\" : \"late.usda\"");
  }

  @Test
  void aPlainImportIsCompared(FxRobot robot) throws Exception {
    onWindow(() -> session.chosen().set(session.state().get().deliveries().get(1)));
    ComboBox<Object> with = robot.lookup("#compare-with").query();
    robot.interact(() -> with.setValue(with.getItems().get(1)));
    await(() -> robot.lookup("#max-drift").<Label>query().getText().endsWith(" px"));
    compare(Comparison.BESIDE);
    assertThat(count(crosses(), 0.52, 1)).isGreaterThan(100);
  }

  @Test
  void theLimitIsSetAndTheFilesAreProvenAgain(FxRobot robot) throws Exception {
    TextField limit = robot.lookup("#proof-limit").query();
    robot.interact(
        () -> {
          limit.setText("0.0000000001");
          limit.fireEvent(new javafx.event.ActionEvent());
        });
    await(
        () ->
            session.sending().states().values().stream()
                .anyMatch(s -> s.proof().map(p -> !p.holds()).orElse(false)));
    ProofReport p =
        session.sending().states().values().stream()
            .map(s -> s.proof().orElseThrow())
            .filter(x -> !x.holds())
            .findFirst()
            .orElseThrow();
    assertThat(p.limitPx()).isEqualTo(1e-10);
    robot.interact(
        () -> {
          limit.setText("none");
          limit.fireEvent(new javafx.event.ActionEvent());
        });
    assertThat(session.message().get()).contains("'none' is no drift in pixels");
    assertThat(session.view().proofLimitPx().get()).isEqualTo(1e-10);
    robot.type(KeyCode.DIGIT7);
  }
}
