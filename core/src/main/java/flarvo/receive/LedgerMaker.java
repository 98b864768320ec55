package flarvo.receive;

import flarvo.convention.FilmBack;
import flarvo.convention.FilmFit;
import flarvo.format.FileCamera;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Weighs claims: finds what contradicts, explains it, and proposes. Where 2D tracks are at hand a
 * proposal is the reading that measures best; facts that disturb the picture most come first, and
 * each is measured with the proposals before it taken.
 */
public final class LedgerMaker {

  /** Rates that readers fall back on; a scene file that says one may only mean that. */
  private static final Set<Rate> USUAL_FALLBACKS = Set.of(Rate.FPS_24, Rate.FPS_25, Rate.FPS_30);

  /** Film and picture differ in shape when their aspects differ by more than this share. */
  private static final double SAME_ASPECT = 0.004;

  /** A reading must beat the standing one by this factor to be proposed for its evidence. */
  private static final double BETTER = 0.7;

  private static final double SAME_FOCAL = 0.005;

  private final ReceivedSet set;
  private final Rulings rulings;
  private final List<String> sources;
  private final List<Claim> claims;
  private final List<Conflict> conflicts = new ArrayList<>();
  private Rulings taken;
  private ReadingTrials trials;

  private LedgerMaker(ReceivedSet set, Rulings rulings) {
    this.set = set;
    this.rulings = rulings;
    ClaimCollector all = new ClaimCollector(set);
    this.sources = all.sources();
    this.claims = all.claims();
    this.taken = rulings;
    this.trials = new ReadingTrials(set, rulings);
  }

  public static Ledger of(ReceivedSet set, Rulings rulings) {
    return new LedgerMaker(set, rulings).make();
  }

  private Ledger make() {
    weigh();
    // Once more with all proposals taken, so that each is measured with only itself in doubt.
    Rulings all = taken;
    conflicts.clear();
    taken = all;
    trials = new ReadingTrials(set, all);
    weigh();
    conflicts.sort(java.util.Comparator.comparing(Conflict::fact));
    return new Ledger(sources, claims, conflicts, standing(), rulings);
  }

  private void weigh() {
    pictureSize();
    take();
    whichCamera();
    firstFrame();
    silentAxesAndUnit();
    filmBack();
    rate();
    focalLength();
    undistorted();
  }

  private List<Claim> about(Fact fact) {
    return claims.stream().filter(c -> c.fact() == fact).toList();
  }

  private List<Claim> said(Fact fact) {
    return about(fact).stream().filter(c -> !c.assumed()).toList();
  }

  private void conflict(
      Fact fact, String sentence, String proposal, String reason, List<Evidence> evidence) {
    boolean ruled = rulings.of(fact).isPresent();
    conflicts.add(new Conflict(fact, sentence, proposal, reason, evidence, ruled));
    if (!ruled && !proposal.isEmpty()) {
      taken = taken.with(fact, proposal);
      trials = trials.under(taken);
    }
  }

  private static String px(double v) {
    return String.format(Locale.ROOT, v < 10 ? "%.2f px" : "%.0f px", v);
  }

  /** Ends a reason with what was measured. */
  private static String measured(String reason, List<Evidence> evidence) {
    if (evidence.size() < 2) {
      return reason;
    }
    Evidence best = evidence.get(0);
    Evidence worst = evidence.get(evidence.size() - 1);
    return reason
        + "; measured: "
        + px(best.medianPx())
        + " under '"
        + best.reading()
        + "', "
        + px(worst.medianPx())
        + " under '"
        + worst.reading()
        + "'";
  }

  private void pictureSize() {
    // A proxy is smaller on purpose.
    Set<String> proxies =
        set.plates().stream()
            .filter(p -> p.role() == PlateRole.PROXY)
            .map(ClaimCollector::name)
            .collect(Collectors.toSet());
    List<Claim> said =
        said(Fact.PICTURE_SIZE).stream().filter(c -> !proxies.contains(c.source())).toList();
    Set<Object> sizes = new LinkedHashSet<>();
    said.forEach(c -> sizes.add(PictureSize.of(size(c).width(), size(c).height())));
    if (sizes.size() < 2) {
      return;
    }
    Optional<PlateSequence> plate = set.mainPlate();
    String proposal = plate.map(p -> p.size().toString()).orElse(said.get(0).text());
    Map<String, String> readings = new LinkedHashMap<>();
    sizes.forEach(s -> readings.put(s.toString(), s.toString()));
    List<Evidence> evidence = trials.of(Fact.PICTURE_SIZE, readings);
    conflict(
        Fact.PICTURE_SIZE,
        list(said),
        proposal,
        measured(
            plate.isPresent()
                ? "trackers belong to the undistorted plate, so its size counts"
                : "the first file counts until the plates are here",
            evidence),
        evidence);
  }

