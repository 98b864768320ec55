package flarvo.suspect;

import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * Tries mix-ups on a file, alone, in pairs and in threes, and ranks them by how much of the error
 * they explain.
 *
 * <p>Of changes that explain alike, within the noise of the evidence, the cheapest comes first and
 * the others are named beside it.
 */
public final class SuspectSearch {

  private static final int FRAMES = 48;
  private static final int EACH = 40;
  private static final int FRAMES_PAIRS = 14;
  private static final int EACH_PAIRS = 11;
  private static final int EACH_ALL = 16;
  private static final int FEWEST = 24; // observations
  private static final int MOST_SUSPECTS = 8;

  /** Pairs on which a third change is tried. */
  private static final int MOST_THIRDS = 12;

  /** Pairs that are measured on the whole sample after the quick look. */
  private static final int FINALISTS = 80;

  /** A cause explains an error when it leaves no more of it than this share… */
  private static final double EXPLAINS = 0.5;

  /** …and less than so many pixels, and takes away at least so many. */
  private static final double FITS_PX = 2;

  private static final double LEAST_PX = 0.25;

  /** What leaves more than this share is not worth a line. */
  private static final double HELPS = 0.9;

  /** A single cause that leaves more than this may have a second beside it. */
  private static final double WHOLE_PX = 0.5;

  /** Two causes are named where they leave no more than this share of what one leaves. */
  private static final double BETTER = 0.75;

  private static final double ALIKE = 1.04;
  private static final double ALIKE_PX = 0.01;
  private static final double MORE_FREEDOM = 1.5;
  private static final double PLAIN = 3;

  /** Frames of a shot up to which camera axes are tried together with angles. */
  private static final int MOST_TURNED = 400;

  private static final ThreadLocal<TriedScene.Bench> BENCH =
      ThreadLocal.withInitial(TriedScene.Bench::new);

  private final boolean cameraAlone;
  private final List<String> leftOut;
  private final TriedScene base;
  private final Evidence sample;
  private final Evidence coarse;
  private final Evidence all;
  private final List<Family> families;
  private final Progress progress;

  private record Scored(Change change, double error) {}

  /** A change with the family that it is of. */
  private record Step(Change change, Family family) {}

  /** Changes on top of each other, and what is left then. */
  private record Chain(List<Step> steps, double error) {
    double cost() {
      return steps.stream().mapToDouble(s -> s.change.cost()).sum();
    }

    TriedScene scene() {
      return steps.get(steps.size() - 1).change.scene();
    }

    List<Change> changes() {
      return steps.stream().map(Step::change).toList();
    }

    boolean has(String cause) {
      return steps.stream().anyMatch(s -> s.change.cause().equals(cause));
    }

    Chain with(Change c, Family f, double left) {
      List<Step> all = new ArrayList<>(steps);
      all.add(new Step(c, f));
      return new Chain(all, left);
    }

    /** With the last step replaced. */
    Chain ending(Change c, double left) {
      List<Step> all = new ArrayList<>(steps);
      Step last = all.remove(all.size() - 1);
      all.add(new Step(c, last.family));
      return new Chain(all, left);
    }
  }

  private SuspectSearch(
      Shot shot,
      Observations tracks,
      OptionalDouble backAspect,
      Optional<Similarity> level,
      Progress progress) {
    this.progress = progress;
    leftOut = leftOut(shot);
    PictureSize picture = shot.picture();
    FiledScene file = FiledScene.of(shot.camera().orElseThrow(), shot.trackers(), picture);
    Map<String, Integer> numbers = file.numbers();
    int[] pointOf = tracks.names().stream().mapToInt(n -> numbers.getOrDefault(n, -1)).toArray();
    cameraAlone = Arrays.stream(pointOf).noneMatch(p -> p >= 0);
    if (cameraAlone) {
      pointOf = longest(tracks);
      file = file.withPoints(new double[3 * EACH], List.of());
    }
    base = TriedScene.of(file);
    sample = Evidence.of(tracks, pointOf, picture, FRAMES, EACH);
    coarse = Evidence.of(tracks, pointOf, picture, FRAMES_PAIRS, cameraAlone ? EACH : EACH_PAIRS);
    all = Evidence.of(tracks, pointOf, picture, Integer.MAX_VALUE, EACH_ALL);
    families = families(backAspect);
    level.filter(l -> !cameraAlone).ifPresent(l -> families.add(new LevelFamily(l)));
  }

  /** What of a shot is not measured: other cameras, and what moves by itself. */
  static List<String> leftOut(Shot shot) {
    List<String> out = new ArrayList<>();
    if (shot.cameras().size() > 1) {
      out.add(
          "Of "
              + shot.cameras().size()
              + " cameras only the first was measured: "
              + shot.cameras().get(0).name());
    }
    int moving =
        shot.trackers().stream().filter(TrackerSet::moves).mapToInt(TrackerSet::size).sum();
    if (moving > 0) {
      out.add(moving + " points that move by themselves were left out");
    }
    return out;
  }

