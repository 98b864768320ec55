package flarvo.vet.resolve;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.vet.InterpolatedFrames;
import flarvo.vet.RotationOnlyFit;
import flarvo.vet.SolveKind;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.adjust.Adjustment;
import flarvo.vet.adjust.Bundle;
import flarvo.vet.adjust.BundleAdjuster;
import flarvo.vet.adjust.RobustLoss;
import flarvo.vet.adjust.Tracks;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * Solves a shot from its 2D tracks alone: a free move or a tripod, the focal length known or not.
 * The result is in a space of its own: the first camera at the origin, and of a size of its own.
 */
public final class Resolve {

  /** Horizontal focal lengths to try where none is known, in widths of the picture. */
  private static final double[] FOCALS = {0.6, 0.8, 1.05, 1.4, 1.9, 2.6, 3.6};

  /** Turning alone that leaves more than this is no tripod, whatever a free move leaves. */
  private static final double TRIPOD_AT_MOST_PX = 1.5;

  /** After a few rounds, turning alone that leaves more than this is not looked at further. */
  private static final double HOPELESS_TRIPOD_PX = 12;

  /** The same with lens terms, which take up most of what a lens bends in a few rounds. */
  private static final double HOPELESS_BENT_PX = 4;

  private static final int QUICK_ROUNDS = 5;
  private static final int PAIRS_TRIED = 6;
  private static final int KEY_FRAMES = 14;
  private static final double HELD_FRAMES = 0.98;
  private static final int FEWEST = 8;

  /** Trackers are put so far from a tripod, in metres, since nobody knows how far they are. */
  private static final double TRIPOD_DISTANCE = 10;

  private final Observations observations;
  private final FrameRange frames;
  private final PictureSize picture;
  private final Optics film;
  private final FocalLength focal;
  private final int lensTerms;
  private final Progress progress;
  private final List<String> names = new ArrayList<>();
  private final Tracks tracks;
  private final double[] even; // focal lengths that are all alike
  private final double[] zoomed; // that make the picture as large as it is

  /**
   * What came of it.
   *
   * @param kind whether the camera moved or only turned, with what each leaves
   */
  public record Solved(ShotCamera camera, TrackerSet trackers, SolveKind kind, String how) {}

  private Resolve(
      Observations o,
      PictureSize picture,
      double filmWidthMm,
      double filmHeightMm,
      FocalLength focal,
      int lensTerms,
      Progress progress) {
    this.observations = o;
    this.picture = picture;
    this.focal = focal;
    this.lensTerms = lensTerms;
    this.progress = progress;
    film = Optics.centred(focal.mm().orElse(filmWidthMm), filmWidthMm, filmHeightMm);
    frames = o.range().orElseThrow();
    tracks = tracks();
    even = new double[frames.count()];
    Arrays.fill(even, 1);
    zoomed = focal.zooms() ? PictureScale.of(tracks) : even;
  }

  /**
   * @param o canonical pixels; of the undistorted plate, unless it has lens terms
   * @param focal what is known of it
   * @param lensTerms radial terms, 0 to 3, that are only looked at where a lens may hide that the
   *     camera just turns; they are not in the solve
   * @throws InputError when the tracks do not hold a camera, with the reason
   */
  public static Solved of(
      Observations o,
      PictureSize picture,
      double filmWidthMm,
      double filmHeightMm,
      FocalLength focal,
      int lensTerms,
      Progress progress) {
    if (o.isEmpty()) {
      throw InputError.words("there are no 2D tracks", "Add a table of 2D tracks");
    }
    return new Resolve(o, picture, filmWidthMm, filmHeightMm, focal, lensTerms, progress).solve();
  }

  private Tracks tracks() {
    Tracks.Builder t = new Tracks.Builder(frames.count());
    for (String n : observations.names()) {
      if (observations.endRow(n) - observations.firstRow(n) < 2) {
        continue;
      }
      names.add(n);
      for (int row = observations.firstRow(n); row < observations.endRow(n); row++) {
        t.see(observations.frame(row) - frames.first(), observations.x(row), observations.y(row));
      }
      t.endPoint();
    }
    return t.build();
  }

