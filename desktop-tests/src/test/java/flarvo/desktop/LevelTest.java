package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.decision.DispatchDecision;
import flarvo.decision.LevelDecision;
import flarvo.desktop.stop.level.Handles;
import flarvo.desktop.view.Projector;
import flarvo.desktop.view.SpaceSide;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import javafx.geometry.Point2D;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;

/** The stop Level in the real window, on the demo's terrace. */
class LevelTest extends WindowHarness {

  @BeforeEach
  void goToLevel() throws Exception {
    onWindow(() -> session.stop().set("level"));
    await(() -> level().reading() != null && window.space().getWidth() > 100);
  }

  private void press(FxRobot robot, String button) throws Exception {
    onWindow(() -> robot.lookup(button).queryAs(Button.class).fire());
  }

  private void select(String... names) throws Exception {
    onWindow(
        () -> {
          session.selection().clear();
          session.selection().addAll(List.of(names));
        });
  }

  private void type(FxRobot robot, String field, String text) throws Exception {
    onWindow(() -> robot.lookup(field).queryAs(TextField.class).setText(text));
  }

  private Similarity standing() {
    return session.state().get().shot().level();
  }

  private Vec3 world(String tracker) {
    return standing().apply(level().scene().places().get(tracker));
  }

  private static Point2D on(Node view, double x, double y) {
    return view.localToScreen(x, y);
  }

  @Test
  void statementsLevelTheShotAndSayWhatIsLeft(FxRobot robot) throws Exception {
    onWindow(() -> session.store().decide(new LevelDecision.ResetLevel(LevelDecision.Part.ALL)));
    select("t020");
    press(robot, "#state-origin");
    assertThat(world("t020").length()).isLessThan(1e-9);
    assertThat(robot.lookup("#level-free").queryAs(Label.class).getText())
        .contains("all rotations", "scale");
    select("t018", "t020", "t025", "t012", "t007");
    press(robot, "#state-ground");
    select("t002", "t003");
    type(robot, "#state-distance", "60 cm");
    press(robot, "#state-apart");
    press(robot, "#state-along");
    assertThat(world("t003").minus(world("t002")).length()).isCloseTo(0.6, within(2e-3));
    assertThat(world("t003").x()).isGreaterThan(world("t002").x());
    assertThat(level().reading().free()).isEmpty();
    assertThat(robot.lookup("#statements").query().lookupAll(".statement")).hasSize(4);
    assertThat(robot.lookup("#stop-4").query().lookupAll(".label").toString()).contains("4 stated");
    // A distance that is wrong is named, and taking it out of the count mends it.
    select("t020", "t018");
    type(robot, "#state-distance", "2 m");
    press(robot, "#state-apart");
    assertThat(level().reading().lines().get(4).problem().orElse("")).contains("disagrees");
    onWindow(
        () ->
            robot
                .lookup("#statements")
                .query()
                .lookupAll(".check-box")
                .forEach(
                    n -> {
                      if (((CheckBox) n).getAccessibleText().contains("2.000 m")) {
                        ((CheckBox) n).fire();
                      }
                    }));
    assertThat(level().reading().lines()).allMatch(l -> l.problem().isEmpty());
    press(robot, "#unstate-4");
    assertThat(level().staging().statements()).hasSize(4);
    type(robot, "#state-distance", "much");
    press(robot, "#state-apart");
    assertThat(message(robot)).contains("not a length");
    onWindow(session::undo);
    assertThat(level().staging().statements()).hasSize(5);
  }

  private void dragKnob(FxRobot robot, Node view, Projector to, Handles.Handle handle, double dx)
      throws Exception {
    Handles h = new Handles();
    double found = Double.NaN;
    double row = 0;
    // Where that handle is, looked for as an eye would.
    for (double y = 4; y < view.getLayoutBounds().getHeight() && Double.isNaN(found); y += 4) {
      for (double x = 4; x < view.getLayoutBounds().getWidth(); x += 4) {
        h.setRadius(
            view == window.space()
                ? window.space().context().reach()
                : window.picture().context().reach());
        if (h.at(to, x, y).orElse(null) == handle) {
          found = x;
          row = y;
          break;
        }
      }
    }
    assertThat(found).as("%s is in view", handle).isNotNaN();
    Point2D from = on(view, found, row);
    robot.moveTo(from);
    robot.press(MouseButton.PRIMARY);
    robot.moveBy(dx / 2, 0);
    robot.moveBy(dx / 2, 0);
    robot.release(MouseButton.PRIMARY);
    onWindow(() -> {});
  }

