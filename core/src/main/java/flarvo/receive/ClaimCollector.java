package flarvo.receive;

import flarvo.convention.FilmBack;
import flarvo.format.FileCamera;
import flarvo.format.FileScene;
import flarvo.format.Sourced;
import flarvo.lens.LensSheet;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateFacts;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/** What each source says, fact by fact. */
final class ClaimCollector {

  private static final String DATA = "from the data";

  private final List<String> sources = new ArrayList<>();
  private final List<Claim<?>> claims = new ArrayList<>();

  ClaimCollector(ReceivedSet set) {
    for (ReceivedFile f : set.files()) {
      sources.add(name(f));
      scene(f);
    }
    for (PlateSequence p : set.plates()) {
      sources.add(name(p));
      plates(p);
    }
    for (LensSheet l : set.lenses()) {
      sources.add(l.path().getFileName().toString());
      claims.addAll(lensClaims(l));
    }
    for (ShotLog l : set.logs()) {
      sources.add(l.path().getFileName().toString());
      claims.addAll(l.claims());
    }
  }

  /** Who says most comes first. */
  List<String> sources() {
    List<String> sorted = new ArrayList<>(sources);
    sorted.sort(
        Comparator.comparingLong(
            s -> -claims.stream().filter(c -> c.source().equals(s) && !c.assumed()).count()));
    return sorted;
  }

  List<Claim<?>> claims() {
    return claims;
  }

  static String name(ReceivedFile f) {
    return f.path().getFileName().toString();
  }

  /** With its folder: sequences of one shot are often called alike. */
  static String name(PlateSequence p) {
    return p.folder().getFileName() + "/" + p.pattern();
  }

  private void scene(ReceivedFile f) {
    FileScene s = f.scene();
    String source = name(f);
    s.rate().ifPresent(r -> add(Fact.RATE, source, r, r.value().toString()));
    s.picture()
        .ifPresent(
            p -> {
              add(Fact.PICTURE_SIZE, source, p, p.value().toString());
              double a = p.value().pixelAspect();
              add(
                  Fact.PIXEL_ASPECT,
                  source,
                  new Sourced<>(
                      a, p.assumed() || a == 1, a == 1 ? "square unless told" : p.place()),
                  number(a));
            });
    s.up().ifPresent(u -> add(Fact.UP_AXIS, source, u, u.value().toString()));
    s.handedness().ifPresent(h -> add(Fact.HANDEDNESS, source, h, h.value().word()));
    s.unit().ifPresent(u -> add(Fact.UNIT, source, u, u.value().toString()));
    if (!s.cameras().isEmpty() || !s.trackers().isEmpty()) {
      silent(Fact.UP_AXIS, source, f.isSilentOnAxes());
      silent(Fact.UNIT, source, f.isSilentOnUnit());
    }
    if (s.cameras().isEmpty()) {
      s.range().ifPresent(r -> range(source, r.value(), r.place(), r.assumed()));
    }
    if (!s.takes().isEmpty()) {
      claims.add(
          Claim.said(Fact.TAKE, source, s.takes(), String.join(", ", s.takes()), "its stacks"));
    }
    if (!s.cameras().isEmpty()) {
      List<String> names = s.cameras().stream().map(c -> c.camera().name()).toList();
      claims.add(Claim.said(Fact.CAMERA, source, names, String.join(", ", names), "its cameras"));
    }
    for (FileCamera c : s.cameras()) {
      camera(source, c, s.trackers());
    }
    s.range()
        .filter(r -> !r.assumed() && !s.cameras().isEmpty())
        .filter(r -> !r.value().equals(s.cameras().get(0).camera().frames()))
        .ifPresent(r -> range(source, r.value(), r.place(), false));
    s.plate()
        .ifPresent(
            p ->
                claims.add(
                    Claim.said(
                        Fact.UNDISTORTED,
                        source,
                        p.role() == PlateRole.UNDISTORTED,
                        p.role().word(),
                        p.path())));
  }

  private <T> void silent(Fact<T> fact, String source, boolean isSilent) {
    if (isSilent) {
      claims.add(Claim.silent(fact, source));
    }
  }

