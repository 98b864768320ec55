package flarvo.vet.adjust;

import flarvo.report.InputError;
import flarvo.work.Progress;
import java.util.Arrays;
import java.util.Comparator;
import java.util.function.IntConsumer;
import java.util.stream.IntStream;

/**
 * Bundle adjustment by the method of Levenberg and Marquardt on the sparse normal equations: points
 * are eliminated (Schur complement) and the cameras that remain are solved in an {@link
 * EnvelopeSystem}. See Triggs, McLauchlan, Hartley and Fitzgibbon, "Bundle Adjustment, a Modern
 * Synthesis", 2000. Where the whole may move, turn and grow freely the damping holds it; the caller
 * lays the result where it wants it.
 */
public final class BundleAdjuster {

  private static final double USUAL_DAMPING = 1e-4;

  /** Of a start that is known to be near the least: three rounds instead of six. */
  private static final double NEAR_DAMPING = 1e-6;

  private static final double LEAST_DAMPING = 1e-12;
  private static final double MOST_DAMPING = 1e16;

  /** Added to every pivot's diagonal, as a share of it, so that a free direction has one. */
  static final double FLOOR = 1e-12;

  /** Points are taken out by so many threads, where there are many rows. */
  private static final int PARTS = 2;

  private static final int MANY_ROWS = 20_000;

  private final Tracks tracks;
  private final AdjustOptions options;
  private final Progress progress;
  private final ObservationModel model;
  private final PointElimination[] parts; // the first is the sum, once all are built
  private final int[] order; // of the points
  private final int[] firstOf; // place in the order of a part's points; one more than parts
  private final EnvelopeSystem system;
  private final int cb;
  private final int pb;
  private final double[] cameraDiagonal;
  private final double[] step; // cameras, then shared
  private final double[] pointStep;
  private final BundleStep taken;
  private final double[] downhill;

  private BundleAdjuster(Tracks tracks, AdjustOptions options, Progress progress) {
    this.tracks = tracks;
    this.options = options;
    this.progress = progress;
    model = new ObservationModel(options);
    cb = model.cameraSize;
    pb = model.pointSize;
    int[] farthest = new int[tracks.cameras];
    Arrays.setAll(farthest, i -> i);
    int longest = 0;
    for (int j = 0; j < tracks.points; j++) {
      int from = tracks.start[j];
      int to = tracks.start[j + 1];
      longest = Math.max(longest, to - from);
      if (to > from) {
        int first = tracks.camera[from];
        farthest[first] = Math.max(farthest[first], tracks.camera[to - 1]);
      }
    }
    try {
      GatheredPoints gathered = GatheredPoints.of(tracks, model);
      PointElimination first = new PointElimination(tracks, options, farthest, longest, gathered);
      boolean several =
          tracks.rows() >= MANY_ROWS
              && first.system.upper().length <= EnvelopeSystem.LARGEST / PARTS;
      // Always as many for the same tracks, so that a result does not depend on the machine.
      parts = new PointElimination[several ? PARTS : 1];
      parts[0] = first;
      for (int k = 1; k < parts.length; k++) {
        parts[k] = new PointElimination(tracks, options, farthest, longest, gathered);
      }
    } catch (IllegalArgumentException e) {
      throw new InputError(
          "",
          "",
          "the shot is too long and its trackers live too long to be refined in one go",
          "Refine a range of frames, or with fewer trackers",
          e);
    }
    order = order(tracks, parts.length > 1);
    firstOf = new int[parts.length + 1];
    int at = 0;
    long rows = 0;
    for (int k = 1; k < parts.length; k++) {
      while (rows < (long) k * tracks.rows() / parts.length) {
        rows += tracks.seen(order[at++]);
      }
      firstOf[k] = at;
    }
    firstOf[parts.length] = tracks.points;
    system = parts[0].system;
    cameraDiagonal = parts[0].cameraDiagonal;
    downhill = parts[0].downhill;
    step = new double[downhill.length];
    pointStep = new double[pb * tracks.points];
    taken = new BundleStep(options, cb, step, pointStep);
  }

  /** Many points by their first camera, so that those that are taken out at once lie together. */
  private static int[] order(Tracks t, boolean sorted) {
    IntStream all = IntStream.range(0, t.points);
    return sorted
        ? all.boxed()
            .sorted(Comparator.comparingInt(j -> t.seen(j) == 0 ? 0 : t.camera[t.start[j]]))
            .mapToInt(Integer::intValue)
            .toArray()
        : all.toArray();
  }

  /**
   * Lowers the cost from a start, which is left as it is.
   *
   * @param start cameras and points of the tracks; with a tripod, points of length one
   * @throws InputError when the system would not fit into memory
   */
  public static Adjustment adjust(
      Bundle start, Tracks tracks, AdjustOptions options, Progress progress) {
    return adjust(start, tracks, options, USUAL_DAMPING, progress);
  }

  /**
   * The same from a start that is near the least, such as a fit to nearly the same tracks: hardly
   * damped at first, so that it takes fewer rounds.
   *
   * @throws InputError as the other
   */
  public static Adjustment adjustNear(
      Bundle start, Tracks tracks, AdjustOptions options, Progress progress) {
    return adjust(start, tracks, options, NEAR_DAMPING, progress);
  }

