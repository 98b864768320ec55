package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.desktop.view.PictureView;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import java.util.concurrent.atomic.AtomicReference;
import javafx.geometry.Bounds;
import javafx.geometry.Point2D;
import javafx.scene.image.PixelReader;
import javafx.scene.image.WritableImage;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.scene.paint.Color;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.util.WaitForAsyncUtils;

/** What the picture shows is what the core projects, pixel for pixel on the screen. */
class PictureTest extends WindowHarness {

  /** Where a tracker must be drawn, in the view's own coordinates. */
  private Point2D expected(String tracker, int frame) {
    WorldShot s = session.shot().get();
    TrackerSet t = s.trackers().get(0);
    int i = t.names().indexOf(tracker);
    double[] px = new double[3];
    new Pinhole(s.cameras().get(0), s.picture()).at(frame).project(t, i, px);
    PictureView v = window.picture();
    double scale = Math.min((v.getWidth() - 24) / 960, (v.getHeight() - 24) / 540);
    return new Point2D(
        v.getWidth() / 2 + (px[0] - 480) * scale, v.getHeight() / 2 + (px[1] - 270) * scale);
  }

  /** Middle of the white second ring about a place, in the view's own coordinates. */
  private Point2D ringAround(Point2D near) throws Exception {
    AtomicReference<Point2D> ring = new AtomicReference<>();
    await( // a pulse or two later
        () -> {
          ring.set(ring(window.picture().snapshot(null, null).getPixelReader(), near));
          return ring.get() != null;
        });
    return ring.get();
  }

  /** Null where none is drawn. */
  private static Point2D ring(PixelReader r, Point2D near) {
    double sx = 0;
    double sy = 0;
    double n = 0;
    for (int y = (int) near.getY() - 14; y <= near.getY() + 14; y++) {
      for (int x = (int) near.getX() - 14; x <= near.getX() + 14; x++) {
        Color c = r.getColor(x, y);
        double white = Math.min(c.getRed(), Math.min(c.getGreen(), c.getBlue()));
        double d = Math.hypot(x + 0.5 - near.getX(), y + 0.5 - near.getY());
        // Not the dot in the middle, and not the name beside the ring.
        if (white > 0.5 && d > 6.5 && d < 11.5) {
          sx += white * (x + 0.5);
          sy += white * (y + 0.5);
          n += white;
        }
      }
    }
    return n > 15 ? new Point2D(sx / n, sy / n) : null;
  }

  /** At Receive the ledger stands where the picture is elsewhere. */
  @BeforeEach
  void goWhereThePictureIs() throws Exception {
    onWindow(() -> session.stop().set("vet"));
  }

  @Test
  void aSelectedTrackerIsRingedWhereTheCoreProjectsIt() throws Exception {
    for (String name : new String[] {"t020", "t033", "t058"}) {
      int row = session.shot().get().observations().firstRow(name);
      int frame = session.shot().get().observations().frame(row) + 3;
      onWindow(
          () -> {
            session.view().platesShown().set(false);
            session.playhead().goTo(frame);
            session.choose(name, false);
          });
      Point2D there = expected(name, frame);
      Point2D found = ringAround(there);
      assertThat(found.getX()).as(name).isCloseTo(there.getX(), within(0.75));
      assertThat(found.getY()).as(name).isCloseTo(there.getY(), within(0.75));
    }
  }

  @Test
  void aClickSelectsTheTrackerUnderIt(FxRobot robot) throws Exception {
    int row = session.shot().get().observations().firstRow("t058");
    int frame = session.shot().get().observations().frame(row) + 3;
    onWindow(() -> session.playhead().goTo(frame));
    Bounds b = window.picture().localToScreen(window.picture().getBoundsInLocal());
    Point2D p = expected("t058", frame);
    robot.clickOn(b.getMinX() + p.getX(), b.getMinY() + p.getY(), MouseButton.PRIMARY);
    assertThat(session.selection()).containsExactly("t058");
    robot.clickOn(b.getMinX() + 6, b.getMinY() + 6, MouseButton.PRIMARY);
    assertThat(session.selection()).isEmpty();
  }

  @Test
  void zoomAndPanMoveThePictureAndFGoesToTheSelection(FxRobot robot) throws Exception {
    onWindow(() -> session.choose("t033", false));
    robot.moveTo(window.picture()).scroll(5, javafx.geometry.VerticalDirection.UP);
    robot.drag(MouseButton.PRIMARY).dropBy(30, 20);
    assertThat(session.selection()).as("a drag selects nothing").containsExactly("t033");
    robot.type(KeyCode.F);
    onWindow(window.picture()::fit);
    int row = session.shot().get().observations().firstRow("t033");
    int frame = session.shot().get().observations().frame(row);
    onWindow(() -> session.playhead().goTo(frame));
    Point2D there = expected("t033", frame);
    onWindow(() -> session.view().platesShown().set(false));
    assertThat(ringAround(there).distance(there)).isLessThan(0.75);
  }

