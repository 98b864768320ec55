package flarvo.sender;

import flarvo.convention.AngleUnit;
import flarvo.convention.CameraAxes;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.FrameNumbering;
import flarvo.convention.RotationOrder;
import flarvo.convention.SignedAxis;
import flarvo.convention.WorldAxes;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.sender.Readings.Reading;
import flarvo.suspect.Hypotheses;
import flarvo.suspect.Mending;
import flarvo.suspect.Suspect;
import flarvo.suspect.SuspectReport;
import flarvo.suspect.SuspectSearch;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * Proposes how an unknown sender speaks. Files are read under every camera and hand, every order
 * and unit of angles, and every film convention, and each reading is measured against 2D tracks;
 * what is left is searched as a mix-up ({@link SuspectSearch}), and what of it is a convention
 * becomes part of the dialect. The proposal is read from disk once more and measured.
 *
 * <p>A camera and its points look the same from any world, so world axes and unit are measured only
 * against a solve that is known to be right ({@link WorldOfSender}).
 */
public final class SenderSearch {

  /** Below this nothing is left to be explained. */
  private static final double FINE_PX = 0.6;

  /** Readings that are tried under every film convention. */
  private static final int FILMED = 12;

  /** Readings whose rest is searched. */
  private static final int TRIED = 4;

  private static final Set<String> CONVENTIONS =
      Set.of(
          "frame-shift",
          "focal-length",
          "film-back",
          "film-fit",
          "lens-shift-sign",
          "lens-shift-unit");

  private static final WorldAxes LEFT =
      new WorldAxes(SignedAxis.POSITIVE_X, SignedAxis.POSITIVE_Y, SignedAxis.POSITIVE_Z);

  private final Readings readings;
  private final Observations tracks;
  private final Optional<Shot> trusted;
  private final IntakeOptions options;
  private final String name;
  private final Progress progress;
  private final Findings findings = new Findings();
  private final List<String> besides = new ArrayList<>();

  private SenderSearch(
      Readings readings,
      Observations tracks,
      Optional<Shot> trusted,
      IntakeOptions options,
      String name,
      Progress progress) {
    this.readings = readings;
    this.tracks = tracks;
    this.trusted = trusted;
    this.options = options;
    this.name = name;
    this.progress = progress;
  }

  /**
   * Searches for the dialect of files.
   *
   * @param read a camera, and its points where there are any, from disk as a dialect has them
   * @param options what is known of the files; a dialect in it does not count
   * @param tracks 2D tracks in plate frames
   * @param trusted the same shot as it is known to be, in solve space with its level
   * @param name of the dialect to be
   * @throws InputError when the files cannot be read at all, hold no camera, or too little can be
   *     measured
   */
  public static SenderReport of(
      Function<Dialect, ReceivedSet> read,
      IntakeOptions options,
      Observations tracks,
      Optional<Shot> trusted,
      String name,
      Progress progress) {
    if (tracks.isEmpty()) {
      throw InputError.words("there is no evidence", "Add 2D tracks of the shot");
    }
    Readings r = new Readings(read, options, tracks);
    return new SenderSearch(r, tracks, trusted, options, name, progress).report();
  }

  private Dialect base() {
    return Dialect.CANONICAL.named(name).described("Found by evidence");
  }

  private SenderReport report() {
    ReceivedSet plain = readings.set(base());
    Reading asIs =
        readings
            .understood(plain, base())
            .orElseThrow(
                () ->
                    InputError.words(
                        "there is no camera that can be measured against the tracks",
                        "Add the camera's file, and tracks of its shot"));
    List<Reading> turned = turned();
    progress.step(1, 3);
    List<Reading> filmed = filmed(turned);
    Best best = rest(filmed);
    progress.step(2, 3);
    axes(turned, filmed, best.reading);
    Dialect d = frames(film(best), best);
    d = new WorldOfSender(plain, trusted, findings).over(d, best.reading);
    double error = readings.of(d, plateFirst(best)).map(Reading::error).orElse(Double.NaN);
    return new SenderReport(d, findings.all(), asIs.error(), error, besides, alike(d));
  }

  // ---- axes and angles ------------------------------------------------------------------------

