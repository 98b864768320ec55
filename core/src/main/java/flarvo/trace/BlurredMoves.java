package flarvo.trace;

import flarvo.lens.LensTrack;
import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.vet.InterpolatedFrames;
import flarvo.vet.Refinement;
import flarvo.vet.Reprojection;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.adjust.RobustLoss;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntFunction;

/**
 * Poses of a moving camera on frames that are too blurred to follow anything in. Its rotation is
 * known from {@link BlurredTurns}, well enough to tell how a feature that is seen clearly before
 * the blur or behind it is blurred on each frame between; so it is found there, and the whole solve
 * is adjusted with these places besides what was followed. That also ties both sides of the blur to
 * each other.
 */
public final class BlurredMoves {

  /** A frame that sees less than this share of what a frame usually sees is measured too. */
  private static final double FEW = 0.5;

  /** Frames that are taken in on either side, at most. */
  private static final int MOST_WIDER = 4;

  /** Frames of one blur, at most: features are found as they look before it or behind it. */
  private static final int MOST_FRAMES = 40;

  /** How far places may lie from where the cameras see them, round by round; of the width. */
  private static final double[] REACH = {1 / 160.0, 1 / 480.0};

  private static final double LOSS_PX = 0.5;

  /** Of a place in the blur beside one that was followed: their errors are as 3 to 1. */
  private static final double WEIGHT = 0.1;

  /** Half of the places in the blur are within this of where the camera sees them. */
  private static final double MOST_MEDIAN_PX = 1;

  /** What was followed may fit worse by this factor, and no more. */
  private static final double WORSE = 1.1;

  private static final String TWIN = " in the blur";

  private final Shot shot;
  private final AdjustOptions.Focal focal;
  private final Optional<LensTrack> lens;
  private final IntFunction<Optional<Luma>> plates;

  /**
   * What came of it.
   *
   * @param shot the same where nothing was measured
   * @param sentence on what was measured; empty where nothing was
   */
  public record Outcome(Shot shot, String sentence) {}

  private BlurredMoves(
      Shot shot,
      AdjustOptions.Focal focal,
      Optional<LensTrack> lens,
      IntFunction<Optional<Luma>> plates) {
    this.shot = shot;
    this.focal = focal;
    this.lens = lens;
    this.plates = plates;
  }

  /**
   * Measures the camera on frames whose rotation was measured. A tripod and a zoom are left as they
   * are, and so is a camera that would fit what was followed worse.
   *
   * @param shot solved, with the trackers that are kept and undistorted tracks
   * @param tripod whether the camera only turns
   * @param turned frames whose rotation was measured
   * @param focal whether the focal length was found
   * @param lens of original plates; empty where they are undistorted
   * @param plates brightness by plate frame; empty where one is missing
   */
  public static Outcome of(
      Shot shot,
      boolean tripod,
      Collection<FrameRange> turned,
      AdjustOptions.Focal focal,
      Optional<LensTrack> lens,
      IntFunction<Optional<Luma>> plates,
      Progress progress) {
    if (tripod || !shot.cameras().get(0).optics().isConstant()) {
      return new Outcome(shot, "");
    }
    List<String> said = new ArrayList<>();
    Shot now = shot;
    int part = 0;
    for (FrameRange r : turned) {
      Optional<Outcome> o =
          new BlurredMoves(now, focal, lens, plates)
              .measured(r, progress.part(part++, turned.size()));
      if (o.isPresent()) {
        now = o.get().shot();
        said.add(o.get().sentence());
      }
    }
    return new Outcome(now, String.join(" ", said));
  }

