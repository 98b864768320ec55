package flarvo.vet.resolve;

import boofcv.alg.geo.robust.Se3FromEssentialGenerator;
import boofcv.struct.geo.AssociatedPair;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.SimilarityFit;
import flarvo.scene.Vec3;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.adjust.Bundle;
import flarvo.vet.adjust.CameraFit;
import flarvo.vet.adjust.PointFit;
import flarvo.vet.adjust.RobustLoss;
import flarvo.vet.adjust.Tracks;
import georegression.struct.se.Se3_F64;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import java.util.stream.IntStream;

/**
 * Which trackers of a few frames belong to what stands still: the camera that explains most of the
 * picture, not most of the trackers, since what moves may have many of them in a small place. By
 * random samples spread over the picture (Fischler and Bolles, "Random Sample Consensus", 1981),
 * each a whole camera move: two frames by the essential matrix, the others from the sample's
 * points, all trackers from the cameras, and the best one adjusted with all that agree.
 */
public final class SceneConsensus {

  /** A tracker is judged when it is seen in so many frames; two allow nearly any depth. */
  private static final int FEWEST_FRAMES = 3;

  private static final int ACROSS = 10;
  private static final int DOWN = 6;
  private static final int SAMPLE = 6;
  private static final int TURN_SAMPLE = 4;
  private static final int ROUNDS = 3;
  private static final int TURN_SAMPLES = 60;
  private static final int FEWEST_SAMPLES = 40;
  private static final int MOST_ADJUSTED = 6;
  private static final double MISSED = 1e-5;
  private static final double WORTH_ADJUSTING = 0.85;
  private static final double STILL_PX = 1;
  private static final double STILL_SHARE = 0.5;

  /** Turning alone is taken when it explains this share of what a free move does. */
  private static final double TURN_SHARE = 0.9;

  private final Bundle optics;
  private final Tracks t;
  private final boolean[] voters;
  private final double inlierPx;
  private final SplittableRandom random;
  private final boolean[] all;
  private final int[] cellOf; // −1 where a point is not judged
  private final int[] judgedIn;
  private final int cells; // in which anything is judged
  private final int[] asked; // voters, in an order that goes all over the picture
  private final List<int[]> wholeBy =
      new ArrayList<>(); // of each occupied cell, points seen throughout
  private final PointFit pointFit = new PointFit();
  private final CameraFit cameraFit = new CameraFit(false);
  private final Se3FromEssentialGenerator essential = FivePoint.moves(1);
  private final Se3_F64 move = new Se3_F64();

  /**
   * What was found.
   *
   * @param cameras poses in a space of their own, with the optics of the start
   * @param turns whether turning alone explains it
   * @param errorPx RMS distance of each point; NaN where it was not judged
   * @param coverage share of the picture that agrees, 0 to 1
   */
  public record Found(Bundle cameras, boolean turns, double[] errorPx, double coverage) {}

  private SceneConsensus(
      Bundle optics, Tracks t, PictureSize picture, boolean[] voters, double inlierPx, long seed) {
    this.voters = voters;
    this.optics = optics;
    this.t = t;
    this.inlierPx = inlierPx;
    random = new SplittableRandom(seed);
    all = new boolean[t.cameras()];
    Arrays.fill(all, true);
    cellOf = new int[t.points()];
    judgedIn = new int[ACROSS * DOWN];
    List<List<Integer>> whole = new ArrayList<>();
    for (int i = 0; i < judgedIn.length; i++) {
      whole.add(new ArrayList<>());
    }
    for (int j = 0; j < t.points(); j++) {
      cellOf[j] = t.seen(j) < FEWEST_FRAMES ? -1 : cell(j, picture);
      if (cellOf[j] >= 0 && voters[j]) {
        judgedIn[cellOf[j]]++;
        if (t.seen(j) == t.cameras()) {
          whole.get(cellOf[j]).add(j);
        }
      }
    }
    cells = (int) Arrays.stream(judgedIn).filter(n -> n > 0).count();
    asked = shuffled(new SplittableRandom(seed + 1));
    for (List<Integer> w : whole) {
      if (!w.isEmpty()) {
        wholeBy.add(w.stream().mapToInt(Integer::intValue).toArray());
      }
    }
  }

  /**
   * Searches, always in the same way for the same input.
   *
   * @param optics cameras whose optics hold; their poses are not looked at
   * @param voters points that are asked; the others are judged by what these say
   * @param inlierPx RMS distance to which a tracker agrees
   * @param samples how many moves are tried
   * @return null where too few trackers are seen in all cameras, or nothing agrees
   */
  public static Found of(
      Bundle optics,
      Tracks t,
      PictureSize picture,
      boolean[] voters,
      double inlierPx,
      int samples,
      long seed) {
    return new SceneConsensus(optics, t, picture, voters, inlierPx, seed).search(samples);
  }

