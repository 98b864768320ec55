package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialect;
import flarvo.desktop.stop.dispatch.MotionPart;
import flarvo.desktop.stop.level.MovingPart;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.motion.Framing;
import flarvo.motion.Held;
import flarvo.motion.ObjectScale;
import flarvo.motion.Recast;
import flarvo.motion.Stand;
import flarvo.motion.ZoomOn;
import flarvo.proof.Check;
import flarvo.proof.ProofReport;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.Slider;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;

/** What stands still, the zoom, the picture and the time of a delivery, set on Dispatch. */
@Tag("numeric")
class MotionInWindowTest extends WindowHarness {

  private Recast recast() {
    return session.chosen().get().extract().recast();
  }

  private void type(FxRobot robot, String id, String text) {
    robot.interact(
        () -> {
          TextField f = robot.lookup(id).query();
          f.setText(text);
          if (f.getOnAction() != null) {
            f.getOnAction().handle(null);
          }
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
    robot.type(KeyCode.DIGIT6);
    await(() -> session.chosen().get() != null);
    ComboBox<String> still = robot.lookup("#delivery-still").query();
    assertThat(still.getItems()).containsExactly("as solved", "the camera");
    robot.interact(() -> still.setValue("the camera"));
    assertThat(recast().held()).contains(Held.camera(1));
    type(robot, "#delivery-still-frame", "30");
    assertThat(recast().held()).contains(Held.camera(30));
    assertThat(session.undoTitle())
        .contains("change what stands still of " + session.chosen().get().name());
    ProofReport r = sent(session.chosen().get());
    assertThat(r.holds()).as(r.sentence()).isTrue();
    assertThat(r.checks()).extracting(Check::name).contains("samePicture");
    type(robot, "#delivery-still-frame", "soon");
    assertThat(message(robot)).contains("there is no other camera 'soon'");
    type(robot, "#delivery-still-frame", "0,1.6,4,10,-5,0");
    assertThat(recast().held()).contains(Held.camera(new Stand.At(new Vec3(0, 1.6, 4), 10, -5, 0)));
    type(robot, "#delivery-head", "-8");
    assertThat(robot.lookup("#delivery-frames").<Label>query().getText())
        .contains("-7-60", "Motion is held on the added ones");
    type(robot, "#delivery-parent", "rig,100");
    robot.interact(robot.lookup("#delivery-baked").queryAs(CheckBox.class)::fire);
    assertThat(recast().parents().baked()).isTrue();
    ProofReport parented = sent(session.chosen().get());
    assertThat(parented.holds()).as(parented.sentence()).isTrue();
    assertThat(parented.checks()).extracting(Check::name).contains("parentPlace", "cameraParent");
    type(robot, "#delivery-parent", "rig,1,2,1");
    assertThat(message(robot)).contains("one scale, the same along every axis");
    assertThat(recast().parents().under().orElseThrow().place().scale()).isEqualTo(100);
    for (int i = 0; i < 6; i++) {
      onWindow(session::undo);
    }
    assertThat(recast().isNone()).isTrue();
    assertThat(still.getValue()).isEqualTo("as solved");
  }

  @Test
  void pictureTimeAndZoomAreSetAndProven(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT6);
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
    ProofReport r = sent(session.chosen().get());
    assertThat(r.holds()).as(r.sentence()).isTrue();

    robot.interact(robot.lookup("#delivery-no-retime").queryButton()::fire);
    assertThat(recast().retime()).isEmpty();
    type(robot, "#delivery-crop", "");
    assertThat(recast().framing()).isEqualTo(Optional.empty());
  }

  @Test
  void aLensShiftIsBakedWhereThereIsOne(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT6);
    Button bake = robot.lookup("#delivery-bake-shift").query();
    assertThat(bake.getParent().isVisible()).isFalse(); // the terrace's lens is in the middle
    MotionPart part = robot.lookup("#delivery-motion").query();
    Shot s = session.state().get().shot();
    ShotCamera c = s.camera().orElseThrow();
    Shot shifted =
        s.withCameras(
            List.of(c.withOptics(c.optics().map(o -> o.withPrincipal(o.filmWidthMm() / 8, 0)))));
    onWindow(() -> part.show(session.chosen().get(), shifted));
    assertThat(bake.getParent().isVisible()).isTrue();
    onWindow(bake::fire);
    int w = s.picture().width();
    Framing f = recast().framing().orElseThrow();
    assertThat(f.outWidth()).isEqualTo(w + w / 4);
    assertThat(f.u(w * 5 / 8.0)).isEqualTo(f.outWidth() / 2.0);
    // Another size of it leaves it where it is, however many digits the field shows.
    Framing third = new Framing(1 / 3.0, -1 / 3.0, 900, 500, 900, 500);
    onWindow(
        () ->
            part.show(
                session
                    .chosen()
                    .get()
                    .withExtract(
                        session
                            .chosen()
                            .get()
                            .extract()
                            .recast(recast().withFraming(Optional.of(third)))),
                shifted));
    type(robot, "#delivery-size", "450x250");
    assertThat(recast().framing()).contains(third.at(450, 250));
  }