  /**
   * @param scale of each frame's focal length
   */
  private Bundle optics(double focalPx, double[] scale) {
    Bundle b = new Bundle(frames.count(), tracks.points());
    double ratio = film.filmWidthMm() * picture.height() / (film.filmHeightMm() * picture.width());
    for (int i = 0; i < b.cameras(); i++) {
      b.setPose(i, Pose.IDENTITY);
      b.setOptics(i, focalPx * scale[i], ratio, picture.width() / 2.0, picture.height() / 2.0);
    }
    return b;
  }

  private Solved solve() {
    if (frames.count() < 2) {
      throw InputError.words(
          "all trackers were seen in one frame, " + frames.first() + ", only",
          "A solve needs trackers that are followed over many frames");
    }
    if (names.size() < FEWEST) {
      throw InputError.words(
          names.size() + " trackers are seen in two frames or more; a solve needs " + FEWEST,
          "Track more features");
    }
    if (!moves()) {
      throw InputError.words(
          "nothing moves in the picture", "Without any move there is nothing to solve");
    }
    Turned turned = turned();
    progress.step(1, 10);
    Freed freed = turned.medianPx < 0.2 ? new Freed(null, "turning alone explains it") : freed();
    boolean free = freed.growth != null;
    if (free) {
      SolveKind kind = SolveKind.of(turned.medianPx, freed.growth.medianPx());
      if (kind.tripod() && turned.medianPx < TRIPOD_AT_MOST_PX) {
        return tripod(turned, kind);
      }
      Bundle moved = moved(freed.growth);
      Optional<SolveKind> bent = bentKind(turned, moved);
      return bent.isPresent() && bent.get().tripod()
          ? tripod(turned, bent.get())
          : solved(moved, bent.orElse(kind), "free move");
    }
    if (turned.medianPx < TRIPOD_AT_MOST_PX) {
      return tripod(turned, new SolveKind(true, turned.medianPx, turned.medianPx));
    }
    throw InputError.words(
        "the 2D tracks could not be solved: " + freed.why,
        "Track more features, spread over the picture and living longer; or give the focal length");
  }

  /** Whether anything wanders by more than a pixel. */
  private boolean moves() {
    for (int j = 0; j < tracks.points(); j++) {
      int first = tracks.firstRow(j);
      for (int row = first; row < first + tracks.seen(j); row++) {
        if (Math.hypot(tracks.x(row) - tracks.x(first), tracks.y(row) - tracks.y(first)) > 1) {
          return true;
        }
      }
    }
    return false;
  }

  private double[] focals() {
    if (focal.mm().isPresent()) {
      return new double[] {focal.mm().getAsDouble() / film.filmWidthMm() * picture.width()};
    }
    double[] out = new double[FOCALS.length];
    for (int k = 0; k < out.length; k++) {
      out[k] = FOCALS[k] * picture.width();
    }
    return out;
  }

  private record Turned(Bundle bundle, double medianPx) {}

  /** The best of all focal lengths after a few rounds is fitted to the end. */
  private Turned turned() {
    Turned best = null;
    for (double f : focals()) {
      Bundle start = RotationOnlyFit.start(optics(f, focal.zooms() ? zoomed : even), tracks);
      Turned t = turned(RotationOnlyFit.fit(start, tracks, focal.free(), QUICK_ROUNDS, progress));
      best = best == null || t.medianPx < best.medianPx ? t : best;
    }
    if (best.medianPx > HOPELESS_TRIPOD_PX) {
      return best;
    }
    return turned(
        RotationOnlyFit.fit(best.bundle, tracks, focal.free(), 3 * QUICK_ROUNDS, progress));
  }

  private Turned turned(Adjustment a) {
    return new Turned(
        a.bundle(), SolveKind.median(a.bundle(), tracks, AdjustOptions.USUAL.withTripod(true)));
  }

  /** A reconstruction, or why there is none. */
  private record Freed(IncrementalReconstruction growth, String why) {}

