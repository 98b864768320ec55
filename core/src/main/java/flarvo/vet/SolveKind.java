package flarvo.vet;

import flarvo.scene.Shot;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.adjust.Adjustment;
import flarvo.vet.adjust.Bundle;
import flarvo.vet.adjust.BundleAdjuster;
import flarvo.vet.adjust.RobustLoss;
import flarvo.vet.adjust.Tracks;
import flarvo.work.Progress;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/**
 * Whether the camera moved or only turned, decided from the 2D tracks: a tripod if turning alone
 * explains them about as well as moving freely does.
 *
 * @param turnPx median distance in pixels that turning alone leaves
 * @param freePx median distance in pixels that a free move leaves, or more: where turning alone is
 *     clearly worse than the solve as it stands, a better one is not looked for
 */
public record SolveKind(boolean tripod, double turnPx, double freePx) {

  /** A tripod may fit worse than a free move by this factor, since it has fewer numbers to fit. */
  private static final double ABOUT_AS_WELL = 1.25;

  /** And by this many pixels, below what tracking itself can tell. */
  private static final double BELOW_TRACKING_PX = 0.05;

  /** So many of the longest trackers are looked at. */
  private static final int LOOKED_AT = 80;

  private static final int FEWEST = 4;

  /** {@code free} or {@code tripod}. */
  public String word() {
    return tripod ? "tripod" : "free";
  }

  /** The decision in one sentence. */
  public String reason() {
    return tripod
        ? String.format(
            Locale.ROOT,
            "Rotation alone fits the tracks to %.2f px, as well as a free camera (%.2f px): nodal."
                + " Its trackers have directions, not depths.",
            turnPx,
            freePx)
        : String.format(
            Locale.ROOT,
            "Rotation alone leaves %.1f px, a free camera %.2f px: the camera moves.",
            turnPx,
            freePx);
  }

  /** Empty where too little was seen to tell. */
  public static Optional<SolveKind> of(Shot shot, Set<String> weightless, Progress progress) {
    if (shot.camera().isEmpty() || shot.observations().isEmpty()) {
      return Optional.empty();
    }
    Set<String> without = new HashSet<>(weightless);
    without.addAll(shortLived(shot));
    ShotBundle free = ShotBundle.of(shot, without, false);
    if (free.names.size() < FEWEST) {
      return Optional.empty();
    }
    boolean zoom = !shot.camera().get().optics().isConstant();
    Adjustment turned =
        RotationOnlyFit.fit(
            free.bundle,
            free.tracks,
            zoom ? AdjustOptions.Focal.FIXED : AdjustOptions.Focal.CONSTANT,
            progress);
    AdjustOptions o =
        AdjustOptions.USUAL.withLoss(RobustLoss.cauchy(1)).withTolerance(1e-4).withRounds(15);
    double turnPx = median(turned.bundle(), free.tracks, o.withTripod(true));
    double asItIs = median(free.bundle, free.tracks, o);
    SolveKind kind = of(turnPx, asItIs);
    if (!kind.tripod) {
      return Optional.of(kind); // a better free move would only make turning look worse
    }
    Adjustment moved = BundleAdjuster.adjust(free.bundle, free.tracks, o, progress);
    return Optional.of(of(turnPx, Math.min(median(moved.bundle(), free.tracks, o), asItIs)));
  }

  /** The decision from what each leaves. */
  public static SolveKind of(double turnPx, double freePx) {
    return new SolveKind(turnPx <= ABOUT_AS_WELL * freePx + BELOW_TRACKING_PX, turnPx, freePx);
  }

  /** Median distance in pixels of all rows. */
  public static double median(Bundle b, Tracks t, AdjustOptions o) {
    double[] d = BundleAdjuster.distances(b, t, o);
    java.util.Arrays.sort(d);
    return d.length == 0 ? Double.NaN : d[d.length / 2];
  }

  /** All but the longest-lived trackers. */
  private static List<String> shortLived(Shot shot) {
    Comparator<String> byLife =
        Comparator.comparingInt(
            n -> shot.observations().firstRow(n) - shot.observations().endRow(n));
    return shot.trackers().stream()
        .flatMap(t -> t.names().stream())
        .sorted(byLife)
        .skip(LOOKED_AT)
        .toList();
  }
}
