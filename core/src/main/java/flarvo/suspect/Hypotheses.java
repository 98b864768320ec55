package flarvo.suspect;

import flarvo.scene.Observations;
import flarvo.scene.Shot;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * The search's own changes and its own error, for a question that is asked beforehand: what the
 * ledger proposes, what a table's pixels mean and whether a solve is mirrored are measured like a
 * suspect.
 */
public final class Hypotheses {

  private static final int FRAMES = 32;
  private static final int EACH = 30;

  private Hypotheses() {}

  /** What may be asked. */
  public enum Question {
    /** Frames that are counted otherwise. */
    FRAMES(new TimeFamilies.Shift()),
    /** A world, a camera or a picture that is mirrored. */
    HANDEDNESS(new AxesFamilies.Hand(), new LensFamilies.FlipY()),
    /** Focal length, film back or lens shift. */
    FILM(new LensFamilies.Focal(), new LensFamilies.Back(), new LensFamilies.Offset());

    private final List<Family> families;

    Question(Family... families) {
      this.families = List.of(families);
    }

    private List<Family> families(boolean cameraAlone) {
      return cameraAlone && this == FILM ? List.of(new FocalOfCameraAlone()) : families;
    }
  }

  /**
   * A change, and what it leaves.
   *
   * @param cause code, as in a report on suspects
   * @param value of it, such as {@code -1}
   * @param errorPx as of {@link #errorPx}
   */
  public record Tried(String cause, String value, double errorPx) {}

  /**
   * Mean over the frames of the median distance in pixels between where points are seen and where
   * they were observed, on a sample. Where no point is called like a track, the camera alone is
   * measured, on points triangulated from the tracks.
   *
   * @param shot its first camera, with points that stand still or else of one group that moves
   * @param tracks in the frames and pixels of the plates
   * @return NaN where there is no camera or nothing to measure on
   */
  public static double errorPx(Shot shot, Observations tracks) {
    if (shot.camera().isEmpty()) {
      return Double.NaN;
    }
    Subject s = Subject.any(shot, tracks);
    Evidence e = s.evidence(FRAMES, EACH);
    return e.size() == 0 ? Double.NaN : s.error(s.base, e);
  }

  /**
   * Every change that answers a question, the one that leaves least first.
   *
   * @param shot as for {@link #errorPx}
   * @return empty where there is no camera or nothing to measure on
   */
  public static List<Tried> of(Shot shot, Observations tracks, Question question) {
    List<Tried> out = new ArrayList<>();
    if (shot.camera().isEmpty()) {
      return out;
    }
    Subject s = Subject.any(shot, tracks);
    Evidence e = s.evidence(FRAMES, EACH);
    if (e.size() == 0) {
      return out;
    }
    TriedScene on = s.placed(s.base, e);
    for (Family f : question.families(s.cameraAlone)) {
      for (Change c : f.on(on, e, MixUps.BENCH.get())) {
        out.add(new Tried(c.cause(), c.value(), s.error(c.scene(), e)));
      }
    }
    out.sort(Comparator.comparingDouble(Tried::errorPx));
    return out;
  }

  /** The error with the focal length, the film back or the lens shift that fits best. */
  public static double withAnyFilm(Shot shot, Observations tracks) {
    double as = errorPx(shot, tracks);
    return of(shot, tracks, Question.FILM).stream()
        .mapToDouble(Tried::errorPx)
        .reduce(as, Math::min);
  }
}