  /**
   * A zoom may begin as the picture grows, or evenly where it grew because the camera came nearer.
   */
  private Freed freed() {
    Freed as = freed(even);
    if (!focal.zooms()) {
      return as;
    }
    Freed grown = freed(zoomed);
    boolean better =
        as.growth == null || grown.growth != null && grown.growth.medianPx() < as.growth.medianPx();
    return better ? grown : as;
  }

  private Freed freed(double[] scale) {
    Freed best = new Freed(null, "no two frames share " + InitialPair.FEWEST_SHARED + " trackers");
    double least = Double.POSITIVE_INFINITY;
    double bestFocal = Double.NaN;
    double[] focals = focals();
    if (focals.length == 1) {
      bestFocal = focals[0];
    } else {
      int step = Math.max(1, frames.count() / KEY_FRAMES);
      for (double f : focals) {
        Freed tried = grown(f, scale, step, 3);
        if (tried.growth == null) {
          best = best.growth == null ? tried : best;
          continue;
        }
        // Fewer points that fit better are no better solve.
        double score =
            tried.growth.medianPx()
                * tracks.points()
                / (double) Math.max(1, tried.growth.pointsIn());
        if (score < least) {
          least = score;
          best = tried;
          bestFocal = tried.growth.firstFocalPx();
        }
      }
      if (Double.isNaN(bestFocal)) {
        return best;
      }
    }
    return grown(bestFocal, scale, 1, PAIRS_TRIED);
  }

  private Freed grown(double focalPx, double[] scale, int step, int tries) {
    Bundle optics = optics(focalPx, scale);
    List<InitialPair.Pair> pairs = InitialPair.ranked(optics, tracks);
    if (pairs.isEmpty()) {
      return new Freed(null, "no two frames share " + InitialPair.FEWEST_SHARED + " trackers");
    }
    IncrementalReconstruction best = null;
    for (int k = 0; k < Math.min(tries, pairs.size()); k++) {
      // Not the neighbours of a pair that failed: others, farther down the list.
      InitialPair.Pair pair = pairs.get(Math.min(pairs.size() - 1, k * k));
      IncrementalReconstruction g =
          new IncrementalReconstruction(optics, tracks, focal.free(), progress);
      if (!g.begin(pair)) {
        continue;
      }
      g.grow(step);
      if (best == null
          || g.camerasIn() > best.camerasIn()
          || g.camerasIn() == best.camerasIn() && g.medianPx() < best.medianPx()) {
        best = g;
      }
      if (whole(g, step) && g.medianPx() < 0.8) {
        break;
      }
    }
    if (best == null) {
      return new Freed(null, "no pair of frames gives a move that its trackers agree on");
    }
    if (!whole(best, step)) {
      return new Freed(null, unheld(best));
    }
    return new Freed(best, "");
  }

  /** Whether nearly all frames stand that see enough trackers to. */
  private static boolean whole(IncrementalReconstruction g, int step) {
    int wanted = 0;
    for (int i = 0; i < g.cameras().length; i += step) {
      wanted += g.seesEnough(i) ? 1 : 0;
    }
    return g.camerasIn() >= HELD_FRAMES * wanted;
  }

  private String unheld(IncrementalReconstruction g) {
    int first = -1;
    int n = 0;
    for (int i = 0; i < g.cameras().length; i++) {
      if (!g.cameras()[i]) {
        first = first < 0 ? i : first;
        n++;
      }
    }
    return n
        + " of "
        + frames.count()
        + " frames are held by too few trackers that agree, the first of them frame "
        + (frames.first() + Math.max(0, first));
  }

  private Solved tripod(Turned turned, SolveKind kind) {
    AdjustOptions o = free().withTripod(true).withLoss(RobustLoss.cauchy(1));
    Bundle b = BundleAdjuster.adjust(turned.bundle, tracks, o, progress).bundle();
    for (int j = 0; j < b.points(); j++) {
      b.setPoint(j, b.point(j).times(TRIPOD_DISTANCE));
    }
    bridgeTripod(b);
    return solved(b, kind, "tripod");
  }

