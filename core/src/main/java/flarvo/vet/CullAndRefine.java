package flarvo.vet;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.adjust.RobustLoss;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * One bounded action: refine, leave out what stands out, and again, until the error is under a
 * target or nothing stands out any more. Strays pull at a solve, so the worst are judged only after
 * a refinement that forgives them. In the last fit each tracker is weighted by its own error.
 */
public final class CullAndRefine {

  private static final int MOST_ROUNDS = 8;

  /** A tracker stands out by so many deviations (1.4826 · median absolute) over the median. */
  private static final double DEVIATIONS = 5;

  /** One whose error wanders steadily stands out sooner. */
  private static final double WANDERING_DEVIATIONS = 1.5;

  /** So many times the median is a gross error. */
  private static final double GROSS = 8;

  /** Trackers that hold a camera, if barely. */
  private static final int HOLDS = 4;

  /** Share of all trackers that may go, whatever they look like. */
  private static final double MOST_GONE = 0.5;

  private CullAndRefine() {}

  /**
   * @param gone trackers that went in this round
   * @param medianPx of the trackers' RMS after this round's refinement
   */
  public record Round(int number, List<String> gone, double rmsPx, double medianPx) {
    @Override
    public String toString() {
      return String.format(
          Locale.ROOT,
          "round %d: %.3f px, %s",
          number,
          rmsPx,
          gone.isEmpty()
              ? "no outliers"
              : gone.size() + (gone.size() == 1 ? " outlier" : " outliers"));
    }
  }

  /**
   * @param reached whether the error came under the target
   * @param sentence what came of it
   */
  public record Outcome(
      Set<String> culled,
      RefinedSolve solve,
      double beforePx,
      double afterPx,
      List<Round> rounds,
      boolean reached,
      String sentence) {}

  /**
   * @param shot as it stands, culled trackers left out
   * @param fewest live trackers that a frame must keep
   * @param options what may move; the loss is chosen here
   */
  public static Outcome of(
      Shot shot,
      Set<String> weightless,
      double targetPx,
      int fewest,
      AdjustOptions options,
      Progress progress) {
    double before =
        Reprojection.of(shot, weightless)
            .orElseThrow(
                () ->
                    InputError.words(
                        "there is nothing to refine with",
                        "A camera, points and 2D tracks of the same names are needed"))
            .rmsPx();
    Set<String> culled = new LinkedHashSet<>();
    List<Round> rounds = new ArrayList<>();
    ResidualDistortion lens = ResidualDistortion.NONE;
    Shot now = shot;
    double after = before;
    int most = (int) (MOST_GONE * shot.trackerCount());
    for (int round = 1; round <= MOST_ROUNDS; round++) {
      progress.step(round - 1, MOST_ROUNDS);
      double forgiving = rounds.isEmpty() ? 1 : Math.max(0.3, 2 * rounds.get(round - 2).medianPx());
      AdjustOptions forgives = options.withLoss(RobustLoss.cauchy(forgiving));
      Refinement.Outcome loose =
          rounds.isEmpty()
              ? Refinement.of(now, weightless, forgives.withTolerance(1e-5), progress)
              : Refinement.from(lens, now, weightless, forgives.withTolerance(1e-4), progress);
      lens = loose.solve().rest();
      Shot seen = loose.solve().applied(now);
      Measures m = Measures.of(seen, weightless, progress).orElseThrow();
      Set<String> out = standingOut(m, weightless);
      out = sparing(seen, m, weightless, out, fewest, most - culled.size());
      culled.addAll(out);
      // Lens terms are found from the tracks as they came.
      now = without(seen, out).withObservations(shot.observations());
      // What stays is fitted squarely: that is the error that counts.
      Refinement.Outcome square =
          Refinement.from(lens, now, weightless, options.withLoss(RobustLoss.SQUARE), progress);
      lens = square.solve().rest();
      now = square.solve().applied(now).withObservations(shot.observations());
      after = square.afterPx();
      rounds.add(new Round(round, List.copyOf(out), after, median(m, weightless)));
      if (out.isEmpty()) {
        break;
      }
    }
    // The trackers that stay are not equally good. Rounds report the unweighted error: they cull by
    // it.
    Refinement.Outcome last =
        Refinement.weighted(lens, now, weightless, options.withLoss(RobustLoss.SQUARE), progress);
    now = last.solve().applied(now).withObservations(shot.observations());
    RefinedSolve solve = last.solve();
    after = last.afterPx();
    boolean reached = after <= targetPx;
    return new Outcome(
        culled,
        whole(shot, solve, now, culled, rounds.size(), before, after),
        before,
        after,
        rounds,
        reached,
        sentence(culled.size(), before, after, targetPx, reached, rounds.size()));
  }

  private static String sentence(
      int gone, double before, double after, double target, boolean reached, int rounds) {
    String did =
        String.format(
            Locale.ROOT,
            "%.3f → %.3f px in %d %s, %d %s culled",
            before,
            after,
            rounds,
            rounds == 1 ? "round" : "rounds",
            gone,
            gone == 1 ? "tracker" : "trackers");
    return reached
        ? did
        : did
            + String.format(
                Locale.ROOT,
                "; target of %.2f px not reached, and no outliers left: the rest is track noise,"
                    + " the lens, or a fixed focal length",
                target);
  }