  private int cell(int j, PictureSize s) {
    int row = t.firstRow(j) + t.seen(j) / 2;
    int cx = (int) (t.x(row) / s.width() * ACROSS);
    int cy = (int) (t.y(row) / s.height() * DOWN);
    return Math.max(0, Math.min(DOWN - 1, cy)) * ACROSS + Math.max(0, Math.min(ACROSS - 1, cx));
  }

  private int[] shuffled(SplittableRandom random) {
    int[] out = IntStream.range(0, t.points()).filter(j -> cellOf[j] >= 0 && voters[j]).toArray();
    for (int k = out.length - 1; k > 0; k--) {
      int at = random.nextInt(k + 1);
      int j = out[at];
      out[at] = out[k];
      out[k] = j;
    }
    return out;
  }

  private Found search(int samples) {
    if (wholeBy.size() < SAMPLE) {
      return null;
    }
    Found turn = null;
    for (int k = 0; k < TURN_SAMPLES; k++) {
      turn =
          better(
              turn, measured(turned(sample(TURN_SAMPLE)), true, turn == null ? 0 : turn.coverage));
    }
    if (stands(turn)) {
      return turn;
    }
    Found free = null;
    double best = 0;
    int adjusted = 0;
    for (int k = 0; k < samples && k < enough(free); k++) {
      Bundle b = moved(sample(SAMPLE));
      if (b == null) {
        continue;
      }
      Found f = measured(b, false, free == null ? 0 : WORTH_ADJUSTING * free.coverage);
      if (f == null) {
        continue;
      }
      // Where the scene is clear nearly every sample is good: the first few tell as much as all.
      if (f.coverage > best || adjusted < MOST_ADJUSTED) {
        free = better(free, better(f, adjusted(f)));
        best = Math.max(best, f.coverage);
        adjusted++;
      }
    }
    free = free == null ? null : better(free, adjusted(free));
    return free == null || turn.coverage >= TURN_SHARE * free.coverage ? turn : free;
  }

  /** Whether half of the picture does not move at all: no camera that moves sees that. */
  private boolean stands(Found turn) {
    double[] still = new double[judgedIn.length];
    for (int j = 0; j < cellOf.length; j++) {
      if (cellOf[j] >= 0 && voters[j] && turn.errorPx[j] < inlierPx && wander(j) < STILL_PX) {
        still[cellOf[j]]++;
      }
    }
    return share(still) > STILL_SHARE;
  }

  private double wander(int j) {
    double far = 0;
    int first = t.firstRow(j);
    for (int row = first; row < first + t.seen(j); row++) {
      far = Math.max(far, Math.hypot(t.x(row) - t.x(first), t.y(row) - t.y(first)));
    }
    return far;
  }

  /** Mean share over the parts of the picture in which anything is judged. */
  private double share(double[] agree) {
    double sum = 0;
    for (int c = 0; c < agree.length; c++) {
      sum += judgedIn[c] > 0 ? agree[c] / judgedIn[c] : 0;
    }
    return sum / cells;
  }

  /** Samples after which one of them was surely of the scene alone, were the best one right. */
  private static double enough(Found best) {
    double whole = best == null ? 0 : Math.pow(best.coverage, SAMPLE);
    return Math.max(FEWEST_SAMPLES, Math.log(MISSED) / Math.log1p(-Math.min(whole, 1 - 1e-9)));
  }

  private static Found better(Found a, Found b) {
    return a == null || b != null && b.coverage > a.coverage ? b : a;
  }

  /** Points seen in all cameras, no two of one cell. */
  private int[] sample(int n) {
    int[] cells = new int[wholeBy.size()];
    Arrays.setAll(cells, i -> i);
    int[] out = new int[n];
    for (int k = 0; k < n; k++) {
      int at = k + random.nextInt(cells.length - k);
      int c = cells[at];
      cells[at] = cells[k];
      cells[k] = c;
      int[] of = wholeBy.get(c);
      out[k] = of[random.nextInt(of.length)];
    }
    return out;
  }

  private Vec3 ray(int j, int i) {
    int row = t.firstRow(j) + i; // seen in all cameras
    return optics.ray(i, t.x(row), t.y(row));
  }