  /** The terrace's own solve as if it were an object's: what is on the picture stays there. */
  @Test
  void anObjectIsAddedSlidStatedAndTakenOut(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT4);
    Shot own = session.state().get().shot();
    Delivery d =
        new Delivery(
            "d",
            Dialect.CANONICAL,
            Formats.byId("usd-text"),
            Contents.CAMERA_AND_TRACKERS,
            "cart.usda");
    Path file = dir.resolve("cart.usda");
    Dispatcher.send(own, d, file, Progress.NONE);
    MovingPart part = robot.lookup("#moving").query();
    robot.interact(() -> part.add(List.of(file)));
    await(() -> session.state().get().objects().size() == 1);
    await(() -> robot.lookup("#moving-says-cart").tryQuery().isPresent());
    Label says = robot.lookup("#moving-says-cart").query();
    assertThat(says.getText()).contains("Scale 1").contains("not settled");
    int before = own.trackers().size();
    Shot with = session.state().get().shot();
    assertThat(with.trackers().size()).isGreaterThan(before);
    double[] p = pixel(with, "cart_t020");

    robot.interact(() -> robot.lookup("#moving-scale-cart").<Slider>query().setValue(0.5));
    await(() -> objectScale() > 3.1);
    assertThat(objectScale()).isCloseTo(Math.sqrt(10), within(1e-9));
    double[] q = pixel(session.state().get().shot(), "cart_t020");
    assertThat(Math.hypot(p[0] - q[0], p[1] - q[1])).isLessThan(1e-6);

    type(robot, "#moving-length-cart", "t020 t018 2.5");
    robot.interact(robot.lookup("#moving-length-set-cart").queryButton()::fire);
    await(() -> session.state().get().objects().get(0).scale() instanceof ObjectScale.Length);
    assertThat(robot.lookup("#moving-says-cart").<Label>query().getText())
        .contains("t020 and t018 are 2.5 m apart");
    type(robot, "#moving-length-cart", "t020 nobody 2.5");
    robot.interact(robot.lookup("#moving-length-set-cart").queryButton()::fire);
    await(() -> message(robot).contains("no tracker 'nobody'"));
    type(robot, "#moving-place-cart", "t020 1 0 -2");
    robot.interact(robot.lookup("#moving-place-set-cart").queryButton()::fire);
    await(() -> session.state().get().objects().get(0).scale() instanceof ObjectScale.At);
    assertThat(robot.lookup("#moving-says-cart").<Label>query().getText())
        .contains("t020 is at 1.0 0.0 -2.0", "its line of sight misses that by");
    type(robot, "#moving-place-cart", "t020 here");
    robot.interact(robot.lookup("#moving-place-set-cart").queryButton()::fire);
    assertThat(message(robot)).contains("three lengths in metres");
    type(robot, "#moving-length-cart", "long");
    robot.interact(robot.lookup("#moving-length-set-cart").queryButton()::fire);
    assertThat(message(robot)).contains("two trackers and metres");