  private static PictureSize size(Claim c) {
    return (PictureSize) c.value();
  }

  /** "a says x; b says y", each with its place. */
  private static String list(List<Claim> claims) {
    return claims.stream()
        .map(c -> c.source() + " says " + c.text() + " (" + c.place() + ")")
        .distinct()
        .collect(Collectors.joining("; "));
  }

  /** The camera that the shot has, under what is taken so far. */
  private Optional<FileCamera> camera() {
    IntakeOptions options = taken.over(set.base());
    return cameras()
        .filter(c -> options.camera().map(n -> n.equals(c.camera().name())).orElse(true))
        .findFirst();
  }

  private Stream<FileCamera> cameras() {
    return set.files(taken.over(set.base())).stream().flatMap(f -> f.scene().cameras().stream());
  }

  private void take() {
    Optional<ReceivedFile> several =
        set.files().stream().filter(f -> f.takes().size() > 1).findFirst();
    if (several.isEmpty()) {
      return;
    }
    Map<String, String> readings = new LinkedHashMap<>();
    several.get().takes().keySet().forEach(t -> readings.put(t, t));
    choice(
        Fact.TAKE,
        ClaimCollector.name(several.get()) + " holds " + readings.size() + " takes",
        readings,
        "it is the file's first");
  }

  private void whichCamera() {
    List<FileCamera> all = cameras().toList();
    if (all.size() < 2) {
      return;
    }
    // Views that a program makes by itself stand still; the shot's camera has most keys.
    FileCamera most = all.get(0);
    for (FileCamera c : all) {
      most = c.keys() > most.keys() ? c : most;
    }
    Map<String, String> readings = new LinkedHashMap<>();
    readings.put(most.camera().name(), most.camera().name());
    all.forEach(c -> readings.putIfAbsent(c.camera().name(), c.camera().name()));
    choice(
        Fact.CAMERA,
        "the files hold " + all.size() + " cameras",
        readings,
        "it has the most keys (" + most.keys() + ")");
  }

  /** One of several: the first reading, unless another fits the tracks clearly better. */
  private void choice(Fact fact, String sentence, Map<String, String> readings, String why) {
    List<Evidence> evidence = trials.of(fact, readings);
    String proposal = readings.keySet().iterator().next();
    String reason = why;
    if (!evidence.isEmpty() && evidence.get(0).medianPx() < BETTER * of(evidence, proposal)) {
      proposal = evidence.get(0).ruling();
      reason = "the 2D tracks fit it best";
    }
    conflict(fact, sentence, proposal, measured(reason, evidence), evidence);
  }

  private void firstFrame() {
    Optional<FrameRange> keyed = camera().map(c -> c.camera().frames());
    Optional<FrameRange> plates = set.mainPlate().map(PlateSequence::frames);
    Optional<FrameRange> target =
        plates.or(
            () ->
                set.logs().stream().map(LedgerMaker::range).flatMap(Optional::stream).findFirst());
    if (keyed.isEmpty() || target.isEmpty() || keyed.get().equals(target.get())) {
      return;
    }
    FrameRange k = keyed.get();
    FrameRange t = target.get();
    String whose = plates.isPresent() ? "the plates are " : "the log says ";
    int offset = t.first() - k.first();
    String sentence =
        "the camera has "
            + k.count()
            + " frames at "
            + k.first()
            + "–"
            + k.last()
            + ", "
            + whose
            + t.first()
            + "–"
            + t.last();
    Map<String, String> readings = new LinkedHashMap<>();
    readings.put(Integer.toString(t.first()), "first frame on " + t.first());
    readings.put(Integer.toString(k.first()), "as the camera counts");
    readings.put(Integer.toString(t.first() + 1), "one later");
    readings.put(Integer.toString(t.first() - 1), "one earlier");
    List<Evidence> evidence = trials.of(Fact.FIRST_FRAME, readings);
    String proposal = Integer.toString(t.first());
    String reason =
        k.count() == t.count()
            ? "equally many frames, so an offset of " + signed(offset)
            : k.count() > t.count()
                ? "the camera's range is longer than the shot, as a range that a program sets by"
                    + " itself; its first key on the first plate"
                : "the camera is shorter than the plates; its first key on the first plate";
    if (!evidence.isEmpty() && evidence.get(0).medianPx() < BETTER * of(evidence, proposal)) {
      proposal = evidence.get(0).ruling();
      reason = "the 2D tracks fit best there";
    }
    conflict(Fact.FIRST_FRAME, sentence, proposal, measured(reason, evidence), evidence);
  }