  /** Under every order and unit of angles, hand and camera; those that make the same shot once. */
  private List<Reading> turned() {
    List<Reading> out = new ArrayList<>();
    Set<List<Object>> prints = new LinkedHashSet<>();
    for (RotationOrder order : RotationOrder.values()) {
      for (AngleUnit unit : AngleUnit.values()) {
        Dialect d = base().withRotation(order, unit);
        ReceivedSet set;
        try {
          set = readings.set(d);
        } catch (InputError e) {
          continue;
        }
        Optional<Reading> first = readings.understood(set, d);
        // Files without angles are the same under every order.
        if (first.isPresent() && prints.add(Readings.print(first.get().shot()))) {
          out.addAll(hands(set, d));
        }
      }
    }
    return Readings.distinct(out);
  }

  private List<Reading> hands(ReceivedSet set, Dialect d) {
    List<Dialect> all = new ArrayList<>();
    for (WorldAxes w : List.of(WorldAxes.CANONICAL, LEFT)) {
      for (CameraAxes c : CameraAxes.all()) {
        all.add(d.withWorld(w).withCamera(c));
      }
    }
    // The usual camera comes first among those that a format takes for one.
    all.sort(Comparator.comparing(x -> !x.camera().equals(CameraAxes.CANONICAL)));
    return all.parallelStream()
        .map(x -> readings.understood(set, x))
        .flatMap(Optional::stream)
        .toList();
  }

  /**
   * The best of them under every film convention, and ranked with the film that fits best: a lens
   * shift or film back that is misread spoils the picture more than a wrong order of angles.
   */
  private List<Reading> filmed(List<Reading> turned) {
    if (turned.isEmpty() || turned.get(0).error() < FINE_PX) {
      return turned;
    }
    List<Dialect> films =
        Readings.distinct(
                readings.of(FilmOfSender.conventions(turned.get(0).dialect()), OptionalInt.empty()))
            .stream()
            .map(Reading::dialect)
            .toList();
    List<Dialect> all =
        turned.stream()
            .limit(FILMED)
            .flatMap(r -> films.stream().map(f -> r.dialect().withFilm(f.film())))
            .toList();
    record Ranked(Reading plain, Reading anyFilm) {}
    List<Ranked> ranked =
        readings.of(all, OptionalInt.empty()).parallelStream()
            .map(r -> new Ranked(r, r.withAnyFilm(tracks)))
            .toList();
    double best = ranked.stream().mapToDouble(r -> r.anyFilm.error()).min().orElse(0);
    // Of those that fit alike with any film, the one whose own fits best.
    return ranked.stream()
        .sorted(
            Comparator.comparing((Ranked r) -> !Findings.isAlike(r.anyFilm.error(), best))
                .thenComparing(
                    r ->
                        Findings.isAlike(r.anyFilm.error(), best)
                            ? r.plain.error()
                            : r.anyFilm.error()))
        .map(Ranked::anyFilm)
        .toList();
  }

  // ---- what is left ---------------------------------------------------------------------------

  /**
   * @param offset frames to add to the reading's
   * @param focal factor on the focal length that mends it
   * @param error with it
   */
  private record Best(
      Reading reading, int offset, double focal, double error, Optional<Suspect> cause) {}

  private Best rest(List<Reading> turned) {
    Best best = null;
    for (Reading r : turned.subList(0, Math.min(TRIED, turned.size()))) {
      Best b = rest(r);
      if (best == null || b.error < best.error) {
        best = b;
      }
      if (best.error < FINE_PX) {
        break;
      }
    }
    if (best == null) {
      throw InputError.words("the files can be read in no way", "Map their columns first");
    }
    Set<String> other =
        best.cause.map(c -> c.causes().stream()).stream()
            .flatMap(Function.identity())
            .map(Suspect.Cause::code)
            .filter(c -> !CONVENTIONS.contains(c))
            .collect(Collectors.toCollection(LinkedHashSet::new));
    if (!other.isEmpty()) {
      besides.add(best.cause.orElseThrow().sentence());
    }
    return best;
  }

  private Best rest(Reading of) {
    // The ranking allows for another film; what the files say counts here.
    Reading r =
        new Reading(of.dialect(), of.shot(), of.laid(), Hypotheses.errorPx(of.shot(), tracks));
    if (r.error() < FINE_PX) {
      return new Best(r, 0, 1, r.error(), Optional.empty());
    }
    SuspectReport found = SuspectSearch.of(r.shot(), tracks, OptionalDouble.empty(), progress);
    Optional<Suspect> cause = found.cause();
    if (cause.isEmpty()) {
      return new Best(r, 0, 1, r.error(), cause);
    }
    try {
      ShotCamera was = r.shot().camera().orElseThrow();
      ShotCamera is = Mending.of(r.shot(), cause.get()).camera().orElseThrow();
      Set<String> codes =
          cause.get().causes().stream().map(Suspect.Cause::code).collect(Collectors.toSet());
      int offset = codes.contains("frame-shift") ? is.frames().first() - was.frames().first() : 0;
      Optics a = was.optics().at(was.frames().first());
      Optics b = is.optics().at(is.frames().first());
      double focal = b.focalLengthMm() / b.filmWidthMm() / (a.focalLengthMm() / a.filmWidthMm());
      return new Best(r, offset, focal, cause.get().errorPxAfter(), cause);
    } catch (InputError e) {
      return new Best(r, 0, 1, cause.get().errorPxAfter(), cause);
    }
  }