  @Test
  void knobsMoveTheWorldAndWhatWasStatedHolds(FxRobot robot) throws Exception {
    select("t020");
    press(robot, "#state-origin");
    Similarity before = standing();
    onWindow(() -> window.space().look(SpaceSide.TOP));
    dragKnob(robot, window.space(), window.space().world(), Handles.Handle.TURN, 40);
    assertThat(message(robot)).contains("Drag turn");
    double turned = standing().rotation().angleTo(before.rotation());
    assertThat(Math.toDegrees(turned)).isBetween(3.0, 120.0);
    assertThat(world("t020").length()).isLessThan(1e-9);
    assertThat(standing().scale()).isCloseTo(before.scale(), within(1e-9));
    // One drag is one step back.
    onWindow(session::undo);
    assertThat(standing()).isEqualTo(before);
    assertThat(session.view().tried().get()).isNull();
  }

  /** In Picture the ground goes with the pointer, and no pixel of the shot moves. */
  @Test
  void aKnobInThePictureMovesTheGroundUnderIt(FxRobot robot) throws Exception {
    onWindow(
        () -> {
          session.playhead().goTo(1040);
          session.view().pictureAlone().set(true);
        });
    onWindow(() -> {});
    Similarity before = standing();
    double[] was = new double[3];
    window.picture().context().world().project(world("t020"), was);
    dragKnob(
        robot, window.picture(), window.picture().context().world(), Handles.Handle.ALONG_X, 36);
    assertThat(message(robot)).contains("Drag x");
    Vec3 moved = standing().translation().minus(before.translation());
    assertThat(moved.x()).isNegative(); // the ground went along +x, so the shot went back
    assertThat(Math.abs(moved.y()) + Math.abs(moved.z())).isLessThan(1e-9);
    double[] is = new double[3];
    window.picture().context().world().project(world("t020"), is);
    assertThat(Math.hypot(is[0] - was[0], is[1] - was[1])).isLessThan(1e-9);
  }

  /** Four clicks over the plate; the card lies on the ground, in the group that was typed. */
  @Test
  void aCardIsDrawnOverThePlate(FxRobot robot) throws Exception {
    onWindow(() -> session.playhead().goTo(1040));
    type(robot, "#stand-in-group", "floor");
    onWindow(() -> robot.lookup("#stand-in-draw").queryAs(ToggleButton.class).fire());
    Projector to = window.picture().context().world();
    double[] px = new double[3];
    List<Vec3> corners =
        List.of(
            new Vec3(-0.6, 0, 0.3),
            new Vec3(0.1, 0, 0.3),
            new Vec3(0.1, 0, 0.9),
            new Vec3(-0.6, 0, 0.9));
    for (Vec3 v : corners) {
      to.project(v, px);
      robot.clickOn(on(window.picture(), px[0], px[1]));
      onWindow(() -> {});
    }
    var card = level().staging().standIns().get(0);
    assertThat(card.group()).isEqualTo("floor");
    for (Vec3 p : card.points()) {
      assertThat(standing().apply(p).y()).isCloseTo(0, within(1e-6));
      assertThat(corners)
          .anyMatch(c -> c.minus(standing().apply(p)).length() < 0.03); // a pixel of the screen
    }
    assertThat(build().sketching().get()).isNull();
  }