  private static Optional<FrameRange> range(ShotLog log) {
    Integer first = null;
    Integer last = null;
    for (Claim c : log.claims()) {
      first = c.fact() == Fact.FIRST_FRAME && first == null ? (Integer) c.value() : first;
      last = c.fact() == Fact.LAST_FRAME && last == null ? (Integer) c.value() : last;
    }
    return first == null || last == null
        ? Optional.empty()
        : Optional.of(new FrameRange(first, last));
  }

  private static String signed(int i) {
    return (i >= 0 ? "+" : "") + i;
  }

  private static double of(List<Evidence> evidence, String ruling) {
    return evidence.stream()
        .filter(e -> e.ruling().equals(ruling))
        .mapToDouble(Evidence::medianPx)
        .findFirst()
        .orElse(Double.MAX_VALUE);
  }

  /** Points from a file that says neither axis nor unit, beside a camera from another. */
  private void silentAxesAndUnit() {
    List<ReceivedFile> silent =
        set.files().stream()
            .filter(f -> f.isSilentOnAxes() || f.isSilentOnUnit())
            .filter(f -> !f.scene().cameras().isEmpty() || !f.scene().trackers().isEmpty())
            .toList();
    if (silent.isEmpty()) {
      return;
    }
    Optional<Claim> loggedUp = logged(Fact.UP_AXIS);
    Optional<Claim> loggedUnit = logged(Fact.UNIT);
    String bestUp = loggedUp.map(Claim::text).orElse("+Y");
    String bestUnit = loggedUnit.map(Claim::text).orElse("m");
    Map<Fact, List<Evidence>> evidence = new EnumMap<>(Fact.class);
    double best =
        trials.under(taken.with(Fact.UP_AXIS, bestUp).with(Fact.UNIT, bestUnit)).medianPx();
    for (String up : new String[] {"+Y", "+Z"}) {
      for (String unit : new String[] {"m", "cm", "mm", "inch", "foot"}) {
        double px = trials.under(taken.with(Fact.UP_AXIS, up).with(Fact.UNIT, unit)).medianPx();
        // Equally good is no reason: a camera that only turns fits in any unit.
        if (px < BETTER * best || Double.isNaN(best) && !Double.isNaN(px)) {
          best = px;
          bestUp = up;
          bestUnit = unit;
        }
      }
    }
    evidence.put(
        Fact.UP_AXIS,
        trials
            .under(taken.with(Fact.UNIT, bestUnit))
            .of(Fact.UP_AXIS, Map.of("+Y", "+Y up", "+Z", "+Z up")));
    Map<String, String> units = new LinkedHashMap<>();
    for (String u : new String[] {"m", "cm", "mm", "inch", "foot"}) {
      units.put(u, u);
    }
    evidence.put(Fact.UNIT, trials.under(taken.with(Fact.UP_AXIS, bestUp)).of(Fact.UNIT, units));
    silence(
        Fact.UP_AXIS,
        silent.stream().filter(ReceivedFile::isSilentOnAxes).toList(),
        " does not say which axis is up",
        bestUp,
        evidence.get(Fact.UP_AXIS));
    silence(
        Fact.UNIT,
        silent.stream().filter(ReceivedFile::isSilentOnUnit).toList(),
        " does not say its unit",
        bestUnit,
        evidence.get(Fact.UNIT));
  }

  private void silence(
      Fact fact, List<ReceivedFile> silent, String what, String best, List<Evidence> evidence) {
    if (!silent.isEmpty()) {
      String names = silent.stream().map(ClaimCollector::name).collect(Collectors.joining(", "));
      conflict(
          fact, names + what, best, measured(reason(evidence, logged(fact)), evidence), evidence);
    }
  }