  /** The tracks that are observed most, numbered. */
  private static int[] longest(Observations tracks) {
    int[] pointOf = new int[tracks.names().size()];
    Arrays.fill(pointOf, -1);
    List<Integer> byLength =
        IntStream.range(0, pointOf.length)
            .boxed()
            .sorted(
                Comparator.comparingInt(
                    i -> {
                      String n = tracks.names().get(i);
                      return tracks.firstRow(n) - tracks.endRow(n);
                    }))
            .limit(EACH)
            .toList();
    for (int i = 0; i < byLength.size(); i++) {
      pointOf[byLength.get(i)] = i;
    }
    return pointOf;
  }

  private List<Family> families(OptionalDouble backAspect) {
    List<Family> out =
        new ArrayList<>(
            List.of(
                new LensFamilies.FlipY(),
                new TimeFamilies.Shift(),
                new TimeFamilies.Stretch(),
                new AxesFamilies.Camera(),
                new AxesFamilies.Hand(),
                new LensFamilies.Focal(),
                new LensFamilies.Back(),
                new LensFamilies.Fit(backAspect),
                new LensFamilies.Shift(),
                new LensFamilies.Offset(),
                new LensFamilies.Distortion(),
                new LensFamilies.PictureScale(),
                new RotationFamilies.Order(),
                new RotationFamilies.Degrees(),
                new RotationFamilies.Positions(),
                new RotationFamilies.Channels()));
    if (!cameraAlone) {
      out.add(new AxesFamilies.World());
      out.add(new AxesFamilies.Unit(false));
      out.add(new AxesFamilies.Unit(true));
      out.add(new PlacementFamily());
    }
    return out;
  }

  /** Whether a family takes every pose apart, which is dear. */
  private static boolean isRotation(Family f) {
    return f instanceof RotationFamilies.Order
        || f instanceof RotationFamilies.Degrees
        || f instanceof RotationFamilies.Channels;
  }

  /**
   * Finds what is wrong with a file.
   *
   * @param shot the file as it was read: its first camera, and points called like the tracks; where
   *     none is, the camera is measured on points triangulated from the tracks
   * @param tracks 2D tracks in the frames and pixels of the plates
   * @param backAspect width over height of the film back as the file states it, before any fit
   * @throws InputError when there is no camera, or too little to measure on
   */
  public static SuspectReport of(
      Shot shot, Observations tracks, OptionalDouble backAspect, Progress progress) {
    return of(shot, tracks, backAspect, Optional.empty(), progress);
  }

  /**
   * The same where the level of the shot is known, which may have been applied to only one of
   * camera and points.
   *
   * @param level from solve space to the levelled world
   */
  public static SuspectReport of(
      Shot shot,
      Observations tracks,
      OptionalDouble backAspect,
      Optional<Similarity> level,
      Progress progress) {
    if (shot.camera().isEmpty()) {
      throw InputError.words("there is no camera to measure", "Add the camera's file");
    }
    SuspectSearch s = new SuspectSearch(shot, tracks, backAspect, level, progress);
    if (s.sample.size() < FEWEST) {
      throw InputError.words(
          s.sample.size() + " observations are too few to measure on", "Add 2D tracks of the shot");
    }
    return s.report();
  }

  private double error(TriedScene s, Evidence e) {
    TriedScene.Bench b = BENCH.get();
    if (cameraAlone) {
      double[] xyz = PointsFromTracks.of(s, e, b);
      return s.with(s.file.withPoints(xyz, List.of())).error(e, b);
    }
    return s.error(e, b);
  }