  // ---- findings -------------------------------------------------------------------------------

  private void axes(List<Reading> turned, List<Reading> filmed, Reading best) {
    Dialect d = best.dialect();
    // Those that were tried with any film are compared with it, the others as they were read.
    Set<Dialect> tried =
        filmed.stream().map(r -> r.dialect().withFilm(base().film())).collect(Collectors.toSet());
    List<Reading> all = new ArrayList<>(filmed);
    turned.stream().filter(r -> !tried.contains(r.dialect())).forEach(all::add);
    List<Reading> same =
        all.stream()
            .filter(
                r ->
                    r.dialect().rotationOrder() == d.rotationOrder()
                        && r.dialect().angles() == d.angles())
            .toList();
    findings.compare("camera axes", camera(d), same, SenderSearch::camera);
    // The hand follows from the side on which the camera has its right.
    findings.compare("hand", d.handedness().word(), same, x -> x.handedness().word());
    findings.unless("y of the tracks is flipped");
    findings.compare("rotation", rotation(d), all, SenderSearch::rotation);
  }

  private static String camera(Dialect d) {
    return "looks along " + d.camera().view() + ", up " + d.camera().up();
  }

  private static String rotation(Dialect d) {
    return d.rotationOrder() + ", " + d.angles().word();
  }

  private Dialect film(Best best) {
    double within = Math.max(best.error, FINE_PX);
    Optional<Dialect> found =
        new FilmOfSender(readings, plateFirst(best), findings)
            .over(best.reading, best.focal, within);
    if (found.isEmpty()) {
      best.cause.map(Suspect::sentence).filter(s -> !besides.contains(s)).ifPresent(besides::add);
    }
    return found.orElse(best.reading.dialect());
  }

  /** The plate frame of the files' first. */
  private static OptionalInt plateFirst(Best b) {
    return OptionalInt.of(b.reading.shot().frames().first() + b.offset);
  }

  private int firstOfPlates() {
    return trusted
        .map(t -> t.frames().first())
        .orElseGet(() -> options.plateFirst().orElse(tracks.range().orElseThrow().first()));
  }

  private Dialect frames(Dialect d, Best best) {
    Shot s = best.reading.shot();
    int ahead = s.sourceFirstFrame() - plateFirst(best).getAsInt();
    int plate = firstOfPlates();
    boolean onlyLaid = best.reading.laid().isPresent() && best.offset == 0;
    findings.add(
        "first frame",
        ahead == 0 ? "as the plates" : Integer.toString(plate + ahead),
        best.error > SenderReport.FITS_PX ? Known.OPEN : onlyLaid ? Known.LIKELY : Known.MEASURED,
        "the files start at "
            + s.sourceFirstFrame()
            + ", which is frame "
            + plateFirst(best).getAsInt()
            + " of the plates");
    return d.withFrames(
        ahead == 0 ? FrameNumbering.PLATE : FrameNumbering.PLATE.withFirstFrame(plate + ahead));
  }

  /** Shipped dialects that differ in nothing that is known. */
  private List<String> alike(Dialect d) {
    int plate = firstOfPlates();
    return Dialects.shipped().all().stream()
        .filter(
            x ->
                (!findings.isSure("world axes") || x.world().equals(d.world()))
                    && x.handedness() == d.handedness()
                    && (!findings.isSure("unit") || x.unit().equals(d.unit()))
                    && (!findings.isSure("camera axes") || x.camera().equals(d.camera()))
                    && (!findings.isSure("rotation")
                        || x.rotationOrder() == d.rotationOrder() && x.angles() == d.angles())
                    && (!findings.isSure("film fit") || x.film().fit() == d.film().fit())
                    && (!findings.isSure("lens shift") || x.film().shift() == d.film().shift())
                    && x.frames().firstFrame().orElse(plate)
                        == d.frames().firstFrame().orElse(plate))
        .map(Dialect::name)
        .toList();
  }
}
