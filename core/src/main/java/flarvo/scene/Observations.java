package flarvo.scene;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * 2D tracks: where each tracker was seen, in canonical pixels of the undistorted plate, by plate
 * frame. Rows lie tracker after tracker, frames rising, in primitive arrays. Immutable.
 */
public final class Observations {

  public static final Observations NONE = new Builder().build();

  private final List<String> names;
  private final Map<String, Integer> indexOf;
  private final int[] start; // row where tracker i begins; one more entry than trackers
  private final int[] frame;
  private final double[] x;
  private final double[] y;

  private Observations(List<String> names, int[] start, int[] frame, double[] x, double[] y) {
    this.names = names;
    this.start = start;
    this.frame = frame;
    this.x = x;
    this.y = y;
    this.indexOf = new LinkedHashMap<>();
    for (int i = 0; i < names.size(); i++) {
      indexOf.put(names.get(i), i);
    }
  }

  public List<String> names() {
    return names;
  }

  public int size() {
    return frame.length;
  }

  public boolean isEmpty() {
    return frame.length == 0;
  }

  /** First row of a tracker, or −1 where it was never seen. */
  public int firstRow(String tracker) {
    Integer i = indexOf.get(tracker);
    return i == null ? -1 : start[i];
  }

  /** Row after the last of a tracker, or −1 where it was never seen. */
  public int endRow(String tracker) {
    Integer i = indexOf.get(tracker);
    return i == null ? -1 : start[i + 1];
  }

  public int frame(int row) {
    return frame[row];
  }

  public double x(int row) {
    return x[row];
  }

  public double y(int row) {
    return y[row];
  }

  /** The row of a tracker at a frame, or −1. */
  public int row(String tracker, int atFrame) {
    Integer i = indexOf.get(tracker);
    if (i == null) {
      return -1;
    }
    int r = Arrays.binarySearch(frame, start[i], start[i + 1], atFrame);
    return r < 0 ? -1 : r;
  }

  /** Collects rows in any order. A repeated tracker and frame is refused. */
  public static final class Builder {
    private final Map<String, List<double[]>> rows = new LinkedHashMap<>();

    public Builder add(String tracker, int atFrame, double px, double py) {
      if (!Double.isFinite(px) || !Double.isFinite(py)) {
        throw new IllegalArgumentException(
            "tracker '" + tracker + "' at frame " + atFrame + " is not finite");
      }
      rows.computeIfAbsent(tracker, k -> new ArrayList<>()).add(new double[] {atFrame, px, py});
      return this;
    }

    public Observations build() {
      int total = rows.values().stream().mapToInt(List::size).sum();
      List<String> names = new ArrayList<>(rows.size());
      int[] start = new int[rows.size() + 1];
      int[] frame = new int[total];
      double[] x = new double[total];
      double[] y = new double[total];
      int k = 0;
      for (Map.Entry<String, List<double[]>> e : rows.entrySet()) {
        start[names.size()] = k;
        names.add(e.getKey());
        e.getValue().sort((a, b) -> Double.compare(a[0], b[0]));
        int previous = Integer.MIN_VALUE;
        for (double[] row : e.getValue()) {
          frame[k] = (int) row[0];
          if (frame[k] == previous) {
            throw new IllegalArgumentException(
                "tracker '" + e.getKey() + "' is given twice at frame " + previous);
          }
          previous = frame[k];
          x[k] = row[1];
          y[k] = row[2];
          k++;
        }
      }
      start[names.size()] = k;
      return new Observations(List.copyOf(names), start, frame, x, y);
    }
  }
}
