package flarvo.level;

import flarvo.scene.Observations;
import flarvo.scene.Pose;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.suspect.Hypotheses;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** What looks wrong about where a shot stands: upside down, under the ground, mirrored. */
public final class LevelCheck {

  /** Trackers below the ground by more than this share of the camera's height are below it. */
  private static final double UNDER = 0.1;

  /** A picture that fits this well when mirrored, and not otherwise, is mirrored. */
  private static final double FITS_PX = 8;

  private LevelCheck() {}

  /** Sentences with what is wrong and what to do; empty where nothing looks wrong. */
  public static List<String> of(LevelScene scene, Similarity level) {
    List<String> out = new ArrayList<>();
    List<Pose> poses = scene.poses().stream().map(level::apply).toList();
    if (poses.isEmpty()) {
      return out;
    }
    double up = 0;
    double lowest = Double.POSITIVE_INFINITY;
    for (Pose p : poses) {
      up += p.rotation().apply(Equations.Y).y();
      lowest = Math.min(lowest, p.position().y());
    }
    if (up < 0) {
      out.add(
          "The shot is upside down: the picture's up points into the ground."
              + " Turn it over, or apply the first guess.");
    }
    if (lowest < 0) {
      out.add(
          String.format(
              Locale.ROOT,
              "The camera goes below the ground, down to %.2f m. State that"
                  + " trackers are on the ground.",
              lowest));
    } else {
      int under = 0;
      for (Vec3 v : scene.places().values()) {
        under += level.apply(v).y() < -UNDER * Math.max(lowest, 1e-9) ? 1 : 0;
      }
      if (2 * under > scene.places().size()) {
        out.add(
            under
                + " of "
                + scene.places().size()
                + " trackers lie below the ground: it is too high, or upside down.");
      }
    }
    if (scene.isMirrored()) {
      out.add(
          "The picture fits only when it is mirrored: the solve was read with the wrong"
              + " handedness. Rule on its axes at Receive.");
    }
    return out;
  }

  /**
   * Whether points meet their tracks only when the world, the camera or the picture is mirrored.
   */
  static boolean isMirrored(LevelScene scene) {
    Shot shot = scene.shot();
    Observations o = shot.observations();
    if (o.names().stream().noneMatch(scene.places()::containsKey)) {
      return false;
    }
    double as = Hypotheses.errorPx(shot, o);
    return as > 3 * FITS_PX
        && Hypotheses.of(shot, o, Hypotheses.Question.HANDEDNESS).stream()
            .anyMatch(t -> t.errorPx() < FITS_PX);
  }
}