  private static Adjustment adjust(
      Bundle start, Tracks tracks, AdjustOptions options, double damping, Progress progress) {
    if (start.cameras != tracks.cameras || start.points != tracks.points) {
      throw new IllegalArgumentException("tracks and bundle do not belong together");
    }
    return new BundleAdjuster(tracks, options, progress).run(start, damping);
  }

  /** Half of the sum of losses, each times the weight of its point, square pixels. */
  public static double cost(Bundle b, Tracks t, AdjustOptions options) {
    return cost(b, t, options.loss(), new ObservationModel(options));
  }

  /** Distance in pixels of every row, in the order of the rows. */
  public static double[] distances(Bundle b, Tracks t, AdjustOptions options) {
    ObservationModel model = new ObservationModel(options);
    double[] out = new double[t.rows()];
    for (int j = 0; j < t.points; j++) {
      for (int row = t.start[j]; row < t.start[j + 1]; row++) {
        out[row] = Math.sqrt(model.residual(b, t.camera[row], j, t.x[row], t.y[row]));
      }
    }
    return out;
  }

  private static double cost(Bundle b, Tracks t, RobustLoss loss, ObservationModel model) {
    double sum = 0;
    for (int j = 0; j < t.points; j++) {
      double own = 0;
      for (int row = t.start[j]; row < t.start[j + 1]; row++) {
        own += loss.rho(model.residual(b, t.camera[row], j, t.x[row], t.y[row]));
      }
      sum += t.weight(j) * own;
    }
    return sum / 2;
  }

  private Adjustment run(Bundle start, double firstDamping) {
    Bundle now = start.copy();
    Bundle next = start.copy();
    double before = cost(now, tracks, options.loss(), model);
    double cost = before;
    double damping = firstDamping;
    double grow = 2;
    int round = 0;
    boolean settled = tracks.rows() == 0 || cost == 0;
    while (!settled && round < options.rounds()) {
      progress.step(round, options.rounds());
      round++;
      build(now, damping);
      double gained = -1;
      double promised = 0;
      double trial = Double.POSITIVE_INFINITY;
      if (system.solve()) {
        System.arraycopy(system.right, 0, step, 0, step.length);
        promised = substitute(now, damping);
        next.take(now);
        taken.move(next);
        trial = cost(next, tracks, options.loss(), model);
        gained = cost - trial;
      }
      if (gained > 0) {
        Bundle swap = now;
        now = next;
        next = swap;
        settled = gained <= options.tolerance() * cost;
        cost = trial;
        double quality = promised > 0 ? gained / promised : 1;
        double q = 2 * quality - 1;
        damping = Math.max(LEAST_DAMPING, damping * Math.max(1 / 3.0, 1 - q * q * q));
        grow = 2;
      } else {
        // A step that changes nothing any more is the end, not a failure.
        settled =
            damping > MOST_DAMPING
                || Double.isFinite(trial) && -gained <= 1e-14 * cost && damping > 1;
        damping *= grow;
        grow *= 2;
      }
    }
    return new Adjustment(now, before, cost, round, settled);
  }

  /** The reduced system: cameras and what they share, every point eliminated. */
  private void build(Bundle b, double damping) {
    each(k -> parts[k].build(b, order, firstOf[k], firstOf[k + 1], damping, progress));
    for (int k = 1; k < parts.length; k++) {
      parts[0].add(parts[k]);
    }
    damp(damping);
  }

  private void each(IntConsumer part) {
    if (parts.length == 1) {
      part.accept(0);
    } else {
      IntStream.range(0, parts.length).parallel().forEach(part);
    }
  }

  /** Raises the diagonal by a share of what it was before points were taken out of it. */
  private void damp(double damping) {
    double[] upper = system.upper();
    for (int r = 0; r < system.size; r++) {
      double d = cameraDiagonal[r];
      upper[system.at(r, r)] += damping * d + FLOOR * d + 1e-30;
    }
    for (int s = 0; s < model.sharedSize; s++) {
      double d = cameraDiagonal[system.size + s];
      system.corner[s * model.sharedSize + s] += damping * d + FLOOR * d + 1e-30;
    }
  }

  /**
   * Point steps from camera steps.
   *
   * @return how much the cost should fall, were it as curved as it seems here
   */
  private double substitute(Bundle b, double damping) {
    double promised = 0;
    for (int i = 0; i < step.length; i++) {
      promised += step[i] * (damping * cameraDiagonal[i] * step[i] + downhill[i]);
    }
    double[] by = new double[parts.length];
    each(
        k ->
            by[k] =
                parts[k].substitute(
                    b, order, firstOf[k], firstOf[k + 1], damping, step, pointStep));
    return (promised + Arrays.stream(by).sum()) / 2;
  }

  /** One number of a camera, a point or the shared ones moved, as a step moves it: for checks. */
  static void moved(Bundle b, AdjustOptions o, int camera, int point, int column, double by) {
    BundleAdjuster a = new BundleAdjuster(noTracks(b.cameras, b.points), o, Progress.NONE);
    if (column < a.cb) {
      a.step[camera * a.cb + column] = by;
    } else if (column < a.cb + a.pb) {
      a.pointStep[point * a.pb + column - a.cb] = by;
    } else {
      a.step[a.system.size + column - a.cb - a.pb] = by;
    }
    a.taken.move(b);
  }

  private static Tracks noTracks(int cameras, int points) {
    Tracks.Builder t = new Tracks.Builder(cameras);
    for (int j = 0; j < points; j++) {
      t.endPoint();
    }
    return t.build();
  }
}
