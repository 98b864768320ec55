package flarvo.receive;

import flarvo.convention.FilmBack;
import flarvo.convention.FilmFit;
import flarvo.format.FileCamera;
import flarvo.report.InputError;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.suspect.Hypotheses;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** Which film back the camera's numbers are meant for. */
final class FilmBackQuestion {

  /** Film and picture differ in shape when their aspects differ by more than this share. */
  private static final double SAME_ASPECT = 0.004;

  /** A film back that goes with the focal length as it is. */
  private static final ReadingTrials.Open FITTED =
      new ReadingTrials.Open() {
        @Override
        public Hypotheses.Question question() {
          return Hypotheses.Question.FILM;
        }

        @Override
        public Optional<String> ruling(String stands, Hypotheses.Tried change) {
          FilmBack back = FilmBacks.parse(stands);
          return factor(change)
              .map(f -> new FilmBack(rounded(f * back.widthMm()), rounded(f * back.heightMm())))
              .map(FilmBacks::exact);
        }

        @Override
        public String words(String ruling) {
          return FilmBacks.words(FilmBacks.parse(ruling)) + ", as measured";
        }
      };

  private final Weighing w;

  FilmBackQuestion(Weighing w) {
    this.w = w;
  }

  void filmBack() {
    Optional<FileCamera> camera = w.camera();
    if (camera.isEmpty()) {
      return;
    }
    if (camera.get().verticalAngleOnly()) {
      angleWithoutBack(camera.get());
      return;
    }
    PictureSize picture;
    try {
      picture = w.set().picture(w.taken().over(w.set().base()));
    } catch (InputError e) {
      return; // without a picture there is no shape to compare with
    }
    Optics o = camera.get().camera().optics().at(camera.get().camera().frames().first());
    FilmBack own = new FilmBack(o.filmWidthMm(), o.filmHeightMm());
    double aspect = own.widthMm() / own.heightMm();
    boolean fits = Math.abs(aspect / picture.aspect() - 1) <= SAME_ASPECT;
    Optional<Claim<FilmBack>> log = w.logged(Fact.FILM_BACK);
    boolean other =
        log.isPresent()
            && Math.abs(log.get().value().orElseThrow().widthMm() / own.widthMm() - 1) > 0.002;
    boolean stated = camera.get().filmBackStated();
    if (fits && !other && stated) {
      fitsNot(own);
      return;
    }
    FilmBack byWidth = FilmFit.WIDTH.covered(own, picture.aspect());
    FilmBack byHeight = FilmFit.HEIGHT.covered(own, picture.aspect());
    Map<String, String> readings = new LinkedHashMap<>();
    log.ifPresent(
        c -> readings.put(FilmBacks.exact(c.value().orElseThrow()), c.text() + ", as in the log"));
    readings.putIfAbsent(
        FilmBacks.exact(byWidth), FilmBacks.words(byWidth) + (fits ? "" : ", width kept"));
    if (!fits) {
      readings.putIfAbsent(FilmBacks.exact(byHeight), FilmBacks.words(byHeight) + ", height kept");
    }
    List<Evidence> evidence = w.trials().of(Fact.FILM_BACK, readings, FITTED);
    String proposal = readings.keySet().iterator().next();
    String reason = log.isPresent() ? "the log names the film back" : "most readers keep the width";
    if (!evidence.isEmpty()
        && evidence.get(0).errorPx() < Weighing.BETTER * Weighing.of(evidence, proposal)) {
      proposal = evidence.get(0).ruling();
      reason = "best fit to " + w.measuredOn();
    }
    String sentence;
    if (!stated) {
      sentence =
          "the camera states no film back; " + FilmBacks.words(own) + " is the format's fallback";
    } else if (other) {
      sentence =
          "the camera states "
              + FilmBacks.words(own)
              + ", the log states "
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
    w.conflict(Fact.FILM_BACK, sentence, proposal, Weighing.measured(reason, evidence), evidence);
  }

  /** Nothing that is stated contradicts; the 2D tracks may. */
  private void fitsNot(FilmBack own) {
    Optional<String> named = w.trials().named(Fact.FILM_BACK, FilmBacks.exact(own), FITTED);
    if (named.isEmpty()) {
      return;
    }
    String proposal = named.get();
    Map<String, String> readings = new LinkedHashMap<>();
    readings.put(proposal, FITTED.words(proposal));
    readings.put(FilmBacks.exact(own), FilmBacks.words(own) + ", as the camera states");
    List<Evidence> evidence = w.trials().of(Fact.FILM_BACK, readings);
    w.conflict(
        Fact.FILM_BACK,
        "the camera states "
            + FilmBacks.words(own)
            + ", which does not match its focal length: "
            + w.measuredOn()
            + " fit "
            + FilmBacks.words(FilmBacks.parse(proposal)),
        proposal,
        Weighing.measured("best fit to " + w.measuredOn(), evidence),
        evidence);
  }

  /** By how much a change makes the film back wider and higher; empty for one that does not. */
  private static Optional<Double> factor(Hypotheses.Tried t) {
    return switch (t.cause()) {
      case "focal-length" -> Optional.of(1 / Double.parseDouble(t.value()));
      case "film-back" ->
          t.value().contains(" ") ? Optional.empty() : Optional.of(Double.valueOf(t.value()));
      default -> Optional.empty();
    };
  }

  /** Nobody measures a film back to less than a thousandth of a millimetre. */
  private static double rounded(double mm) {
    return Math.rint(1000 * mm) / 1000;
  }

  /** An angle needs no film back to be seen through; a focal length in millimetres does. */
  private void angleWithoutBack(FileCamera camera) {
    Optional<Claim<FilmBack>> log = w.logged(Fact.FILM_BACK);
    if (log.isEmpty()) {
      return;
    }
    FilmBack back = log.get().value().orElseThrow();
    Optics o = camera.camera().optics().at(camera.camera().frames().first());
    w.conflict(
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
}
