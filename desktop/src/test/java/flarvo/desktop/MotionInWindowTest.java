package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.desktop.state.SendState;
import flarvo.desktop.stop.dispatch.MotionPart;
import flarvo.dispatch.Delivery;
import flarvo.motion.Framing;
import flarvo.motion.Held;
import flarvo.motion.Recast;
import flarvo.motion.ZoomOn;
import flarvo.proof.Check;
import flarvo.proof.ProofReport;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;

/** What stands still, the zoom, the picture and the time of a delivery, set on Dispatch. */
class MotionInWindowTest extends WindowHarness {

  private Recast recast() {
    return session.chosen().get().extract().recast();
  }

  private ProofReport sent() throws Exception {
    Delivery d = session.chosen().get();
    onWindow(() -> session.sending().send(d));
    await(
        () -> {
          SendState s = session.sending().states().get(d);
          return s != null && s.stage() == SendState.Stage.SENT;
        });
    return session.sending().states().get(d).proof().orElseThrow();
  }

  private void type(FxRobot robot, String id, String text) {
    robot.interact(
        () -> {
          TextField f = robot.lookup(id).query();
          f.setText(text);
          f.getOnAction().handle(null);
        });
  }

  private static String says(FxRobot robot) {
    return robot.lookup("#delivery-motion-says").<Label>query().getText();
  }

  /** The demo's cart: solved as a moving camera, handed on as it was filmed. */
  @Test
  void theCartRollsAndTheCameraStandsStill(FxRobot robot) throws Exception {
    onWindow(() -> session.project().openShot("mer_030_cart"));
    await(() -> session.state().get().name().equals("mer_030_cart"));
    robot.type(KeyCode.DIGIT5);
    await(() -> session.chosen().get() != null);
    ComboBox<String> still = robot.lookup("#delivery-still").query();
    assertThat(still.getItems()).containsExactly("as solved", "the camera");
    robot.interact(() -> still.setValue("the camera"));
    assertThat(recast().held()).contains(Held.camera(1));
    type(robot, "#delivery-still-frame", "30");
    assertThat(recast().held()).contains(Held.camera(30));
    assertThat(session.undoTitle())
        .contains("change what stands still of " + session.chosen().get().name());
    ProofReport r = sent();
    assertThat(r.holds()).as(r.sentence()).isTrue();
    assertThat(r.checks()).extracting(Check::name).contains("samePicture");
    type(robot, "#delivery-still-frame", "soon");
    assertThat(message(robot)).contains("A frame is an integer");
    for (int i = 0; i < 2; i++) {
      onWindow(session::undo);
    }
    assertThat(recast().isNone()).isTrue();
    assertThat(still.getValue()).isEqualTo("as solved");
  }

  @Test
  void pictureTimeAndZoomAreSetAndProven(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT5);
    type(robot, "#delivery-crop", "100,50,640x360");
    assertThat(recast().framing()).contains(new Framing(100, 50, 640, 360, 640, 360));
    type(robot, "#delivery-size", "1280x720");
    assertThat(recast().framing()).contains(new Framing(100, 50, 640, 360, 1280, 720));
    assertThat(says(robot)).contains("The plates do not go with it.");
    type(robot, "#delivery-crop", "somewhere");
    assertThat(message(robot)).contains("Give left, top and size");
    assertThat(recast().framing()).isPresent();

    MotionPart part = robot.lookup("#delivery-motion").query();
    Path table = dir.resolve("ramp.csv");
    Files.writeString(table, "new,old\n1001,1090\n1002,1088\n1003,1086.5\n1004,1084\n");
    robot.interact(() -> part.retime(table));
    assertThat(says(robot)).contains("4 frames, 1001-1004: plate frames 1090 to 1084.");
    robot.interact(robot.lookup("#delivery-reverse").queryButton()::fire);
    assertThat(recast().retime().orElseThrow().sources()).containsExactly(1084, 1086.5, 1088, 1090);

    robot.interact(
        () -> robot.lookup("#delivery-zoom").<ComboBox<String>>query().setValue("film back"));
    assertThat(recast().zoom()).isEqualTo(ZoomOn.FILM_BACK);
    ProofReport r = sent();
    assertThat(r.holds()).as(r.sentence()).isTrue();

    robot.interact(robot.lookup("#delivery-no-retime").queryButton()::fire);
    assertThat(recast().retime()).isEmpty();
    type(robot, "#delivery-crop", "");
    assertThat(recast().framing()).isEqualTo(Optional.empty());
  }
}
