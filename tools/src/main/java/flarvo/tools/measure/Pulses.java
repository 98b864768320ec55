package flarvo.tools.measure;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;

/** Times between the window's pulses during one phase of a measurement. */
final class Pulses {

  private final List<Double> all = new ArrayList<>(); // milliseconds
  private long began;
  private long last;

  /** Counts a pulse; returns seconds since the phase began. */
  double tick() {
    long now = System.nanoTime();
    all.add((now - last) / 1e6);
    last = now;
    return (now - began) / 1e9;
  }

  /** Another phase begins. */
  void restart() {
    began = System.nanoTime();
    last = began;
    all.clear();
  }

  /** Such as {@code pulses median 16.7 ms, 99th percentile 25.0 ms, longest 31 ms}. */
  String words() {
    List<Double> sorted = new ArrayList<>(all);
    Collections.sort(sorted);
    int n = sorted.size();
    return String.format(
        Locale.ROOT,
        "pulses median %.1f ms, 99th percentile %.1f ms, longest %.0f ms",
        sorted.get(n / 2),
        sorted.get((int) (0.99 * (n - 1))),
        sorted.get(n - 1));
  }
}
