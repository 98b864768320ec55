package flarvo.desktop;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import javafx.animation.AnimationTimer;

/** Times between the window's pulses. */
final class PulseMeter extends AnimationTimer {

  private final List<Double> millis = Collections.synchronizedList(new ArrayList<>());
  private long last;

  @Override
  public void handle(long now) {
    long t = System.nanoTime();
    if (last != 0) {
      millis.add((t - last) / 1e6);
    }
    last = t;
  }

  int count() {
    return millis.size();
  }

  double medianMillis() {
    List<Double> sorted = new ArrayList<>(millis);
    Collections.sort(sorted);
    return sorted.get(sorted.size() / 2);
  }

  double longestMillis() {
    return Collections.max(millis);
  }
}
