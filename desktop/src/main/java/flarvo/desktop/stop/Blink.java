package flarvo.desktop.stop;

import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.util.Duration;

/** Shows two pictures in turn: what moves is where they differ. */
public final class Blink {

  private static final Duration EACH = Duration.millis(500);

  private final BooleanProperty on = new SimpleBooleanProperty();

  /**
   * @param turn shows the other of both; {@code end} shows what is shown when nothing blinks
   */
  public Blink(Runnable turn, Runnable end) {
    Timeline turns = new Timeline(new KeyFrame(EACH, e -> turn.run()));
    turns.setCycleCount(Animation.INDEFINITE);
    on.addListener(
        (o, a, b) -> {
          if (b) {
            turns.play();
          } else {
            turns.stop();
            end.run();
          }
        });
  }

  public BooleanProperty on() {
    return on;
  }
}
