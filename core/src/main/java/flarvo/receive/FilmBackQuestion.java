package flarvo.receive;

import flarvo.convention.FilmBack;
import flarvo.convention.FilmFit;
import flarvo.format.FileCamera;
import flarvo.report.InputError;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** Which film back the camera's numbers are meant for. */
final class FilmBackQuestion {

  /** Film and picture differ in shape when their aspects differ by more than this share. */
  private static final double SAME_ASPECT = 0.004;

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
    List<Evidence> evidence = w.trials().of(Fact.FILM_BACK, readings);
    String proposal = readings.keySet().iterator().next();
    String reason = log.isPresent() ? "the log names the film back" : "most readers keep the width";
    if (!evidence.isEmpty()
        && evidence.get(0).medianPx() < Weighing.BETTER * Weighing.of(evidence, proposal)) {
      proposal = evidence.get(0).ruling();
      reason = "best fit to the 2D tracks";
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
