package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.desktop.state.Session;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import javafx.geometry.Point2D;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyCodeCombination;
import javafx.scene.input.MouseButton;
import org.testfx.api.FxRobot;
import org.testfx.robot.Motion;
import org.testfx.util.WaitForAsyncUtils;

/**
 * A robot that waits, as a user does without noticing, until what it did is decided and shown: that
 * takes a moment beside the window. Long work it does not wait for; tests ask for what they need.
 */
final class SettledRobot extends FxRobot {

  /** What a view shows at once after a decision. */
  private static final Set<String> SHORT =
      Set.of(
          "Working out errors",
          "Reading trackers for the level",
          "Working out the level",
          "Previewing the cull");

  private static final int LIMIT_SECONDS = 240;

  private static volatile Session driven;

  /** The session whose window is driven; null for none. */
  static void drives(Session s) {
    driven = s;
  }

  /** Waits until no decision is being applied and nothing short is being worked out. */
  static void settle() {
    Session s = driven;
    if (s == null) {
      return;
    }
    long limit = System.nanoTime() + TimeUnit.SECONDS.toNanos(LIMIT_SECONDS);
    boolean waited = false;
    while (!WaitForAsyncUtils.waitForAsyncFx(LIMIT_SECONDS * 1000L, () -> isSettled(s))) {
      assertThat(System.nanoTime()).as("decisions are not applied").isLessThan(limit);
      WaitForAsyncUtils.sleep(5, TimeUnit.MILLISECONDS);
      waited = true;
    }
    if (waited) { // most often it is done already, and waiting for events takes long
      WaitForAsyncUtils.waitForFxEvents();
    }
  }

  private static boolean isSettled(Session s) {
    return !s.store().isApplying()
        && s.jobs().running().stream().noneMatch(j -> SHORT.contains(j.title()));
  }

  private SettledRobot settled() {
    settle();
    return this;
  }

  @Override
  public FxRobot interact(Runnable work) {
    super.interact(work);
    return settled();
  }

  @Override
  public <T> FxRobot interact(Callable<T> work) {
    super.interact(work);
    return settled();
  }

  @Override
  public FxRobot type(KeyCode... keys) {
    super.type(keys);
    return settled();
  }

  @Override
  public FxRobot type(KeyCode key, int times) {
    super.type(key, times);
    return settled();
  }

  @Override
  public FxRobot push(KeyCode... keys) {
    super.push(keys);
    return settled();
  }

  @Override
  public FxRobot push(KeyCodeCombination keys) {
    super.push(keys);
    return settled();
  }

  @Override
  public FxRobot write(String text) {
    super.write(text);
    return settled();
  }

  @Override
  public FxRobot release(KeyCode... keys) {
    super.release(keys);
    return settled();
  }

  @Override
  public FxRobot release(MouseButton... buttons) {
    super.release(buttons);
    return settled();
  }

  @Override
  public FxRobot drop() {
    super.drop();
    return settled();
  }

  @Override
  public FxRobot dropBy(double x, double y) {
    super.dropBy(x, y);
    return settled();
  }

  @Override
  public FxRobot dropTo(double x, double y) {
    super.dropTo(x, y);
    return settled();
  }

  @Override
  public FxRobot clickOn(MouseButton... buttons) {
    super.clickOn(buttons);
    return settled();
  }

  @Override
  public FxRobot clickOn(String query, Motion motion, MouseButton... buttons) {
    super.clickOn(query, motion, buttons);
    return settled();
  }

  @Override
  public FxRobot clickOn(Node node, Motion motion, MouseButton... buttons) {
    super.clickOn(node, motion, buttons);
    return settled();
  }

  @Override
  public FxRobot clickOn(Point2D at, Motion motion, MouseButton... buttons) {
    super.clickOn(at, motion, buttons);
    return settled();
  }

  @Override
  public FxRobot clickOn(double x, double y, Motion motion, MouseButton... buttons) {
    super.clickOn(x, y, motion, buttons);
    return settled();
  }
}