  @Test
  void handsTypeAndGiveBack(FxRobot robot) throws Exception {
    Similarity before = standing();
    type(robot, "#hand-amount", "30°");
    press(robot, "#hand-do");
    assertThat(Math.toDegrees(standing().rotation().angleTo(before.rotation())))
        .isCloseTo(30, within(1e-9));
    press(robot, "#hand-back");
    assertThat(standing().rotation().angleTo(before.rotation())).isLessThan(1e-9);
    onWindow(
        () -> robot.lookup("#hand-move").queryAs(ComboBox.class).getSelectionModel().select(5));
    type(robot, "#hand-amount", "1'");
    press(robot, "#hand-do");
    assertThat(standing().translation().y() - before.translation().y())
        .isCloseTo(0.3048, within(1e-9));
    onWindow(
        () -> robot.lookup("#reset-part").queryAs(ComboBox.class).getSelectionModel().select(5));
    press(robot, "#reset");
    assertThat(standing()).isEqualTo(Similarity.IDENTITY);
    assertThat(robot.lookup("#stop-4").query().lookupAll(".label").toString())
        .contains("as received");
  }

  @Test
  void theGroundIsFoundOfferedAndOnlyThenTaken(FxRobot robot) throws Exception {
    Similarity truth = standing();
    onWindow(() -> session.store().decide(new LevelDecision.ResetLevel(LevelDecision.Part.ALL)));
    press(robot, "#guess");
    await(() -> level().guess().get() != null);
    assertThat(standing()).isEqualTo(Similarity.IDENTITY);
    assertThat(robot.lookup("#level-said").queryAs(Label.class).getText())
        .contains("lie on a plane under the camera");
    press(robot, "#guess-leave");
    assertThat(session.view().tried().get()).isNull();
    press(robot, "#guess");
    await(() -> level().guess().get() != null);
    press(robot, "#guess-take");
    Vec3 up = standing().rotation().after(truth.rotation().inverse()).apply(new Vec3(0, 1, 0));
    assertThat(up.y()).isGreaterThan(Math.cos(Math.toRadians(1)));
    onWindow(session::undo);
    assertThat(standing()).isEqualTo(Similarity.IDENTITY);
  }

  @Test
  void aGaugeStandsOnATrackerOrOnTheGroundAndTellsItsSlide(FxRobot robot) throws Exception {
    onWindow(() -> session.playhead().goTo(1040));
    Projector to = window.picture().context().world();
    double[] px = new double[3];
    to.project(world("t020"), px);
    onWindow(() -> robot.lookup("#gauge-crate").queryAs(ToggleButton.class).fire());
    robot.clickOn(on(window.picture(), px[0], px[1]));
    onWindow(() -> {});
    assertThat(level().staging().gauges())
        .singleElement()
        .satisfies(g -> assertThat(g.tracker()).contains("t020"));
    Label slide = robot.lookup("#slide").queryAs(Label.class);
    await(() -> slide.getText().contains("px by height"));
    assertThat(slide.getText()).contains("t020");
    // On the ground, where no tracker is.
    to.project(new Vec3(0.31, 0, 0.93), px);
    onWindow(() -> robot.lookup("#gauge-post").queryAs(ToggleButton.class).fire());
    robot.clickOn(on(window.picture(), px[0], px[1]));
    onWindow(() -> {});
    Gauge post = level().staging().gauges().get(1);
    if (post.tracker().isEmpty()) {
      assertThat(standing().apply(post.foot()).minus(new Vec3(0.31, 0, 0.93)).length())
          .isLessThan(0.05);
    }
    select("t018");
    press(robot, "#placed-move");
    assertThat(level().staging().gauges().get(1).tracker()).contains("t018");
    type(robot, "#gauge-size", "1'6\"");
    onWindow(() -> robot.lookup("#gauge-size").queryAs(TextField.class).getOnAction().handle(null));
    assertThat(level().staging().gauges().get(1).metres()).isCloseTo(0.4572, within(1e-9));
    onWindow(() -> window.picture().requestFocus());
    robot.type(KeyCode.DELETE);
    assertThat(level().staging().gauges()).hasSize(1);
  }