  private void camera(String source, FileCamera c, List<TrackerSet> trackers) {
    ShotCamera camera = c.camera();
    String place = "camera " + camera.name();
    range(source, camera.frames(), place + ", " + c.keys() + " keys", false);
    Optics o = camera.optics().at(camera.frames().first());
    if (!c.verticalAngleOnly()) {
      FilmBack back = new FilmBack(o.filmWidthMm(), o.filmHeightMm());
      claims.add(
          new Claim<>(
              Fact.FILM_BACK,
              source,
              back,
              FilmBacks.words(back),
              !c.filmBackStated(),
              c.filmBackStated() ? place : "the format's fallback"));
    }
    if (c.verticalAngleOnly()) {
      double angle = 2 * Math.toDegrees(Math.atan(o.filmHeightMm() / 2 / o.focalLengthMm()));
      claims.add(
          Claim.said(
              Fact.FOCAL_LENGTH,
              source,
              new FocalClaim.VerticalDegrees(angle),
              number(angle) + "° high",
              place));
      move(source, c, trackers);
      return;
    }
    double[] focal = camera.optics().focalLengthRangeMm();
    boolean changing = focal[1] - focal[0] > 1e-6 * focal[0];
    claims.add(
        new Claim<>(
            Fact.FOCAL_LENGTH,
            source,
            new FocalClaim.Millimetres(focal[0], changing ? focal[1] : focal[0]),
            changing
                ? number(focal[0]) + "–" + number(focal[1]) + " mm, changing"
                : number(focal[0]) + " mm",
            !c.focalLengthStated(),
            c.focalLengthStated() ? place : "the format's fallback"));
    move(source, c, trackers);
  }

  private void move(String source, FileCamera c, List<TrackerSet> trackers) {
    String place = "camera " + c.camera().name();
    boolean tripod = c.camera().isNodal(trackers);
    claims.add(
        Claim.said(Fact.MOVE, source, tripod, tripod ? "tripod" : "free", DATA + ": " + place));
  }

  private void plates(PlateSequence p) {
    String source = name(p);
    String place = p.missing().isEmpty() ? "file names" : p.missing().size() + " frames missing";
    range(source, p.frames(), place, false);
    PictureSize size = p.picture();
    String words = size + (p.inner().isEmpty() ? "" : ", with overscan " + p.size());
    claims.add(
        Claim.said(
            Fact.PICTURE_SIZE,
            source,
            PictureSize.of(size.width(), size.height()),
            words,
            "header"));
    if (size.pixelAspect() != 1) {
      claims.add(
          Claim.said(
              Fact.PIXEL_ASPECT, source, size.pixelAspect(), number(size.pixelAspect()), "header"));
    }
    PlateFacts facts = p.facts();
    String first = "header of the first picture";
    if (facts.bits() > 0) {
      claims.add(Claim.said(Fact.BIT_DEPTH, source, facts.depth(), facts.depth(), first));
      claims.add(
          Claim.said(Fact.ALPHA, source, facts.alpha(), facts.alpha() ? "yes" : "no", first));
    }
    facts.rate().ifPresent(r -> claims.add(Claim.said(Fact.RATE, source, r, r.toString(), first)));
    facts.timecode().ifPresent(t -> claims.add(Claim.said(Fact.TIMECODE, source, t, t, first)));
    claims.add(
        new Claim<>(
            Fact.UNDISTORTED,
            source,
            p.role() == PlateRole.UNDISTORTED,
            p.role().word(),
            true,
            "from its name"));
  }

  private void range(String source, FrameRange r, String place, boolean assumed) {
    claims.add(
        new Claim<>(
            Fact.FIRST_FRAME, source, r.first(), Integer.toString(r.first()), assumed, place));
    claims.add(
        new Claim<>(Fact.LAST_FRAME, source, r.last(), Integer.toString(r.last()), assumed, place));
    claims.add(
        new Claim<>(
            Fact.FRAME_COUNT, source, r.count(), Integer.toString(r.count()), assumed, place));
  }

  private <T> void add(Fact<T> fact, String source, Sourced<T> said, String text) {
    claims.add(new Claim<>(fact, source, said.value(), text, said.assumed(), said.place()));
  }

  private static String number(double v) {
    return String.format(Locale.ROOT, "%.3f", v).replaceAll("\\.?0+$", "");
  }

  private static List<Claim<?>> lensClaims(LensSheet l) {
    String words =
        l.coefficients().entrySet().stream()
            .map(e -> e.getKey() + " " + String.format(Locale.ROOT, "%.4g", e.getValue()))
            .collect(Collectors.joining(", "));
    return List.of(
        Claim.said(
            Fact.LENS,
            l.path().getFileName().toString(),
            l.coefficients(),
            words,
            "model " + l.model()));
  }
}