  private SuspectReport report() {
    double before = error(base, sample);
    List<Scored> singles = singles();
    List<Suspect> found = new ArrayList<>();
    double best = singles.isEmpty() ? before : singles.get(0).error;
    Optional<Suspect> fault = faults();
    boolean isFault = fault.isPresent() && fault.get().confident();
    boolean faultFirst = fault.isPresent() && fault.get().errorPxAfter() < best;
    if (faultFirst) {
      found.add(fault.get());
    }
    List<Scored> leading = distinct(singles);
    for (Scored s : leading) {
      if (s.error >= HELPS * before && !found.isEmpty()) {
        continue;
      }
      found.add(suspect(List.of(s.change), s.error, before, alike(s, singles)));
    }
    if (!faultFirst) {
      fault.ifPresent(found::add);
    }
    boolean explained = explains(before, best) && best <= WHOLE_PX;
    // What has much freedom may hide two plain causes.
    double freedom = leading.isEmpty() ? 0 : leading.get(0).change.cost();
    if (before > WHOLE_PX && !isFault && (!explained || freedom > PLAIN)) {
      List<Chain> pairs = pairs();
      Optional<Chain> two = cheapest(pairs);
      double left = two.map(Chain::error).orElse(best);
      boolean whole = two.isPresent() && explains(before, left) && left <= FITS_PX;
      Optional<Chain> three = whole || explained ? Optional.empty() : cheapest(thirds(pairs));
      three
          .filter(c -> c.error < BETTER * left && explains(before, c.error))
          .or(
              () ->
                  two.filter(
                      p ->
                          p.error < BETTER * best
                              || explained
                                  && p.cost() < freedom
                                  && p.error < ALIKE * best + ALIKE_PX))
          .ifPresent(c -> found.add(0, suspect(c.changes(), c.error, before, List.of())));
    }
    // What explains comes first; the sort keeps the order of the rest.
    found.sort(Comparator.comparing(x -> !x.confident()));
    List<String> notes = new ArrayList<>(leftOut);
    if (cameraAlone) {
      notes.add(
          "No point of the file is called like a track: only the camera was measured, on points"
              + " triangulated from the tracks");
    }
    return new SuspectReport(
        before, sample.size(), found.subList(0, Math.min(MOST_SUSPECTS, found.size())), notes);
  }

  /** Frames that are bad by themselves, while the rest is as good as evidence gets. */
  private Optional<Suspect> faults() {
    if (cameraAlone) {
      return Optional.empty();
    }
    TriedScene.Bench b = BENCH.get();
    return FrameFaults.of(base, all, b)
        .map(
            f ->
                new Suspect(
                    List.of(new Suspect.Cause(f.code(), f.value())),
                    f.after(),
                    f.after() <= FITS_PX,
                    String.format(
                        Locale.ROOT,
                        "%s: %.2f px there, %.2f px elsewhere",
                        f.says(),
                        f.there(),
                        f.after()),
                    List.of(),
                    base));
  }

  private static boolean explains(double before, double after) {
    return after <= EXPLAINS * before && after <= FITS_PX && before - after >= LEAST_PX;
  }

  private static String joined(List<Change> of, Function<Change, String> text) {
    return of.stream().map(text).collect(Collectors.joining(", and "));
  }

  private Suspect suspect(List<Change> of, double after, double before, List<Suspect.Cause> alike) {
    Change last = of.get(of.size() - 1);
    String all = joined(of, c -> lower(c.says()));
    String says = all.substring(0, 1).toUpperCase(Locale.ROOT) + all.substring(1);
    String done = joined(of, Change::done);
    return new Suspect(
        of.stream().map(c -> new Suspect.Cause(c.cause(), c.value())).toList(),
        after,
        explains(before, after),
        sentence(says + ": " + done, before, after),
        alike,
        last.scene());
  }

  private static String lower(String s) {
    return s.substring(0, 1).toLowerCase(Locale.ROOT) + s.substring(1);
  }

  private static String sentence(String says, double before, double after) {
    return after < before
        ? String.format(
            Locale.ROOT, "%s, the error falls from %.2f to %.2f px", says, before, after)
        : String.format(Locale.ROOT, "%s, the error is %.2f px", says, after);
  }

  /** Every change of every family on the file as it is; the best first. */
  private List<Scored> singles() {
    List<Change> all =
        families.stream().flatMap(f -> f.on(base, sample, BENCH.get()).stream()).toList();
    progress.step(1, 3);
    return all.parallelStream()
        .map(c -> new Scored(c, error(c.scene(), sample)))
        .sorted(SuspectSearch::order)
        .toList();
  }

  /** By what is left; where that is alike, what takes less freedom. */
  private static int order(Scored a, Scored b) {
    return Double.compare(a.error, b.error);
  }

  /** The best of each code; the cheapest first among those that explain as well as the best. */
  private static List<Scored> distinct(List<Scored> sorted) {
    if (sorted.isEmpty()) {
      return List.of();
    }
    double limit = sorted.get(0).error * ALIKE + ALIKE_PX;
    Map<String, Scored> out = new LinkedHashMap<>();
    sorted.stream()
        .filter(s -> s.error <= limit)
        .sorted(Comparator.comparingDouble(s -> s.change.cost()))
        .forEach(s -> out.putIfAbsent(s.change.cause(), s));
    sorted.forEach(s -> out.putIfAbsent(s.change.cause(), s));
    return List.copyOf(out.values());
  }