  private Optional<Outcome> measured(FrameRange turned, Progress progress) {
    FrameRange blurred = wider(turned);
    FrameRange all = shot.cameras().get(0).frames();
    if (blurred.count() > MOST_FRAMES
        || blurred.first() - 2 < all.first()
        || blurred.last() + 2 > all.last()) {
      return Optional.empty();
    }
    double width = shot.picture().width();
    Optional<Double> shutter =
        new BlurredPlaces(shot, blurred, lens, plates)
            .shutter(turned, REACH[0] * width, progress.part(0, 3));
    if (shutter.isEmpty()) {
      return Optional.empty();
    }
    Shot now = shot;
    Observations places = Observations.NONE;
    for (int round = 0; round < REACH.length; round++) {
      Progress p = progress.part(1 + round, 3);
      Optional<Observations> found =
          new BlurredPlaces(now, blurred, lens, plates)
              .found(shutter.get(), REACH[round] * width, p.part(0, 2));
      if (found.isEmpty()) {
        return Optional.empty();
      }
      places = found.get();
      now = adjusted(now, places, p.part(1, 2));
    }
    double fit = Reprojection.of(now.withObservations(places), Set.of()).orElseThrow().medianPx();
    double before = Reprojection.of(shot, Set.of()).orElseThrow().rmsPx();
    double after = Reprojection.of(now, Set.of()).orElseThrow().rmsPx();
    return fit <= MOST_MEDIAN_PX && after <= WORSE * before
        ? Optional.of(
            new Outcome(now, sentence(blurred, places.size(), fit, shutter.get(), before, after)))
        : Optional.empty();
  }

  /** With the frames beside it that see few features. */
  private FrameRange wider(FrameRange r) {
    FrameRange all = shot.frames();
    Observations o = shot.observations();
    Set<String> kept = TrackerSet.stillPositions(shot.trackers()).keySet();
    int[] rows = new int[all.count()];
    for (String n : o.names()) {
      for (int row = o.firstRow(n); row < o.endRow(n) && kept.contains(n); row++) {
        if (all.contains(o.frame(row))) {
          rows[o.frame(row) - all.first()]++;
        }
      }
    }
    int[] sorted = rows.clone();
    Arrays.sort(sorted);
    double few = FEW * sorted[sorted.length / 2];
    int first = r.first();
    while (first > r.first() - MOST_WIDER
        && first > all.first()
        && rows[first - 1 - all.first()] < few) {
      first--;
    }
    int last = r.last();
    while (last < r.last() + MOST_WIDER
        && last < all.last()
        && rows[last + 1 - all.first()] < few) {
      last++;
    }
    return new FrameRange(first, last);
  }

  /**
   * Adjusts cameras and points to what was followed, and to the places in the blur as twins of the
   * features. These weigh little: they hold the cameras in the blur and tie its sides, but pull at
   * no point that was seen clearly.
   */
  private Shot adjusted(Shot s, Observations places, Progress progress) {
    Map<String, Vec3> points = TrackerSet.stillPositions(s.trackers());
    Observations clear = shot.observations();
    Observations.Builder all = clear.toBuilder();
    Map<String, Double> weights = new HashMap<>();
    List<String> twins = new ArrayList<>();
    double[] xyz = new double[3 * places.names().size()];
    for (String n : places.names()) {
      String twin = n + TWIN;
      Vec3 p = points.get(n);
      xyz[3 * twins.size()] = p.x();
      xyz[3 * twins.size() + 1] = p.y();
      xyz[3 * twins.size() + 2] = p.z();
      twins.add(twin);
      weights.put(twin, WEIGHT);
      for (int row = clear.firstRow(n); row < clear.endRow(n); row++) {
        all.add(twin, clear.frame(row), clear.x(row), clear.y(row));
      }
      for (int row = places.firstRow(n); row < places.endRow(n); row++) {
        all.add(twin, places.frame(row), places.x(row), places.y(row));
      }
    }
    List<TrackerSet> sets = new ArrayList<>(s.trackers());
    sets.add(TrackerSet.of(TWIN, twins, xyz));
    AdjustOptions o = AdjustOptions.USUAL.withFocal(focal).withLoss(RobustLoss.cauchy(LOSS_PX));
    return Refinement.of(s.withTrackers(sets).withObservations(all.build()), weights, o, progress)
        .solve()
        .applied(s)
        .withObservations(clear);
  }

  private static String sentence(
      FrameRange r, int places, double fit, double shutter, double before, double after) {
    return String.format(
        Locale.ROOT,
        "The camera was measured on frames %s by features found in the blur (%d places, half of"
            + " them within %.2f px; the shutter is open for %.2f of a frame); the error of what was"
            + " followed went from %.3f to %.3f px.",
        InterpolatedFrames.words(r),
        places,
        fit,
        shutter,
        before,
        after);
  }
}
