package flarvo.suspect;

import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * Tries mix-ups on a file, alone, in pairs and in threes, and ranks them by how much of the error
 * they explain.
 *
 * <p>Of changes that explain alike, within the noise of the evidence, the cheapest comes first and
 * the others are named beside it.
 */
public final class SuspectSearch {

  private static final int FRAMES = 48;
  private static final int FRAMES_PAIRS = 14;
  private static final int EACH_PAIRS = 11;
  private static final int EACH_ALL = 16;
  private static final int FEWEST = 24; // observations
  private static final int MOST_SUSPECTS = 8;
  private static final int MOST_ALIKE = 4; // of several causes together

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

  private static final double MORE_FREEDOM = 1.5;
  private static final double PLAIN = 3;

  private final List<String> leftOut;
  private final Subject subject;
  private final Evidence sample;
  private final Evidence all;
  private final List<Family> families;
  private final Progress progress;
  private final MixUps mixUps;

  private record Scored(Change change, double error) {}

  private SuspectSearch(
      Shot shot,
      Observations tracks,
      OptionalDouble backAspect,
      Optional<Similarity> level,
      Progress progress) {
    this.progress = progress;
    leftOut = leftOut(shot);
    subject = Subject.still(shot, tracks);
    boolean cameraAlone = subject.cameraAlone;
    sample = subject.evidence(FRAMES, Subject.EACH);
    Evidence coarse = subject.evidence(FRAMES_PAIRS, cameraAlone ? Subject.EACH : EACH_PAIRS);
    all = subject.evidence(Integer.MAX_VALUE, EACH_ALL);
    families = families(backAspect);
    level.filter(l -> !cameraAlone).ifPresent(l -> families.add(new LevelFamily(l)));
    mixUps = new MixUps(subject, families, sample, coarse, progress);
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

  private List<Family> families(OptionalDouble backAspect) {
    List<Family> out =
        new ArrayList<>(
            List.of(
                new LensFamilies.FlipY(),
                new TimeFamilies.Shift(),
                new TimeFamilies.Stretch(),
                new AxesFamilies.Camera(),
                new AxesFamilies.Hand(),
                subject.cameraAlone ? new FocalOfCameraAlone() : new LensFamilies.Focal(),
                new LensFamilies.Back(),
                new LensFamilies.Fit(backAspect),
                new LensFamilies.Shift(),
                new LensFamilies.Offset(),
                new LensFamilies.Distortion(),
                new LensFamilies.PictureScale(),
                new RotationFamilies.Order(),
                new RotationFamilies.Degrees(RotationFamilies.ALL),
                new RotationFamilies.Positions(),
                new RotationFamilies.Channels(RotationFamilies.ALL)));
    if (!subject.cameraAlone) {
      out.add(new AxesFamilies.World());
      out.add(new AxesFamilies.Unit(false));
      out.add(new AxesFamilies.Unit(true));
      out.add(new PlacementFamily());
    }
    return out;
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

  private SuspectReport report() {
    double before = subject.error(subject.base, sample);
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
      List<MixUps.Chain> pairs = mixUps.pairs();
      Optional<MixUps.Chain> two = MixUps.cheapest(pairs);
      double left = two.map(MixUps.Chain::error).orElse(best);
      boolean whole = two.isPresent() && explains(before, left) && left <= FITS_PX;
      List<MixUps.Chain> threes = whole || explained ? List.of() : mixUps.thirds(pairs);
      MixUps.cheapest(threes)
          .filter(c -> c.error() < BETTER * left && explains(before, c.error()))
          .or(
              () ->
                  two.filter(
                      p ->
                          p.error() < BETTER * best
                              || explained
                                  && p.cost() < freedom
                                  && p.error() < MixUps.ALIKE * best + MixUps.ALIKE_PX))
          .ifPresent(
              c ->
                  found.add(
                      0,
                      suspect(
                          c.changes(),
                          c.error(),
                          before,
                          alike(c, c.changes().size() > 2 ? threes : pairs))));
    }
    // What explains comes first; the sort keeps the order of the rest.
    found.sort(Comparator.comparing(x -> !x.confident()));
    List<String> notes = new ArrayList<>(leftOut);
    if (subject.cameraAlone) {
      notes.add(
          "No point of the file is called like a track: only the camera was measured, on points"
              + " triangulated from the tracks");
    }
    return new SuspectReport(
        before, sample.size(), found.subList(0, Math.min(MOST_SUSPECTS, found.size())), notes);
  }

  /** Frames that are bad by themselves, while the rest is as good as evidence gets. */
  private Optional<Suspect> faults() {
    if (subject.cameraAlone) {
      return Optional.empty();
    }
    TriedScene.Bench b = MixUps.BENCH.get();
    return FrameFaults.of(subject.base, all, b)
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
                    subject.base));
  }

  private static boolean explains(double before, double after) {
    return after <= EXPLAINS * before && after <= FITS_PX && before - after >= LEAST_PX;
  }

  private static String joined(List<Change> of, Function<Change, String> text) {
    return of.stream().map(text).collect(Collectors.joining(", and "));
  }

  private Suspect suspect(
      List<Change> of, double after, double before, List<List<Suspect.Cause>> alike) {
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
        families.stream()
            .flatMap(f -> f.on(subject.base, sample, MixUps.BENCH.get()).stream())
            .toList();
    progress.step(1, 3);
    return all.parallelStream()
        .map(c -> new Scored(c, subject.error(c.scene(), sample)))
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
    double limit = sorted.get(0).error * MixUps.ALIKE + MixUps.ALIKE_PX;
    Map<String, Scored> out = new LinkedHashMap<>();
    sorted.stream()
        .filter(s -> s.error <= limit)
        .sorted(Comparator.comparingDouble(s -> s.change.cost()))
        .forEach(s -> out.putIfAbsent(s.change.cause(), s));
    sorted.forEach(s -> out.putIfAbsent(s.change.cause(), s));
    return List.copyOf(out.values());
  }

  /** As many other causes together that leave what these leave, with little more freedom. */
  private static List<List<Suspect.Cause>> alike(MixUps.Chain one, List<MixUps.Chain> sorted) {
    Map<Set<String>, List<Suspect.Cause>> out = new LinkedHashMap<>();
    for (MixUps.Chain c : sorted) {
      Set<String> codes = c.changes().stream().map(Change::cause).collect(Collectors.toSet());
      boolean other =
          c.changes().size() == one.changes().size()
              && c.changes().stream().anyMatch(x -> !one.has(x.cause()))
              && c.cost() <= one.cost() + MORE_FREEDOM;
      if (other && isAsGood(c.error(), one.error())) {
        out.putIfAbsent(
            codes, c.changes().stream().map(x -> new Suspect.Cause(x.cause(), x.value())).toList());
      }
    }
    return out.values().stream().limit(MOST_ALIKE).toList();
  }

  /** Neither worse than what is named nor better, within the noise of the evidence. */
  private static boolean isAsGood(double error, double named) {
    return error <= named * MixUps.ALIKE + MixUps.ALIKE_PX
        && error >= named / MixUps.ALIKE - MixUps.ALIKE_PX;
  }

  private static List<List<Suspect.Cause>> alike(Scored one, List<Scored> sorted) {
    Map<String, List<Suspect.Cause>> out = new LinkedHashMap<>();
    for (Scored s : sorted) {
      // What has much more freedom explains whatever this does, and says nothing.
      boolean same =
          s.change.cause().equals(one.change.cause())
              || s.change.cost() > one.change.cost() + MORE_FREEDOM;
      if (isAsGood(s.error, one.error) && !same) {
        out.putIfAbsent(
            s.change.cause(), List.of(new Suspect.Cause(s.change.cause(), s.change.value())));
      }
    }
    return List.copyOf(out.values());
  }
}