  /**
   * The last solve, with every tracker of the shot in it: those that went are where they were last
   * seen fit, so that they can be looked at and brought back.
   */
  private static RefinedSolve whole(
      Shot shot,
      RefinedSolve last,
      Shot now,
      Set<String> culled,
      int rounds,
      double before,
      double after) {
    Observations straight =
        last.rest().straightened(shot.observations(), last.camera(), shot.picture());
    Triangulation t = new Triangulation(last.camera(), shot.picture(), straight);
    Map<String, Vec3> points = TrackerSet.stillPositions(now.trackers());
    for (TrackerSet s : shot.trackers()) {
      for (int i = 0; i < s.size() && !s.moves(); i++) {
        String n = s.names().get(i);
        if (culled.contains(n)) {
          points.put(
              n, last.tripod() ? s.position(i) : t.refined(n, s.position(i)).orElse(s.position(i)));
        }
      }
    }
    return new RefinedSolve(
        last.camera(),
        points,
        last.rest(),
        last.tripod(),
        String.format(
            Locale.ROOT,
            "culled %d and refined in %d rounds, each tracker weighted by its error: %.3f → %.3f px",
            culled.size(),
            rounds,
            before,
            after));
  }

  private static Shot without(Shot s, Set<String> gone) {
    return s.withTrackers(s.trackers().stream().map(t -> t.without(gone)).toList());
  }

  private static double[] errors(Measures m, Set<String> weightless) {
    return m.trackers().stream()
        .filter(t -> !weightless.contains(t.name()))
        .mapToDouble(TrackerMeasure::rmsPx)
        .filter(v -> !Double.isNaN(v))
        .sorted()
        .toArray();
  }

  private static double median(Measures m, Set<String> weightless) {
    double[] e = errors(m, weightless);
    return e.length == 0 ? 0 : e[e.length / 2];
  }

  /** Trackers that fit worse than the others do, by their size or by how they wander. */
  static Set<String> standingOut(Measures m, Set<String> weightless) {
    double[] e = errors(m, weightless);
    if (e.length == 0) {
      return Set.of();
    }
    double median = e[e.length / 2];
    double deviation = 1.4826 * medianDistance(e, median);
    double limit = median + DEVIATIONS * deviation;
    double wandering = median + WANDERING_DEVIATIONS * deviation;
    Set<String> out = new LinkedHashSet<>();
    for (TrackerMeasure t : m.trackers()) {
      boolean over =
          t.rmsPx() > limit || Culling.OnWhatMoves.wanders(t, wandering) && t.rmsPx() > wandering;
      if (over && !weightless.contains(t.name())) {
        out.add(t.name());
      }
    }
    return out;
  }

  private static double medianDistance(double[] sorted, double from) {
    double[] d = Arrays.stream(sorted).map(v -> Math.abs(v - from)).sorted().toArray();
    return d[d.length / 2];
  }

  /** The worst first, as long as no frame is left with too few. */
  private static Set<String> sparing(
      Shot shot, Measures m, Set<String> weightless, Set<String> wanted, int fewest, int most) {
    FrameRange frames = m.errors().frames();
    int[] live = new int[frames.count()];
    for (int f = frames.first(); f <= frames.last(); f++) {
      live[f - frames.first()] = m.errors().live(f);
    }
    List<String> order = new ArrayList<>(wanted);
    order.sort(Comparator.comparingDouble((String n) -> m.errors().trackerRmsPx(n)).reversed());
    Observations o = shot.observations();
    double median = median(m, weightless);
    Set<String> out = new LinkedHashSet<>();
    Set<String> uncounted = new HashSet<>(weightless);
    for (String n : order) {
      if (out.size() >= most) {
        break;
      }
      // A gross stray does more harm than a thin frame, as long as the frame still holds.
      boolean gross = m.errors().trackerRmsPx(n) > GROSS * median;
      int floor = gross ? Math.min(fewest, HOLDS) : fewest;
      boolean thin = false;
      for (int row = o.firstRow(n); row < o.endRow(n); row++) {
        int k = o.frame(row) - frames.first();
        // A frame that is thin already does not hold back what spoils it.
        thin |= frames.contains(o.frame(row)) && live[k] == floor;
      }
      if (thin && !uncounted.contains(n)) {
        continue;
      }
      for (int row = o.firstRow(n); row < o.endRow(n); row++) {
        if (frames.contains(o.frame(row))) {
          live[o.frame(row) - frames.first()]--;
        }
      }
      out.add(n);
    }
    return out;
  }

  /** For callers that ask whether a shot is a tripod's before they choose options. */
  public static AdjustOptions optionsFor(Optional<SolveKind> kind, AdjustOptions base) {
    return base.withTripod(kind.map(SolveKind::tripod).orElse(false));
  }
}