  private static List<Suspect.Cause> alike(Scored one, List<Scored> sorted) {
    double limit = one.error * ALIKE + ALIKE_PX;
    Map<String, Suspect.Cause> out = new LinkedHashMap<>();
    for (Scored s : sorted) {
      // What has much more freedom explains whatever this does, and says nothing.
      boolean same =
          s.change.cause().equals(one.change.cause())
              || s.change.cost() > one.change.cost() + MORE_FREEDOM;
      if (s.error <= limit && s.error >= one.error / ALIKE - ALIKE_PX && !same) {
        out.putIfAbsent(s.change.cause(), new Suspect.Cause(s.change.cause(), s.change.value()));
      }
    }
    return List.copyOf(out.values());
  }

  /** Of those that explain as well as the best, the one of least freedom. */
  private static Optional<Chain> cheapest(List<Chain> sorted) {
    if (sorted.isEmpty()) {
      return Optional.empty();
    }
    double limit = sorted.get(0).error * ALIKE + ALIKE_PX;
    return sorted.stream()
        .filter(c -> c.error <= limit)
        .min(Comparator.comparingDouble(Chain::cost));
  }

  /** Pairs, the best first: a quick look at all, then the finalists on the whole sample. */
  private List<Chain> pairs() {
    List<Chain> firsts =
        families.stream()
            .flatMap(
                f ->
                    f.on(base, coarse, BENCH.get()).stream()
                        .map(c -> new Chain(List.of(new Step(c, f)), Double.NaN)))
            .toList();
    progress.step(1, 3);
    List<Chain> quick =
        firsts.parallelStream()
            .flatMap(c -> further(c, coarse).stream())
            .sorted(Comparator.comparingDouble(Chain::error))
            .toList();
    // Two fitted values may look bad until they are fitted together.
    List<Chain> finalists = new ArrayList<>(quick.subList(0, Math.min(FINALISTS, quick.size())));
    quick.stream()
        .skip(FINALISTS)
        .filter(c -> c.changes().stream().noneMatch(x -> x.dials().isEmpty()))
        .forEach(finalists::add);
    progress.step(2, 3);
    return finalists.parallelStream()
        .map(this::onTheSample)
        .flatMap(Optional::stream)
        .sorted(Comparator.comparingDouble(Chain::error))
        .toList();
  }

  /** A third change on top of the best pairs, where two do not explain it. */
  private List<Chain> thirds(List<Chain> pairs) {
    return pairs.stream().limit(MOST_THIRDS).toList().parallelStream()
        .flatMap(c -> further(c, sample).stream())
        .map(this::polished)
        .sorted(Comparator.comparingDouble(Chain::error))
        .toList();
  }

  /** The best further change of each family. */
  private List<Chain> further(Chain of, Evidence e) {
    progress.step(2, 3);
    // Angles are of the camera with its own axes, so those come first; else the order is the same.
    boolean angles =
        of.steps.size() == 1
            && of.steps.get(0).family instanceof AxesFamilies.Camera
            && base.file.count() <= MOST_TURNED;
    List<Chain> out = new ArrayList<>();
    for (Family f : families) {
      if (isRotation(f) && !angles) {
        continue;
      }
      Chain best = null;
      for (Change c : f.on(of.scene(), e, BENCH.get())) {
        if (of.has(c.cause())) {
          continue;
        }
        double left = error(c.scene(), e);
        if (best == null || left < best.error) {
          best = of.with(c, f, left);
        }
      }
      if (best != null) {
        out.add(best);
      }
    }
    return out;
  }

  /** With values fitted to the whole sample. */
  private Optional<Chain> onTheSample(Chain pair) {
    Step first = pair.steps.get(0);
    Step second = pair.steps.get(1);
    return second.family.on(first.change.scene(), sample, BENCH.get()).stream()
        .filter(c -> c.cause().equals(second.change.cause()))
        .filter(c -> !second.family.isFixed() || c.value().equals(second.change.value()))
        .map(c -> pair.ending(c, error(c.scene(), sample)))
        .min(Comparator.comparingDouble(Chain::error))
        .map(this::polished);
  }

  /** Fitted values disturb each other: they are fitted together. */
  private Chain polished(Chain chain) {
    List<Dial> dials = chain.changes().stream().flatMap(c -> c.dials().stream()).toList();
    long fitted = chain.changes().stream().filter(c -> !c.dials().isEmpty()).count();
    if (fitted < 2 || cameraAlone) {
      return chain;
    }
    JointFit.Fit fit = JointFit.of(chain.scene(), dials, sample, BENCH.get());
    List<Step> out = new ArrayList<>();
    int at = 0;
    for (Step s : chain.steps) {
      double[] to = s.change.at().clone();
      for (int i = 0; i < to.length; i++) {
        to[i] += fit.turned()[at++];
      }
      boolean last = out.size() == chain.steps.size() - 1;
      TriedScene scene = last ? fit.scene() : s.change.scene();
      out.add(new Step(s.change.refitted(to, scene), s.family));
    }
    return new Chain(out, error(fit.scene(), sample));
  }
}