  @Test
  void standInsAndLocatorsAreDrawnAndSent(FxRobot robot) throws Exception {
    select("t002", "t003", "t020");
    press(robot, "#stand-in-card");
    onWindow(() -> session.playhead().goTo(1040));
    onWindow(() -> robot.lookup("#stand-in-box").queryAs(ToggleButton.class).fire());
    Projector to = window.picture().context().world();
    double[] px = new double[3];
    for (Vec3 v : List.of(new Vec3(-0.5, 0, 0.4), new Vec3(0.4, 0, 1.0))) {
      to.project(v, px);
      robot.clickOn(on(window.picture(), px[0], px[1]));
      onWindow(() -> {});
    }
    assertThat(level().staging().standIns()).hasSize(2);
    // It goes to a tracker as a whole: its shape stays.
    var before = level().staging().standIns().get(1);
    select("t012");
    press(robot, "#placed-move");
    var moved = level().staging().standIns().get(1);
    Vec3 by = moved.points().get(0).minus(before.points().get(0));
    for (int i = 0; i < 8; i++) {
      assertThat(moved.points().get(i).minus(before.points().get(i)).minus(by).length())
          .isLessThan(1e-12);
    }
    Vec3 there = level().scene().places().get("t012");
    assertThat(moved.points()).anyMatch(q -> q.minus(there).length() < 1e-12);
    press(robot, "#stand-in-extrude"); // a box drawn out by its first face
    select("t002", "t003");
    type(robot, "#locator-name", "mark");
    press(robot, "#locators");
    assertThat(level().staging().locators())
        .extracting(l -> l.name())
        .containsExactly("mark1", "mark2");
    Delivery first = session.state().get().deliveries().get(0);
    onWindow(
        () ->
            session
                .store()
                .decide(
                    new DispatchDecision.ChangeDelivery(
                        0,
                        new Delivery(
                            first.name(),
                            first.dialect(),
                            first.format(),
                            Contents.WITH_GEOMETRY,
                            first.fileName()),
                        "contents")));
    Delivery now = session.state().get().deliveries().get(0);
    onWindow(() -> session.sending().send(now));
    await(() -> session.sending().states().get(now).proof().isPresent());
    var proof = session.sending().states().get(now).proof().orElseThrow();
    assertThat(proof.holds()).isTrue();
    assertThat(proof.checks()).anyMatch(c -> c.name().equals("geometry") && c.holds());
  }

  @Test
  void aSecondSolveIsLaidOnAndWhatWasSetStays(FxRobot robot) throws Exception {
    select("t020");
    onWindow(
        () -> {
          build().dropping().set(Gauge.Kind.CRATE);
          build().drop(java.util.Optional.empty(), level().scene().places().get("t020"));
        });
    Vec3 stood = standing().apply(level().staging().gauges().get(0).foot());
    Path second = Path.of("../demo/meridian/mer_010_terrace/second/mer_010_terrace_v2.usdc");
    int frames = session.state().get().shot().observations().size();
    onWindow(() -> level().lay(List.of(second)));
    await(() -> level().said().get().contains("shared trackers"));
    Vec3 stands = standing().apply(level().staging().gauges().get(0).foot());
    assertThat(stands.minus(stood).length()).isLessThan(1e-9);
    assertThat(session.state().get().shot().observations().size()).isEqualTo(frames);
    assertThat(session.errors().get().medianPx()).isLessThan(0.6);
    onWindow(session::undo);
    assertThat(Set.copyOf(session.state().get().shot().trackers().get(0).names())).contains("t001");
  }

  @Test
  void aTripodsTrackersGetDistances(FxRobot robot) throws Exception {
    onWindow(() -> session.project().openShot("mer_020_dome"));
    await(
        () ->
            session.state().get().shot().name().equals("mer_020_dome")
                && session.ledger().get() != null);
    onWindow(() -> session.stop().set("level"));
    String one = session.state().get().shot().trackers().get(0).names().get(0);
    select(one);
    type(robot, "#depth-metres", "12 m");
    press(robot, "#depth-typed");
    assertThat(level().staging().depths()).hasSize(1);
    assertThat(session.state().get().staged().trackers())
        .anyMatch(t -> t.name().endsWith("(directions only)"));
    onWindow(() -> session.project().openShot("mer_010_terrace"));
    await(() -> session.state().get().shot().name().equals("mer_010_terrace"));
    select("t001");
    press(robot, "#depth-typed");
    assertThat(message(robot)).contains("the camera moves");
  }
}
