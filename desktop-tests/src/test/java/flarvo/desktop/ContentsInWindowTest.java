package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialects;
import flarvo.decision.Anchor;
import flarvo.decision.BuildDecision;
import flarvo.decision.DispatchDecision;
import flarvo.desktop.state.SendState;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Part;
import flarvo.format.Formats;
import flarvo.report.Note;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import javafx.event.ActionEvent;
import javafx.scene.control.CheckBox;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.VBox;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;

/** What a delivery contains, chosen on the desk: picture card, gauges, and names left out. */
class ContentsInWindowTest extends WindowHarness {

  private Delivery added(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT6);
    Delivery d =
        new Delivery(
            "Lighting",
            Dialects.shipped().get("anim-yup-m"),
            Formats.byId("usd-text"),
            Contents.CAMERA_AND_TRACKERS,
            "lighting.usda");
    robot.interact(() -> session.store().decide(new DispatchDecision.AddDelivery(d)));
    await(() -> session.state().get().deliveries().contains(d));
    robot.interact(() -> session.chosen().set(d));
    return d;
  }

  private Contents contents() {
    return session.chosen().get().contents();
  }

  private SendState sent() throws Exception {
    Delivery d = session.chosen().get();
    sent(d);
    return session.sending().states().get(d);
  }

  @Test
  void aPictureCardIsChosenPlacedAndProven(FxRobot robot) throws Exception {
    added(robot);
    TextField at = robot.lookup("#delivery-card-metres").query();
    assertThat(at.getParent().isVisible()).isFalse();
    robot.interact(robot.lookup("#delivery-card").<CheckBox>query()::fire);
    await(() -> contents().has(Part.CARD));
    assertThat(at.getParent().isVisible()).isTrue();
    await(() -> at.getPromptText().startsWith("behind all, "));
    double behind = Double.parseDouble(at.getPromptText().substring(12));
    SendState usual = sent();
    assertThat(usual.proof().orElseThrow().holds()).isTrue();
    assertThat(usual.sent().orElseThrow().notes())
        .extracting(Note::toString)
        .anyMatch(n -> n.startsWith("picture card: it stands "));
    assertThat(usual.proof().get().checks())
        .anyMatch(c -> c.name().equals("cardPictures") && c.holds());

    enter(robot, at, "nowhere");
    assertThat(session.message().get()).startsWith("'nowhere' is no length");
    assertThat(at.getStyleClass()).contains("bad");
    enter(robot, at, "-3");
    assertThat(session.message().get()).contains("over 0 m");
    enter(robot, at, Double.toString(behind / 2));
    await(() -> contents().cardMetres().isPresent());
    assertThat(at.getStyleClass()).doesNotContain("bad");
    assertThat(sent().sent().orElseThrow().notes())
        .extracting(Note::toString)
        .anyMatch(n -> n.contains("in front of some of the shot"));
    robot.press(KeyCode.CONTROL).type(KeyCode.Z).release(KeyCode.CONTROL);
    await(() -> contents().cardMetres().isEmpty());
  }

  @Test
  void tracksGoAlongAndTheDeskSaysWhatBecomesOfThem(FxRobot robot) throws Exception {
    added(robot);
    await(() -> losses(robot).contains("USD text files contain no 2D tracks"));
    CheckBox tracks = robot.lookup("#delivery-tracks").query();
    robot.interact(tracks::fire);
    await(() -> losses(robot).contains("2D tracks: on the undistorted plates of 960x540"));
    assertThat(losses(robot)).doesNotContain("contain no 2D tracks");
    SendState s = sent();
    assertThat(s.proof().orElseThrow().holds()).isTrue();
    assertThat(s.proof().get().checks()).extracting(c -> c.name()).contains("tracks", "tracksFit");
    robot.interact(tracks::fire);
    await(() -> losses(robot).contains("USD text files contain no 2D tracks"));
  }

  private static String losses(FxRobot robot) {
    return robot.lookup("#delivery-losses").<VBox>query().getChildren().stream()
        .map(n -> ((Label) n).getText())
        .collect(Collectors.joining("; "));
  }

  @Test
  void gaugesGoAlongAndWhatHasANameIsLeftOut(FxRobot robot) throws Exception {
    Map<String, Vec3> places = TrackerSet.stillPositions(session.state().get().shot().trackers());
    String tracker = places.keySet().iterator().next();
    robot.interact(
        () ->
            session
                .store()
                .decide(
                    new BuildDecision.PlaceGauge(
                        "post on it", Gauge.Kind.POST, new Anchor.Tracker(tracker))));
    added(robot);
    robot.interact(robot.lookup("#delivery-gauges").<CheckBox>query()::fire);
    await(() -> contents().has(Part.GAUGES));
    MenuButton leaveOut = robot.lookup("#delivery-leave-out").query();
    assertThat(leaveOut.getText()).isEqualTo("none");
    robot.interact(leaveOut::show);
    List<String> offered = leaveOut.getItems().stream().map(MenuItem::getText).toList();
    assertThat(offered).contains("post on it").hasSizeGreaterThan(1);
    robot.interact(leaveOut::hide);
    SendState all = sent();
    assertThat(all.proof().orElseThrow().holds()).isTrue();
    assertThat(all.proof().get().checks()).anyMatch(c -> c.name().equals("geometry"));

    tick(robot, leaveOut, "post on it");
    await(() -> contents().leftOut().contains("post on it"));
    assertThat(leaveOut.getText()).isEqualTo("1 by name");
    SendState less = sent();
    assertThat(less.proof().orElseThrow().holds()).isTrue();
    assertThat(less.sent().orElseThrow().notes())
        .extracting(Note::toString)
        .anyMatch(n -> n.contains("left out as asked: post on it"));
    robot.interact(leaveOut::show);
    assertThat(item(leaveOut, "post on it").isSelected()).isTrue();
    tick(robot, leaveOut, "post on it");
    await(() -> contents().leftOut().isEmpty());
  }

  @Test
  void trackersGoAsPointsOrAsLocatorsOfASize(FxRobot robot) throws Exception {
    added(robot);
    MenuButton clouds = robot.lookup("#delivery-clouds").query();
    TextField size = robot.lookup("#delivery-locator-metres").query();
    assertThat(clouds.getText()).isEqualTo("none");
    tick(robot, clouds, "trackers");
    await(() -> contents().clouds().contains("trackers"));
    SendState s = sent();
    assertThat(s.proof().orElseThrow().holds()).isTrue();
    assertThat(s.proof().get().checks()).anyMatch(c -> c.name().equals("clouds") && c.holds());
    enter(robot, size, "large");
    assertThat(session.message().get()).startsWith("'large' is no length");
    enter(robot, size, "0.2");
    await(() -> contents().locatorMetres().isPresent());
    assertThat(sent().proof().orElseThrow().holds()).isTrue();
    // Without trackers there is nothing to draw.
    robot.interact(robot.lookup("#delivery-trackers").<CheckBox>query()::fire);
    await(() -> !contents().has(Part.TRACKERS));
    assertThat(size.getParent().getParent().isVisible()).isFalse();
  }

  /** As a click on it does; names stand elsewhere in the window too. */
  private static void tick(FxRobot robot, MenuButton menu, String name) {
    robot.interact(menu::show);
    robot.interact(
        () -> {
          CheckMenuItem i = item(menu, name);
          i.setSelected(!i.isSelected());
          i.fire();
        });
    robot.interact(menu::hide);
  }

  private static CheckMenuItem item(MenuButton menu, String name) {
    return menu.getItems().stream()
        .filter(i -> i.getText().equals(name))
        .map(CheckMenuItem.class::cast)
        .findFirst()
        .orElseThrow();
  }

  private static void enter(FxRobot robot, TextField field, String text) {
    robot.interact(
        () -> {
          field.setText(text);
          field.fireEvent(new ActionEvent());
        });
  }
}
