package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.desktop.stop.trace.TraceStop;
import flarvo.desktop.work.Job;
import flarvo.plate.Raster;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.scene.Vec3;
import flarvo.trace.HandFeature;
import flarvo.trace.KeyedMatte;
import flarvo.trace.MaskShape;
import flarvo.trace.Mover;
import flarvo.trace.PlaneFeature;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.OptionalDouble;
import javafx.event.ActionEvent;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;

/** A folder of plates and nothing else becomes a shot. */
@Tag("numeric")
class TraceInWindowTest extends WindowHarness {

  private static final int FRAMES = 30;

  /** The demo's terrace as it was filmed, its first frames. */
  @BeforeEach
  void openPlatesAlone() throws Exception {
    PlateSequence p = session.state().get().shot().plate(PlateRole.ORIGINAL).orElseThrow();
    Path folder = Files.createDirectories(dir.resolve("plates/filmed"));
    for (int f = p.frames().first(); f < p.frames().first() + FRAMES; f++) {
      Files.copy(p.file(f), folder.resolve(p.file(f).getFileName()));
    }
    onWindow(() -> session.project().open(List.of(folder)));
    await(() -> session.state().get().shot().camera().isEmpty());
  }

  private static void set(FxRobot robot, String id, String text) {
    robot.interact(() -> robot.lookup(id).<TextField>query().setText(text));
  }

  private static void press(FxRobot robot, String id) {
    robot.interact(robot.lookup(id).queryButton()::fire);
  }

  private static String said(FxRobot robot) {
    return robot.lookup("#trace-said").<Label>query().getText();
  }

  @Test
  void platesBecomeALevelledSolveInOneGo(FxRobot robot) throws Exception {
    assertThat(window.stop(TraceStop.class).fact().text()).isEqualTo("not traced");
    robot.type(KeyCode.DIGIT2);
    press(robot, "#trace-all");
    assertThat(said(robot)).contains("Type the film back");
    set(robot, "#trace-film-width", "23.76");
    set(robot, "#trace-film-height", "13.365");
    press(robot, "#trace-all");
    await(() -> said(robot).contains("stands on its ground"));
    await(() -> session.errors().get() != null);
    assertThat(session.errors().get().rmsPx()).isLessThan(0.4);
    assertThat(session.state().get().shot().trackerCount()).isGreaterThan(100);
    // Nobody said which lens: it was found, and bends the original plates from now on.
    assertThat(session.lens().get().source()).isEqualTo("found in the plates");
    Vec3 up =
        session
            .shot()
            .get()
            .camera()
            .orElseThrow()
            .poses()
            .at(1010)
            .rotation()
            .apply(new Vec3(0, 1, 0));
    assertThat(up.y()).isGreaterThan(0.8);
    assertThat(window.stop(TraceStop.class).fact().text()).endsWith(" features");

    onWindow(session::undo);
    onWindow(session::undo);
    await(() -> session.state().get().shot().camera().isEmpty());
    assertThat(session.state().get().trace().features()).isPresent();
    assertThat(session.lens().get().track()).isEmpty();
    onWindow(session::redo);
    onWindow(session::redo);
    await(() -> session.state().get().shot().camera().isPresent());
    assertThat(session.errors().get()).isNotNull();

    // The same as a zoom, which it is none: a focal length for each frame, all alike.
    CheckBox zoom = robot.lookup("#trace-zoom").queryAs(CheckBox.class);
    robot.interact(() -> zoom.setSelected(true));
    assertThat(robot.lookup("#trace-focal").query().isDisabled()).isTrue();
    press(robot, "#trace-solve");
    await(() -> said(robot).contains("Focal length 17"));
    Shot shot = session.state().get().shot();
    double[] mm = shot.camera().orElseThrow().optics().focalLengthRangeMm();
    assertThat(mm[0]).isBetween(17.5 * 0.975, 17.5 * 1.025);
    assertThat(mm[1]).isBetween(mm[0] + 1e-6, 17.5 * 1.025);
  }

