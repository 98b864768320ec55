package flarvo.dispatch;

import flarvo.convention.Dialect;
import flarvo.convention.FrameMap;
import flarvo.convention.LensShift;
import flarvo.format.SceneFormat;
import flarvo.report.Note;
import flarvo.scene.Optics;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What of this very shot a format and a recipient lose or take otherwise. */
public final class Losses {

  private Losses() {}

  /** What of a shot a format and a dialect cannot carry. */
  public static List<Note> of(Shot shot, SceneFormat format, Dialect to) {
    List<Note> notes = new ArrayList<>(format.nearestSupported(to).notes());
    Optional<ShotCamera> camera = shot.camera();
    Dialect spoken = format.nearestSupported(to).spoken();
    if (camera.isPresent()
        && spoken.film().shift() == LensShift.IGNORED
        && isShifted(camera.get())) {
      notes.add(
          Note.lost(
              "lens shift",
              (to.film().shift() == LensShift.IGNORED ? to.name() : format.title())
                  + " does not understand a principal point off the centre"));
    }
    if (!shot.observations().isEmpty()) {
      notes.add(Note.lost("2D tracks", format.title() + " files contain no 2D tracks"));
    }
    if (!shot.meshes().isEmpty() && format.cannotCarry().contains("meshes")) {
      notes.add(Note.lost("geometry", format.title() + " files contain no meshes"));
    }
    FrameMap map = to.frames().mapFor(shot.frames(), shot.rate());
    if (!map.recipientRate().equals(shot.rate())) {
      notes.add(
          map.isOffset()
              ? Note.changed(
                  "rate",
                  "frames are kept, so the shot lasts longer or shorter at "
                      + map.recipientRate().display())
              : Note.changed(
                  "rate", "seconds are kept, so the camera is resampled between frames"));
    }
    if (shot.cameras().size() > 1) {
      notes.add(Note.lost("cameras", "only the first of " + shot.cameras().size() + " is sent"));
    }
    return notes;
  }

  private static boolean isShifted(ShotCamera c) {
    for (int f = c.frames().first(); f <= c.frames().last(); f++) {
      Optics o = c.optics().at(f);
      if (o.principalXMm() != 0 || o.principalYMm() != 0) {
        return true;
      }
    }
    return false;
  }
}