  /** Why a silent fact is proposed so: measured, or told, or the custom. */
  private static String reason(List<Evidence> evidence, Optional<Claim> log) {
    String otherwise =
        log.map(c -> "the log says so (" + c.place() + ")").orElse("it is the usual one");
    if (evidence.size() < 2) {
      return otherwise;
    }
    double best = evidence.get(0).medianPx();
    double next = evidence.get(1).medianPx();
    return best < BETTER * next
        ? "the 2D tracks fit best so"
        : otherwise + "; the 2D tracks fit equally well otherwise";
  }

  private Optional<Claim> logged(Fact fact) {
    Set<String> logs =
        set.logs().stream().map(l -> l.path().getFileName().toString()).collect(Collectors.toSet());
    return about(fact).stream().filter(c -> logs.contains(c.source())).findFirst();
  }

  private void filmBack() {
    Optional<FileCamera> camera = camera();
    if (camera.isEmpty()) {
      return;
    }
    if (camera.get().verticalAngleOnly()) {
      angleWithoutBack(camera.get());
      return;
    }
    PictureSize picture;
    try {
      picture = set.picture(taken.over(set.base()));
    } catch (InputError e) {
      return; // without a picture there is no shape to compare with
    }
    Optics o = camera.get().camera().optics().at(camera.get().camera().frames().first());
    FilmBack own = new FilmBack(o.filmWidthMm(), o.filmHeightMm());
    double aspect = own.widthMm() / own.heightMm();
    boolean fits = Math.abs(aspect / picture.aspect() - 1) <= SAME_ASPECT;
    Optional<Claim> log = logged(Fact.FILM_BACK);
    boolean other =
        log.isPresent()
            && Math.abs(((FilmBack) log.get().value()).widthMm() / own.widthMm() - 1) > 0.002;
    boolean stated = camera.get().filmBackStated();
    if (fits && !other && stated) {
      return;
    }
    FilmBack byWidth = FilmFit.WIDTH.covered(own, picture.aspect());
    FilmBack byHeight = FilmFit.HEIGHT.covered(own, picture.aspect());
    Map<String, String> readings = new LinkedHashMap<>();
    log.ifPresent(
        c -> readings.put(FilmBacks.exact((FilmBack) c.value()), c.text() + ", as the log says"));
    readings.putIfAbsent(
        FilmBacks.exact(byWidth), FilmBacks.words(byWidth) + (fits ? "" : ", width kept"));
    if (!fits) {
      readings.putIfAbsent(FilmBacks.exact(byHeight), FilmBacks.words(byHeight) + ", height kept");
    }
    List<Evidence> evidence = trials.of(Fact.FILM_BACK, readings);
    String proposal = readings.keySet().iterator().next();
    String reason = log.isPresent() ? "the log names the film back" : "most readers keep the width";
    if (!evidence.isEmpty() && evidence.get(0).medianPx() < BETTER * of(evidence, proposal)) {
      proposal = evidence.get(0).ruling();
      reason = "the 2D tracks fit best so";
    }
    String sentence;
    if (!stated) {
      sentence =
          "the camera states no film back; " + FilmBacks.words(own) + " is the format's fallback";
    } else if (other) {
      sentence =
          "the camera says "
              + FilmBacks.words(own)
              + ", the log says "
              + log.get().text()
              + " ("
              + log.get().place()
              + ")";
    } else {
      sentence =
          String.format(
              Locale.ROOT,
              "film back %s has the shape %.3f, the picture %s has %.3f: it fits %s view, not the"
                  + " other",
              FilmBacks.words(own),
              aspect,
              picture,
              picture.aspect(),
              proposal.equals(FilmBacks.exact(byHeight)) ? "the vertical" : "the horizontal");
    }
    conflict(Fact.FILM_BACK, sentence, proposal, measured(reason, evidence), evidence);
  }

  /** An angle needs no film back to be seen through; a focal length in millimetres does. */
  private void angleWithoutBack(FileCamera camera) {
    Optional<Claim> log = logged(Fact.FILM_BACK);
    if (log.isEmpty()) {
      return;
    }
    FilmBack back = (FilmBack) log.get().value();
    Optics o = camera.camera().optics().at(camera.camera().frames().first());
    conflict(
        Fact.FILM_BACK,
        "the camera states an angle of view and no film back",
        FilmBacks.exact(back),
        String.format(
            Locale.ROOT,
            "the log names the film back (%s); the same angle is then a focal length of %.2f mm",
            log.get().place(),
            o.focalLengthMm() * back.heightMm() / o.filmHeightMm()),
        List.of());
  }