    robot.interact(robot.lookup("#moving-remove-cart").queryButton()::fire);
    await(() -> session.state().get().objects().isEmpty());
    assertThat(session.undoTitle()).contains("remove moving object cart");
    onWindow(session::undo);
    await(() -> session.state().get().objects().size() == 1);
  }

  /** Two carts and a camera, each on its own path; on the board either cart can stand still. */
  @Test
  void twoObjectsMoveEachOnItsPath(FxRobot robot) throws Exception {
    onWindow(() -> session.project().openShot("mer_050_carts"));
    await(() -> session.state().get().name().equals("mer_050_carts"));
    assertThat(Held.moving(session.state().get().shot())).containsOnlyKeys("near_cart", "far_cart");
    robot.type(KeyCode.DIGIT4);
    await(() -> robot.lookup("#moving-says-far_cart").tryQuery().isPresent());
    assertThat(robot.lookup("#moving-says-near_cart").<Label>query().getText())
        .contains("t003 and t021 are 1.452 m apart");
    robot.type(KeyCode.DIGIT6);
    await(() -> session.chosen().get() != null);
    ComboBox<String> still = robot.lookup("#delivery-still").query();
    assertThat(still.getItems())
        .containsExactly("as solved", "the camera", "group near_cart", "group far_cart");
    robot.interact(() -> still.setValue("group near_cart"));
    ComboBox<String> in = robot.lookup("#delivery-camera-in").query();
    robot.interact(() -> in.setValue("far_cart"));
    assertThat(recast().parents().cameraIn()).contains("far_cart");
    ProofReport r = sent(session.chosen().get());
    assertThat(r.holds()).as(r.sentence()).isTrue();
    assertThat(r.checks()).extracting(Check::name).contains("cameraParent", "samePicture");
  }

  @Test
  void keysBetweenFramesAreSnappedOnReceive(FxRobot robot) throws Exception {
    Path late = dir.resolve("late.usda");
    String text =
        Files.readString(
            Path.of("../demo/meridian/mer_010_terrace/solve/mer_010_terrace_solve.usda"));
    Files.writeString(
        late, Pattern.compile("(?m)^( *)(\\d+): ").matcher(text).replaceAll("$1$2.03: "));
    onWindow(() -> session.project().open(List.of(late)));
    await(() -> robot.lookup("#snap-keys").tryQuery().isPresent());
    await(() -> robot.lookup("#keys-between").query().isVisible());
    assertThat(robot.lookup("#keys-says").<Label>query().getText())
        .isEqualTo("96 keys of the camera lie between frames, and are interpolated on frames.");
    Pose lies = session.state().get().shot().cameras().get(0).poses().at(20);
    robot.interact(robot.lookup("#snap-keys").queryButton()::fire);
    await(() -> session.state().get().received().orElseThrow().base().snapKeys());
    await(() -> message(robot).contains("Keys snapped: the picture moves by up to"));
    assertThat(robot.lookup("#keys-says").<Label>query().getText()).contains("are snapped");
    assertThat(session.state().get().shot().cameras().get(0).poses().at(20)).isNotEqualTo(lies);
    assertThat(session.undoTitle()).contains("snap keys to frames");
    onWindow(session::undo);
    await(() -> session.state().get().shot().cameras().get(0).poses().at(20).equals(lies));
  }

  @Test
  void theLensCalculatorBeginsWithTheShotsLens(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT5);
    Label says = robot.lookup("#calc-says").query();
    assertThat(says.getText()).contains("17.5 mm on 23.76 × 13.365 mm").contains("68.34");
    type(robot, "#calc-on", "36");
    assertThat(says.getText()).contains("The same on 36 mm: 26.5152 mm.");
    type(robot, "#calc-focal", "");
    assertThat(says.getText()).contains("does not settle a lens");
    type(robot, "#calc-across", "90");
    assertThat(says.getText()).contains("11.88 mm on 23.76");
    type(robot, "#calc-focal", "50");
    assertThat(says.getText()).contains("contradicts itself");
    type(robot, "#calc-focal", "wide");
    assertThat(says.getText()).contains("Numbers only");
  }

  private double objectScale() {
    return session.state().get().objects().get(0).scale() instanceof ObjectScale.Factor f
        ? f.k()
        : Double.NaN;
  }

  private static double[] pixel(Shot s, String tracker) {
    Pinhole hole = new Pinhole(s.cameras().get(0), s.picture());
    hole.at(s.frames().first() + 30);
    double[] out = new double[3];
    for (TrackerSet t : s.trackers()) {
      int i = t.names().indexOf(tracker);
      if (i >= 0) {
        hole.project(t, i, out);
      }
    }
    return out;
  }
}