  /** Cancelled and begun again, following goes on, and comes to what it would have come to. */
  @Test
  void followingThatWasCancelledGoesOn(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT2);
    press(robot, "#trace-follow");
    await(() -> session.state().get().trace().features().isPresent());
    Observations whole = session.state().get().trace().features().orElseThrow().observations();
    onWindow(session::undo);
    await(() -> session.state().get().trace().features().isEmpty());
    press(robot, "#trace-follow");
    await(() -> session.jobs().running().stream().anyMatch(j -> j.fraction().get() > 0.25));
    onWindow(() -> List.copyOf(session.jobs().running()).forEach(Job::cancel));
    await(() -> said(robot).contains("Follow goes on with frame 10"));
    assertThat(session.state().get().trace().features()).isEmpty();
    press(robot, "#trace-follow");
    await(() -> session.state().get().trace().features().isPresent());
    assertThat(session.state().get().trace().features().orElseThrow().observations())
        .isEqualTo(whole);
  }

  /** Keyed plates of the shot are a mask, chosen by what of them counts. */
  @Test
  void keyedPlatesAreAMask(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT2);
    ComboBox<KeyedMatte> matte = robot.lookup("#trace-matte").queryComboBox();
    assertThat(matte.getParent().isVisible()).isFalse();
    Path folder = Files.createDirectories(dir.resolve("plates/keyed"));
    Raster r = Raster.empty(96, 54, List.of("R", "G", "B", "A"), SampleKind.BYTE);
    for (int i = 0; i < 96 * 54; i++) {
      r.values()[4 * i + 3] = i % 96 < 48 ? 1 : 0;
    }
    int first = session.state().get().shot().frames().first();
    for (int f = first; f < first + FRAMES; f++) {
      RasterWriter.write(r, folder.resolve("keyed." + f + ".png"));
    }
    onWindow(() -> session.project().open(List.of(dir.resolve("plates/filmed"), folder)));
    await(() -> session.state().get().shot().plate(PlateRole.KEYED).isPresent());
    await(() -> matte.getParent().isVisible());
    robot.interact(() -> matte.setValue(KeyedMatte.ALPHA));
    await(() -> session.state().get().trace().matte() == KeyedMatte.ALPHA);
    assertThat(robot.lookup("#trace-side").queryComboBox().isDisabled()).isFalse();
    press(robot, "#trace-follow");
    await(() -> session.state().get().trace().features().isPresent());
    Observations o = session.state().get().trace().features().orElseThrow().observations();
    for (int row = 0; row < o.size(); row++) {
      assertThat(o.x(row)).isGreaterThan(479);
    }
    onWindow(session::undo);
    onWindow(session::undo);
    await(() -> matte.getValue() == KeyedMatte.NONE);
  }

  /** Twenty clicks, as fast as they come: each is followed, and the rest is by hand. */
  @Test
  void featuresAreMarkedCorrectedAndRemoved(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT2);
    await(() -> !robot.lookup("#trace-mark").<Button>query().isDisabled());
    onWindow(() -> session.playhead().goTo(1010));
    robot.type(KeyCode.M);
    assertThat(robot.lookup("#trace-mark").queryButton().getText()).isEqualTo("Stop marking");
    var at = window.picture().localToScreen(window.picture().getBoundsInLocal());
    double x = at.getCenterX();
    double y = at.getCenterY();
    long began = System.nanoTime();
    for (int i = 0; i < 20; i++) {
      robot.clickOn(x - 130 + 28 * (i % 10), y - 20 + 50 * (i / 10), MouseButton.PRIMARY);
    }
    await(() -> session.state().get().trace().hand().size() == 20);
    double seconds = (System.nanoTime() - began) / 1e9;
    List<HandFeature> all = session.state().get().trace().hand();
    double life = all.stream().mapToInt(h -> h.path().size()).average().orElse(0);
    System.out.printf("twenty features by hand: %.1f s, %.1f of 30 frames each%n", seconds, life);
    assertThat(seconds).isLessThan(120);
    assertThat(all).extracting(HandFeature::name).startsWith("h01", "h02").doesNotHaveDuplicates();
    assertThat(window.stop(TraceStop.class).fact().text()).isEqualTo("20 features");
    assertThat(session.state().get().shot().observations().names()).contains("h07");

    robot.interact(robot.lookup("#trace-hand-h05").queryButton()::fire);
    HandFeature before = session.state().get().trace().hand("h05").orElseThrow();
    // How it looks, as marked and on the frame that is shown.
    Label fit = robot.lookup("#trace-fit").query();
    await(() -> fit.getText().equals("marked on 1010\nfits 1.00 on 1010"));
    int next = before.path().frame(before.path().row("h05", 1010) + 1);
    onWindow(() -> session.playhead().goTo(next));
    await(() -> fit.getText().endsWith(" on " + next));
    String found = fit.getText().split("fits ")[1].split(" ")[0];
    assertThat(Double.parseDouble(found)).isBetween(0.6, 1.0);
    // Looked for within 2 px of where it is expected, it is seen on fewer frames, or on the same.
    TextField search = robot.lookup("#trace-search").query();
    assertThat(search.getText()).isEmpty();
    robot.interact(
        () -> {
          search.setText("2");
          search.fireEvent(new ActionEvent());
        });
    await(
        () ->
            session
                .state()
                .get()
                .trace()
                .hand("h05")
                .orElseThrow()
                .searchPx()
                .equals(OptionalDouble.of(2)));
    assertThat(session.state().get().trace().hand("h05").orElseThrow().path().size())
        .isLessThanOrEqualTo(before.path().size());
    onWindow(session::undo);
    await(() -> session.state().get().trace().hand("h05").orElseThrow().equals(before));
    onWindow(() -> session.playhead().goTo(1010));
    robot.drag(x - 130 + 28 * 4, y - 20, MouseButton.PRIMARY).moveBy(0, 14).drop();
    await(() -> !session.state().get().trace().hand("h05").orElseThrow().equals(before));
    HandFeature moved = session.state().get().trace().hand("h05").orElseThrow();
    assertThat(moved.marks()).containsOnlyKeys(1010);
    assertThat(moved.marks().get(1010).y()).isGreaterThan(before.marks().get(1010).y() + 2);
    press(robot, "#trace-end-here");
    await(() -> session.state().get().trace().hand("h05").orElseThrow().within().last() == 1010);
    onWindow(session::undo);
    onWindow(session::undo);
    await(() -> session.state().get().trace().hand("h05").orElseThrow().equals(before));
    robot.type(KeyCode.DELETE);
    await(() -> session.state().get().trace().hand().size() == 19);
    robot.type(KeyCode.ESCAPE);
    assertThat(robot.lookup("#trace-mark").queryButton().getText()).isEqualTo("Mark features");
  }

  /** A part of the floor, drawn with four clicks, corrected and removed. */
  @Test
  void aPlaneIsDrawnFollowedCorrectedAndRemoved(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT2);
    await(() -> !robot.lookup("#trace-plane").<Button>query().isDisabled());
    onWindow(() -> session.playhead().goTo(1010));
    press(robot, "#trace-plane");
    assertThat(robot.lookup("#trace-plane").queryButton().getText()).isEqualTo("Stop drawing");
    var at = window.picture().localToScreen(window.picture().getBoundsInLocal());
    double x = at.getCenterX() + 150;
    double y = at.getCenterY() + 110;
    robot.clickOn(x - 50, y - 30, MouseButton.PRIMARY);
    robot.clickOn(x + 60, y - 30, MouseButton.PRIMARY);
    robot.clickOn(x + 80, y + 40, MouseButton.PRIMARY);
    robot.clickOn(x - 50, y + 40, MouseButton.PRIMARY);
    await(() -> session.state().get().trace().planes().size() == 1);
    PlaneFeature p = session.state().get().trace().planes().get(0);
    assertThat(p.path().names())
        .containsExactlyInAnyOrder("p01_a", "p01_b", "p01_c", "p01_d", "p01_centre");
    assertThat(p.corners(1015)).isPresent();
    assertThat(session.state().get().shot().observations().names()).contains("p01_centre");
    assertThat(window.stop(TraceStop.class).fact().text()).isEqualTo("1 plane");
    robot.drag(x + 60, y - 30, MouseButton.PRIMARY).moveBy(12, 0).drop();
    await(
        () ->
            session.state().get().trace().planes().get(0).corners(1010).orElseThrow()[2]
                > p.corners(1010).orElseThrow()[2] + 2);
    onWindow(session::undo);
    await(() -> session.state().get().trace().planes().get(0).equals(p));
    press(robot, "#trace-plane-p01");
    assertThat(robot.lookup("#trace-plane-card").queryButton().isDisabled()).isTrue();
    set(robot, "#trace-film-width", "23.76");
    set(robot, "#trace-film-height", "13.365");
    set(robot, "#trace-focal", "17.5");
    press(robot, "#trace-all");
    await(() -> said(robot).contains("stands on its ground"));
    await(() -> !robot.lookup("#trace-plane-card").queryButton().isDisabled());
    press(robot, "#trace-plane-card");
    await(() -> session.state().get().staging().standIns().size() == 1);
    // The card is where the plane was seen.
    Shot shot = session.state().get().shot();
    Observations straight = shot.observations();
    Pinhole pinhole = new Pinhole(shot.camera().orElseThrow(), shot.picture()).at(1010);
    double[] px = new double[3];
    for (Vec3 v : session.state().get().staging().standIns().get(0).points()) {
      pinhole.project(v.x(), v.y(), v.z(), px);
      double nearest = Double.MAX_VALUE;
      for (String corner : List.of("p01_a", "p01_b", "p01_c", "p01_d")) {
        int row = straight.row(corner, 1010);
        double off = Math.hypot(px[0] - straight.x(row), px[1] - straight.y(row));
        nearest = Math.min(nearest, off);
      }
      assertThat(nearest).isLessThan(1);
    }
    press(robot, "#trace-plane-remove");
    await(() -> session.state().get().trace().planes().isEmpty());
  }

  /**
   * The demo's carts: found, one of them solved as an object, masked, and counted as scene again.
   */
  @Test
  void whatMovesIsLeftOutAndSolvedAsAnObject(FxRobot robot) throws Exception {
    Path folder = dir.resolve("plates/carts");
    Path from = DemoProject.MERIDIAN.resolve("mer_050_carts/plates/original");
    Files.createDirectories(folder);
    try (var all = Files.list(from)) {
      for (Path p : all.toList()) {
        Files.copy(p, folder.resolve(p.getFileName()));
      }
    }
    onWindow(() -> session.project().open(List.of(folder)));
    await(() -> session.state().get().shot().frames().count() == 24);
    robot.type(KeyCode.DIGIT2);
    assertThat(robot.lookup("#trace-movers").queryButton().isDisabled()).isTrue();
    set(robot, "#trace-film-width", "23.76");
    set(robot, "#trace-film-height", "13.365");
    set(robot, "#trace-focal", "24");
    press(robot, "#trace-all");
    await(() -> said(robot).contains("ground"));
    assertThat(said(robot)).contains("features on what moves");
    Mover first = session.state().get().trace().movers().get(0);
    assertThat(first.features()).hasSizeGreaterThan(20);
    assertThat(robot.lookup("#trace-mover-solve").queryButton().isDisabled()).isTrue();
    press(robot, "#trace-mover-1-row");
    press(robot, "#trace-mover-solve");
    await(() -> session.state().get().objects().size() == 1);
    assertThat(said(robot)).contains("state them on Level");
    assertThat(robot.lookup("#trace-mover-solve").queryButton().isDisabled()).isTrue();
    press(robot, "#trace-mover-mask");
    await(() -> session.state().get().trace().masks().size() == 1);
    assertThat(session.state().get().trace().masks().get(0).name()).isEqualTo(first.name());
    onWindow(session::undo);
    press(robot, "#trace-mover-1-row");
    press(robot, "#trace-mover-back");
    await(() -> session.state().get().trace().mover(first.name()).isEmpty());
    onWindow(session::undo);
    await(() -> session.state().get().trace().mover(first.name()).isPresent());
  }

  @Test
  void aMaskIsDrawnKeyedAndRemoved(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT2);
    await(() -> !robot.lookup("#trace-mask").<Button>query().isDisabled());
    press(robot, "#trace-mask");
    var at = window.picture().localToScreen(window.picture().getBoundsInLocal());
    double x = at.getCenterX();
    double y = at.getCenterY();
    robot.clickOn(x - 80, y - 60, MouseButton.PRIMARY);
    robot.clickOn(x + 80, y - 60, MouseButton.PRIMARY);
    robot.clickOn(x + 80, y + 60, MouseButton.PRIMARY);
    robot.clickOn(x - 80, y - 60, MouseButton.PRIMARY);
    await(() -> session.state().get().trace().masks().size() == 1);
    MaskShape m = session.state().get().trace().masks().get(0).shape();
    assertThat(m.keys()).hasSize(1);
    assertThat(m.at(1001)).hasSize(6);

    int first = session.playhead().frame().get();
    onWindow(() -> session.playhead().frame().set(first + 10));
    robot.drag(x + 80, y + 60, MouseButton.PRIMARY).moveBy(0, 30).drop();
    await(() -> session.state().get().trace().masks().get(0).shape().keys().size() == 2);
    MaskShape keyed = session.state().get().trace().masks().get(0).shape();
    assertThat(keyed.at(first)).isEqualTo(m.at(first));
    assertThat(keyed.at(first + 10)[5]).isGreaterThan(m.at(first)[5] + 10);
    assertThat(keyed.at(first + 5)[5])
        .isCloseTo((m.at(first)[5] + keyed.at(first + 10)[5]) / 2, within(1e-9));

    press(robot, "#trace-mask-remove");
    await(() -> session.state().get().trace().masks().isEmpty());
    onWindow(session::undo);
    await(() -> session.state().get().trace().masks().size() == 1);
  }
}
