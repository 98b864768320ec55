package flarvo.desktop.stop.plate;

import flarvo.desktop.state.Session;
import flarvo.scene.PlateRole;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.util.Duration;

/** Shows the original and the undistorted plate in turn: what moves is what the lens bent. */
final class Blink {

  private static final Duration EACH = Duration.millis(500);

  private final BooleanProperty on = new SimpleBooleanProperty();

  Blink(Session session) {
    Timeline turns =
        new Timeline(
            new KeyFrame(
                EACH,
                e -> {
                  PlateRole now = session.view().plateRole().get();
                  session
                      .view()
                      .plateRole()
                      .set(now == PlateRole.ORIGINAL ? PlateRole.UNDISTORTED : PlateRole.ORIGINAL);
                }));
    turns.setCycleCount(Animation.INDEFINITE);
    on.addListener(
        (o, a, b) -> {
          if (b) {
            turns.play();
          } else {
            turns.stop();
            session.view().plateRole().set(PlateRole.UNDISTORTED);
          }
        });
  }

  BooleanProperty on() {
    return on;
  }
}