  /** Cameras that see too little turn evenly from the one before to the one after. */
  private void bridgeTripod(Bundle b) {
    int[] rows = new int[b.cameras()];
    for (int row = 0; row < tracks.rows(); row++) {
      rows[tracks.camera(row)]++;
    }
    int fewest = InterpolatedFrames.fewest(true);
    int before = -1;
    for (int i = 0; i < rows.length; i++) {
      if (rows[i] >= fewest) {
        before = i;
        continue;
      }
      int after = i;
      while (after < rows.length && rows[after] < fewest) {
        after++;
      }
      if (before < 0 || after == rows.length) {
        continue; // at the ends it stays where its neighbour is
      }
      b.setPose(i, IncrementalReconstruction.between(b, before, i, after));
      if (focal.zooms()) {
        double s = (i - before) / (double) (after - before);
        double px = b.focalPx(before) * Math.pow(b.focalPx(after) / b.focalPx(before), s);
        b.setOptics(i, px, b.ratio(i), b.centreX(i), b.centreY(i));
      }
    }
  }

  private AdjustOptions free() {
    return AdjustOptions.USUAL.withFocal(focal.free());
  }

  private Bundle moved(IncrementalReconstruction g) {
    Bundle b = DepthReversal.better(g.bundle(), tracks, g.cameras(), g.points(), free());
    g.bridge(b);
    PointsBeside.place(b, tracks, g.cameras(), g.points());
    return b;
  }

  /**
   * A lens bends what only turns, and a free move can take some of that up: where lens terms are
   * found later, both are judged with them. Empty where turning does not explain the tracks then
   * either.
   */
  private Optional<SolveKind> bentKind(Turned turned, Bundle moved) {
    if (lensTerms == 0 || turned.medianPx > HOPELESS_TRIPOD_PX) {
      return Optional.empty();
    }
    AdjustOptions o = free().withLensTerms(lensTerms).withLoss(RobustLoss.cauchy(1));
    AdjustOptions turns = o.withTripod(true);
    Bundle soon = adjusted(turned.bundle, turns.withRounds(3 * QUICK_ROUNDS));
    if (SolveKind.median(soon, tracks, turns) > HOPELESS_BENT_PX) {
      return Optional.empty();
    }
    double turnPx = SolveKind.median(adjusted(soon, turns), tracks, turns);
    return turnPx < TRIPOD_AT_MOST_PX
        ? Optional.of(SolveKind.of(turnPx, SolveKind.median(adjusted(moved, o), tracks, o)))
        : Optional.empty();
  }

  private Bundle adjusted(Bundle start, AdjustOptions o) {
    return BundleAdjuster.adjust(start, tracks, o, progress).bundle();
  }

  private Solved solved(Bundle b, SolveKind kind, String word) {
    OpticsTrack optics =
        focal.mm().isPresent()
            ? OpticsTrack.constant(frames, film)
            : OpticsTrack.of(
                frames,
                f ->
                    Optics.centred(
                        b.focalPx(f - frames.first()) * film.filmWidthMm() / picture.width(),
                        film.filmWidthMm(),
                        film.filmHeightMm()));
    double[] xyz = new double[3 * names.size()];
    for (int j = 0; j < names.size(); j++) {
      Vec3 p = b.point(j);
      xyz[3 * j] = p.x();
      xyz[3 * j + 1] = p.y();
      xyz[3 * j + 2] = p.z();
    }
    ShotCamera camera =
        new ShotCamera(
            "camera",
            PoseTrack.of(frames, f -> b.pose(f - frames.first())),
            optics,
            Optional.empty());
    return new Solved(
        camera,
        TrackerSet.of("trackers", names, xyz),
        kind,
        "solved from 2D tracks as a " + word + ", " + words(optics));
  }

  private String words(OpticsTrack optics) {
    double[] mm = optics.focalLengthRangeMm();
    return focal.zooms()
        ? String.format(
            Locale.ROOT, "focal length %.2f to %.2f mm (found for each frame)", mm[0], mm[1])
        : String.format(
            Locale.ROOT,
            "focal length %.2f mm (%s)",
            mm[0],
            focal.mm().isPresent() ? "given" : "found");
  }
}
