package flarvo.scene;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * 2D tracks: where each tracker was seen, in canonical pixels of the undistorted plate, by plate
 * frame. Rows lie tracker after tracker, frames rising, in primitive arrays. Immutable.
 */
public final class Observations {

  /** A table of a name in every row would fill the memory. */
  public static final int MOST_TRACKERS = 1_000_000;

  public static final Observations NONE = new Builder().build();

  private final List<String> names;
  private final Map<String, Integer> indexOf;
  private final int[] start; // row where tracker i begins; one more entry than trackers
  private final int[] frame;
  private final double[] x;
  private final double[] y;
  private final Optional<FrameRange> range;

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
    int first = Integer.MAX_VALUE;
    int last = Integer.MIN_VALUE;
    for (int f : frame) {
      first = Math.min(first, f);
      last = Math.max(last, f);
    }
    range = frame.length == 0 ? Optional.empty() : Optional.of(new FrameRange(first, last));
  }

  public List<String> names() {
    return names;
  }

  public int size() {
    return frame.length;
  }

  /** Whether nothing was observed. */
  public boolean isEmpty() {
    return frame.length == 0;
  }

  /** First to last plate frame on which anything was observed; empty where nothing was. */
  public Optional<FrameRange> range() {
    return range;
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

  /** Plate frame of a row. */
  public int frame(int row) {
    return frame[row];
  }

  /** Canonical pixels from the left of a row. */
  public double x(int row) {
    return x[row];
  }

  /** Canonical pixels from the top of a row. */
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

  @Override
  public boolean equals(Object other) {
    return this == other
        || other instanceof Observations o
            && names.equals(o.names)
            && Arrays.equals(start, o.start)
            && Arrays.equals(frame, o.frame)
            && Arrays.equals(x, o.x)
            && Arrays.equals(y, o.y);
  }

  @Override
  public int hashCode() {
    return 31 * names.hashCode() + Arrays.hashCode(x);
  }

  /** The same, every place moved by some pixels. */
  public Observations moved(double dx, double dy) {
    Builder b = new Builder();
    for (int i = 0; i < names.size(); i++) {
      for (int row = start[i]; row < start[i + 1]; row++) {
        b.add(names.get(i), frame[row], x[row] + dx, y[row] + dy);
      }
    }
    return b.build();
  }

  /** The same rows, to add to. */
  public Builder toBuilder() {
    Builder b = new Builder();
    for (int i = 0; i < names.size(); i++) {
      for (int row = start[i]; row < start[i + 1]; row++) {
        b.add(names.get(i), frame[row], x[row], y[row]);
      }
    }
    return b;
  }

  /** Collects rows in any order. A repeated tracker and frame is refused. */
  public static final class Builder {
    private static final int FIRST_ROWS = 8;

    /** Rows of one tracker, in the order in which they came. */
    private static final class Rows {
      int[] frame;
      double[] x;
      double[] y;
      int count;
      boolean rising = true;

      Rows(int expected) {
        frame = new int[expected];
        x = new double[expected];
        y = new double[expected];
      }

      void add(int atFrame, double px, double py) {
        if (count == frame.length) {
          frame = Arrays.copyOf(frame, 2 * count);
          x = Arrays.copyOf(x, 2 * count);
          y = Arrays.copyOf(y, 2 * count);
        }
        rising &= count == 0 || atFrame > frame[count - 1];
        frame[count] = atFrame;
        x[count] = px;
        y[count] = py;
        count++;
      }

      void sort() {
        if (rising) {
          return;
        }
        Integer[] order = new Integer[count];
        Arrays.setAll(order, i -> i);
        int[] f = frame.clone();
        double[] oldX = x.clone();
        double[] oldY = y.clone();
        Arrays.sort(order, (a, b) -> Integer.compare(f[a], f[b]));
        for (int i = 0; i < count; i++) {
          frame[i] = f[order[i]];
          x[i] = oldX[order[i]];
          y[i] = oldY[order[i]];
        }
      }
    }

    private final Map<String, Rows> rows = new LinkedHashMap<>();
    private String lastName;
    private Rows lastRows;
    private int total;

    /**
     * One observation in canonical pixels.
     *
     * @throws IllegalArgumentException when a coordinate is not finite, or there are too many
     *     trackers
     */
    public Builder add(String tracker, int atFrame, double px, double py) {
      if (!Double.isFinite(px) || !Double.isFinite(py)) {
        throw new IllegalArgumentException(
            "tracker '" + tracker + "' at frame " + atFrame + " is not finite");
      }
      if (!tracker.equals(lastName)) {
        lastName = tracker;
        int expected = expected();
        lastRows = rows.computeIfAbsent(tracker, k -> new Rows(expected));
        requireFew();
      }
      lastRows.add(atFrame, px, py);
      total++;
      return this;
    }

    /** As many as the tracker before has, but not more than trackers have on the average. */
    private int expected() {
      int before = lastRows == null ? 0 : lastRows.count;
      return Math.max(FIRST_ROWS, Math.min(before, total / Math.max(1, rows.size())));
    }

    /** All rows of another, behind those of this one; the other must not be used any more. */
    public Builder add(Builder other) {
      other.rows.forEach(
          (name, theirs) -> {
            Rows mine = rows.putIfAbsent(name, theirs);
            if (mine != null) {
              for (int i = 0; i < theirs.count; i++) {
                mine.add(theirs.frame[i], theirs.x[i], theirs.y[i]);
              }
            }
          });
      lastName = null;
      total += other.total;
      requireFew();
      return this;
    }

    private void requireFew() {
      if (rows.size() > MOST_TRACKERS) {
        throw new IllegalArgumentException("it has more than " + MOST_TRACKERS + " trackers");
      }
    }

    /**
     * Sorted by tracker and frame.
     *
     * @throws IllegalArgumentException when a tracker has two observations at a frame
     */
    public Observations build() {
      List<String> names = new ArrayList<>(rows.size());
      int[] start = new int[rows.size() + 1];
      int[] frame = new int[total];
      double[] x = new double[total];
      double[] y = new double[total];
      int k = 0;
      for (Map.Entry<String, Rows> e : rows.entrySet()) {
        Rows r = e.getValue();
        start[names.size()] = k;
        names.add(e.getKey());
        r.sort();
        for (int i = 1; i < r.count; i++) {
          if (r.frame[i] == r.frame[i - 1]) {
            throw new IllegalArgumentException(
                "tracker '" + e.getKey() + "' is given twice at frame " + r.frame[i]);
          }
        }
        System.arraycopy(r.frame, 0, frame, k, r.count);
        System.arraycopy(r.x, 0, x, k, r.count);
        System.arraycopy(r.y, 0, y, k, r.count);
        k += r.count;
      }
      start[names.size()] = k;
      return new Observations(List.copyOf(names), start, frame, x, y);
    }
  }
}
