package flarvo.level;

import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;

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
    if (isMirrored(scene)) {
      out.add(
          "The picture fits only when it is mirrored: the solve was read with the wrong"
              + " handedness. Rule on its axes at Receive.");
    }
    return out;
  }

  /** Whether projections meet their tracks only with left and right, or up and down, changed. */
  static boolean isMirrored(LevelScene scene) {
    Shot shot = scene.shot();
    Observations o = shot.observations();
    if (o.isEmpty() || shot.camera().isEmpty()) {
      return false;
    }
    ShotCamera c = shot.camera().get();
    Pinhole p = new Pinhole(c, shot.picture());
    double[] px = new double[3];
    double w = shot.picture().width();
    double h = shot.picture().height();
    List<double[]> errors = new ArrayList<>();
    for (Map.Entry<String, Vec3> e : scene.places().entrySet()) {
      int first = o.firstRow(e.getKey());
      if (first < 0) {
        continue;
      }
      int row = (first + o.endRow(e.getKey())) / 2;
      if (!c.frames().contains(o.frame(row))) {
        continue;
      }
      Vec3 v = e.getValue();
      p.at(o.frame(row)).project(v.x(), v.y(), v.z(), px);
      double x = px[0];
      double y = px[1];
      if (!(px[2] > 0)) {
        // Behind the camera: through the centre it would be seen turned over.
        Vec3 eye = c.poses().at(o.frame(row)).position();
        Vec3 m = eye.times(2).minus(v);
        p.project(m.x(), m.y(), m.z(), px);
        x = px[0];
        y = px[1];
      }
      if (Double.isNaN(x)) {
        continue;
      }
      errors.add(
          new double[] {
            px[2] > 0 ? Math.hypot(x - o.x(row), y - o.y(row)) : Double.POSITIVE_INFINITY,
            Math.hypot(w - x - o.x(row), y - o.y(row)),
            Math.hypot(x - o.x(row), h - y - o.y(row)),
          });
    }
    if (errors.isEmpty()) {
      return false;
    }
    return median(errors, 0) > 3 * FITS_PX
        && Math.min(median(errors, 1), median(errors, 2)) < FITS_PX;
  }

  private static double median(List<double[]> errors, int k) {
    double[] v = errors.stream().mapToDouble(e -> e[k]).toArray();
    Arrays.sort(v);
    return v[v.length / 2];
  }
}