  /** A camera that turns as the sample does. */
  private Bundle turned(int[] sample) {
    Bundle b = optics.copy();
    for (int i = 0; i < b.cameras(); i++) {
      List<Vec3> from = new ArrayList<>();
      List<Vec3> to = new ArrayList<>();
      for (int j : sample) {
        from.add(ray(j, i));
        to.add(ray(j, 0));
      }
      b.setPose(
          i, new Pose(Vec3.ZERO, i == 0 ? Rotation.IDENTITY : SimilarityFit.turnOf(from, to)));
    }
    return b;
  }

  /** A camera that moves as the sample says; null where it says nothing. */
  private Bundle moved(int[] sample) {
    Bundle b = optics.copy();
    int last = b.cameras() - 1;
    List<AssociatedPair> pairs = new ArrayList<>();
    for (int j : sample) {
      Vec3 p = ray(j, 0);
      Vec3 q = ray(j, last);
      // There, cameras look along +Z with y down.
      pairs.add(new AssociatedPair(-p.x() / p.z(), p.y() / p.z(), -q.x() / q.z(), q.y() / q.z()));
    }
    if (!essential.generate(pairs, move)) {
      return null;
    }
    Pose end = InitialPair.pose(move);
    b.setPose(0, Pose.IDENTITY);
    b.setPose(last, end);
    boolean[] ends = new boolean[b.cameras()];
    ends[0] = true;
    ends[last] = true;
    for (int j : sample) {
      if (!pointFit.place(b, t, j, ends, ROUNDS) || pointFit.rmsPx() > 2 * inlierPx) {
        return null;
      }
    }
    int[] rows = new int[sample.length];
    for (int i = 1; i < last; i++) {
      double s = i / (double) last;
      b.setPose(i, new Pose(end.position().times(s), Rotation.IDENTITY.slerp(end.rotation(), s)));
      for (int k = 0; k < rows.length; k++) {
        rows[k] = t.firstRow(sample[k]) + i;
      }
      if (cameraFit.fit(b, t, i, rows, sample, RobustLoss.cauchy(2), 15) > 2 * inlierPx) {
        return null;
      }
    }
    return b;
  }

  private Found adjusted(Found f) {
    boolean[] in = new boolean[t.points()];
    int n = 0;
    for (int j = 0; j < in.length; j++) {
      in[j] = f.errorPx[j] < inlierPx && voters[j];
      n += in[j] ? 1 : 0;
    }
    if (n < 2 * SAMPLE) {
      return f;
    }
    AdjustOptions o =
        AdjustOptions.USUAL
            .withLoss(RobustLoss.cauchy(inlierPx / 2))
            .withTolerance(1e-3)
            .withRounds(8);
    Bundle b = f.cameras.copy();
    BundlePart.adjust(b, t, all, in, o);
    return measured(b, false, 0);
  }

  /**
   * What a camera explains; points are placed by it.
   *
   * @return null as soon as its coverage cannot be as large as {@code least}
   */
  private Found measured(Bundle b, boolean turns, double least) {
    double[] e = new double[t.points()];
    Arrays.fill(e, Double.NaN);
    double[] agree = new double[judgedIn.length];
    double possible = 1;
    for (int j : asked) {
      e[j] = turns ? turnError(b, j) : moveError(b, j);
      if (e[j] < inlierPx) {
        agree[cellOf[j]]++;
      } else {
        possible -= 1.0 / (judgedIn[cellOf[j]] * (double) cells);
        if (possible < least - 1e-9) {
          return null;
        }
      }
    }
    for (int j = 0; j < e.length; j++) {
      if (cellOf[j] >= 0 && !voters[j]) {
        e[j] = turns ? turnError(b, j) : moveError(b, j);
      }
    }
    return new Found(b, turns, e, share(agree));
  }

  private double moveError(Bundle b, int j) {
    // What is very far has no place that rays could tell, but a direction.
    double far = turnError(b, j);
    return pointFit.place(b, t, j, all, ROUNDS) ? Math.min(far, pointFit.rmsPx()) : far;
  }

  private double turnError(Bundle b, int j) {
    Vec3 sum = Vec3.ZERO;
    for (int row = t.firstRow(j); row < t.firstRow(j) + t.seen(j); row++) {
      int i = t.camera(row);
      sum = sum.plus(b.pose(i).rotation().apply(optics.ray(i, t.x(row), t.y(row))));
    }
    Vec3 way = sum.normalized();
    double squares = 0;
    for (int row = t.firstRow(j); row < t.firstRow(j) + t.seen(j); row++) {
      int i = t.camera(row);
      Vec3 seen = b.pose(i).rotation().apply(optics.ray(i, t.x(row), t.y(row)));
      double off = seen.minus(way).length() * optics.focalPx(i);
      squares += off * off;
    }
    return Math.sqrt(squares / t.seen(j));
  }
}