  /** Asked for again while it is being read, as a hand that scrubs does: it counts once. */
  @Test
  void aPlateThatWasAskedForOftenCountsOnce() throws Exception {
    PlateSequence plates = session.shot().get().plates().get(0);
    onWindow(
        () -> {
          for (int i = 0; i < 40; i++) {
            window.picture().cache().get(plates, 1060);
            window.picture().cache().get(plates, 1061);
          }
        });
    await(() -> window.picture().cache().loaded(plates) >= 20);
    await(
        () ->
            window.picture().cache().usedBytes()
                == 4L * plates.size().width() * plates.size().height() * all());
    onWindow(() -> window.close());
  }

  /** Pictures in the cache, of both sequences. */
  private int all() {
    return session.shot().get().plates().stream()
        .mapToInt(p -> window.picture().cache().loaded(p))
        .sum();
  }

  @Test
  void bothPlatesAreShownAndTheyDiffer() throws Exception {
    await(() -> loaded(PlateRole.UNDISTORTED) > 0);
    onWindow(() -> session.view().trackersShown().set(false));
    int[] flat = plate();
    onWindow(() -> session.view().plateRole().set(PlateRole.ORIGINAL));
    await(() -> loaded(PlateRole.ORIGINAL) > 0);
    int[] barrel = plate();
    long differing = 0;
    for (int i = 0; i < flat.length; i++) {
      differing += flat[i] != barrel[i] ? 1 : 0;
    }
    assertThat(differing).isGreaterThan(flat.length / 4);
  }

  private int loaded(PlateRole role) {
    return window.picture().cache().loaded(session.shot().get().plate(role).orElseThrow());
  }

  private int[] plate() throws Exception {
    AtomicReference<WritableImage> shot = new AtomicReference<>();
    onWindow(() -> window.picture().redraw());
    onWindow(() -> shot.set(window.picture().snapshot(null, null)));
    int[] out = new int[300 * 200];
    shot.get()
        .getPixelReader()
        .getPixels(
            40, 100, 300, 200, javafx.scene.image.PixelFormat.getIntArgbInstance(), out, 0, 300);
    return out;
  }

  @Test
  void spaceIsTurnedMovedAndPicked(FxRobot robot) throws Exception {
    robot.type(KeyCode.TAB);
    WaitForAsyncUtils.waitForFxEvents();
    WritableImage before = space();
    robot.moveTo(window.space()).drag(MouseButton.PRIMARY).dropBy(60, 25);
    WritableImage turned = space();
    assertThat(same(before, turned)).isFalse();
    robot.moveTo(window.space()).scroll(3, javafx.geometry.VerticalDirection.DOWN);
    assertThat(same(turned, space())).isFalse();
    onWindow(() -> session.choose("t020", false));
    robot.type(KeyCode.F);
    // Framed alone, it stands in the middle; a click there lets it go.
    robot.clickOn(window.space());
    assertThat(session.selection()).isEmpty();
    robot.clickOn(window.space());
    assertThat(session.selection()).containsExactly("t020");
  }

  private WritableImage space() throws Exception {
    AtomicReference<WritableImage> shot = new AtomicReference<>();
    onWindow(() -> {});
    onWindow(() -> shot.set(window.space().snapshot(null, null)));
    return shot.get();
  }

  private static boolean same(WritableImage a, WritableImage b) {
    for (int y = 0; y < a.getHeight(); y += 2) {
      for (int x = 0; x < a.getWidth(); x += 2) {
        if (a.getPixelReader().getArgb(x, y) != b.getPixelReader().getArgb(x, y)) {
          return false;
        }
      }
    }
    return true;
  }

  @Test
  void theRecipientsCrossesStandInTheSourcesRings() throws Exception {
    onWindow(session.sending()::sendAll);
    await(this::allSent);
    onWindow(
        () -> {
          session.stop().set("proof");
          session.view().platesShown().set(false);
        });
    WorldShot there = session.sending().states().get(session.chosen().get()).seen().orElseThrow();
    WorldShot here = session.shot().get();
    double[] a = new double[3];
    double[] b = new double[3];
    new Pinhole(here.cameras().get(0), here.picture())
        .at(1040)
        .project(
            here.trackers().get(0).x(3),
            here.trackers().get(0).y(3),
            here.trackers().get(0).z(3),
            a);
    new Pinhole(there.cameras().get(0), there.picture())
        .at(1040)
        .project(
            there.trackers().get(0).x(3),
            there.trackers().get(0).y(3),
            there.trackers().get(0).z(3),
            b);
    assertThat(Math.hypot(a[0] - b[0], a[1] - b[1])).isLessThan(1e-3);
  }
}