  private void rate() {
    List<Claim> all = about(Fact.RATE);
    Set<Object> values = new LinkedHashSet<>();
    all.forEach(c -> values.add(c.value()));
    if (all.isEmpty() || (values.size() == 1 && !said(Fact.RATE).isEmpty())) {
      return;
    }
    Claim best = all.get(0);
    for (Claim c : all) {
      best = weight(c) > weight(best) ? c : best;
    }
    if (values.size() == 1) {
      conflict(
          Fact.RATE,
          "no file says a rate",
          best.text(),
          best.text() + " is " + best.place() + "; ask the sender",
          List.of());
      return;
    }
    Claim chosen = best;
    List<Claim> against = all.stream().filter(c -> !c.value().equals(chosen.value())).toList();
    boolean fallback = against.stream().allMatch(c -> c.assumed() || isFallback(c));
    String reason =
        (fallback ? against.get(0).text() + " is what a reader assumes when nobody tells it; " : "")
            + best.source()
            + " says "
            + best.text()
            + " ("
            + best.place()
            + ")";
    conflict(Fact.RATE, list(all), ((Rate) best.value()).toString(), reason, List.of());
  }

  private boolean isFallback(Claim c) {
    return USUAL_FALLBACKS.contains(c.value()) && logged(Fact.RATE).filter(c::equals).isEmpty();
  }

  /** How much a claim of a rate is worth. */
  private int weight(Claim c) {
    if (c.assumed()) {
      return 0;
    }
    if (logged(Fact.RATE).filter(c::equals).isPresent()) {
      return 3;
    }
    return USUAL_FALLBACKS.contains(c.value()) ? 1 : 2;
  }

  private void focalLength() {
    Optional<Claim> log = logged(Fact.FOCAL_LENGTH);
    Optional<FileCamera> camera = camera();
    if (log.isEmpty() || camera.isEmpty() || camera.get().verticalAngleOnly()) {
      return;
    }
    double[] range = camera.get().camera().optics().focalLengthRangeMm();
    double logged = (Double) log.get().value();
    if (logged < range[0] * (1 - SAME_FOCAL) || logged > range[1] * (1 + SAME_FOCAL)) {
      conflict(
          Fact.FOCAL_LENGTH,
          String.format(
              Locale.ROOT,
              "the camera says %.3f mm, the log says %s (%s)",
              range[0],
              log.get().text(),
              log.get().place()),
          "",
          "a lens seldom is what is engraved on it; the solve's number stays",
          List.of());
    }
  }

  private void undistorted() {
    boolean none = set.plates().stream().noneMatch(p -> p.role() == PlateRole.UNDISTORTED);
    if (!set.plates().isEmpty() && none && !set.lenses().isEmpty()) {
      conflict(
          Fact.UNDISTORTED,
          "there is a lens with distortion, but no plate that is undistorted",
          "",
          "trackers belong to the undistorted picture; bring that sequence or make it at Plate",
          List.of());
    }
  }

  private Map<Fact, String> standing() {
    Map<Fact, String> out = new EnumMap<>(Fact.class);
    Shot shot;
    try {
      shot = set.shot("", rulings);
    } catch (InputError e) {
      return out;
    }
    shot.camera().ifPresent(c -> out.put(Fact.CAMERA, c.name()));
    rulings.of(Fact.TAKE).ifPresent(t -> out.put(Fact.TAKE, t));
    out.put(Fact.RATE, shot.rate().toString());
    out.put(Fact.FIRST_FRAME, Integer.toString(shot.frames().first()));
    out.put(Fact.LAST_FRAME, Integer.toString(shot.frames().last()));
    out.put(Fact.FRAME_COUNT, Integer.toString(shot.frames().count()));
    out.put(Fact.PICTURE_SIZE, shot.picture().toString());
    out.put(Fact.PIXEL_ASPECT, Double.toString(shot.picture().pixelAspect()).replace(".0", ""));
    shot.camera()
        .ifPresent(
            c -> {
              Optics o = c.optics().at(c.frames().first());
              out.put(
                  Fact.FILM_BACK, FilmBacks.words(new FilmBack(o.filmWidthMm(), o.filmHeightMm())));
              out.put(Fact.FOCAL_LENGTH, String.format(Locale.ROOT, "%.3f mm", o.focalLengthMm()));
            });
    return out;
  }
}
