package flarvo.stage;

import flarvo.level.LevelScene;
import flarvo.level.Spread;
import flarvo.scene.Pinhole;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * How far something would slide in the picture if it stood wrongly. At one frame it is laid where
 * it looks right, along the ray that it is seen on, too high or too far by an error; over the shot
 * the camera's own move shows the rest. A camera that only turns shows nothing, whatever the error.
 *
 * @param frame at which it looks right
 * @param errors in metres
 * @param byHeight pixels that it slides at most, one for each error of its height
 * @param byDepth the same for its distance from the camera
 * @param seen frames that show it
 * @param vouchers trackers near it that say how high it stands, the nearest first
 */
public record SlideReading(
    int frame,
    double[] errors,
    double[] byHeight,
    double[] byDepth,
    int seen,
    List<Voucher> vouchers) {

  /** Errors that are looked at, in metres. */
  private static final double[] ERRORS = {0.01, 0.05, 0.10};

  /** A ray that falls less than this is along the ground: a height says nothing of a depth. */
  private static final double LEVEL_RAY = 0.02;

  private static final int MOST_VOUCHERS = 4;

  /**
   * A tracker beside it.
   *
   * @param away on the ground, metres
   * @param higher than its foot, metres
   * @param error of that height; empty without 2D tracks
   */
  public record Voucher(String tracker, double away, double higher, OptionalDouble error) {
    @Override
    public String toString() {
      return String.format(
          Locale.ROOT,
          "%s, %.2f m away: %+.3f m%s",
          tracker,
          away,
          higher,
          error.isPresent() ? String.format(Locale.ROOT, " ± %.3f", error.getAsDouble()) : "");
    }
  }

  public SlideReading {
    vouchers = List.copyOf(vouchers);
  }

  /**
   * @param foot in solve space
   * @param frame at which it is laid on; the middle of the shot will do
   * @return empty where the camera does not see it at that frame
   */
  public static Optional<SlideReading> of(
      LevelScene scene, Similarity level, Vec3 foot, int frame) {
    Shot shot = scene.shot();
    if (shot.camera().isEmpty()) {
      return Optional.empty();
    }
    ShotCamera c = shot.camera().get();
    int at = c.frames().clamp(frame);
    Pinhole p = new Pinhole(c, shot.picture());
    double[] px = new double[3];
    p.at(at).project(foot.x(), foot.y(), foot.z(), px);
    if (!(px[2] > 0)) {
      return Optional.empty();
    }
    Vec3 ray = foot.minus(c.poses().at(at).position()).normalized();
    Vec3 up = level.rotation().inverse().apply(new Vec3(0, 1, 0));
    double fall = ray.dot(up);
    double[] height = new double[ERRORS.length];
    double[] depth = new double[ERRORS.length];
    int seen = 0;
    for (int i = 0; i < ERRORS.length; i++) {
      double e = ERRORS[i] / level.scale();
      int[] n = new int[1];
      Vec3 high = Math.abs(fall) > LEVEL_RAY ? foot.plus(ray.times(e / fall)) : null;
      height[i] =
          high == null
              ? against(p, c, foot, foot.plus(up.times(e)), at)
              : slide(p, c, shot, foot, high, n);
      depth[i] = slide(p, c, shot, foot, foot.plus(ray.times(e)), n);
      seen = n[0];
    }
    return Optional.of(
        new SlideReading(
            at, ERRORS.clone(), height, depth, seen, vouchers(scene, level, foot, up)));
  }

  /** Farthest that two places part in the picture, over frames that show the first. */
  private static double slide(
      Pinhole p, ShotCamera c, Shot shot, Vec3 right, Vec3 wrong, int[] seen) {
    double[] a = new double[3];
    double[] b = new double[3];
    double most = 0;
    seen[0] = 0;
    for (int f = c.frames().first(); f <= c.frames().last(); f++) {
      p.at(f).project(right.x(), right.y(), right.z(), a);
      p.project(wrong.x(), wrong.y(), wrong.z(), b);
      boolean inside =
          a[2] > 0
              && b[2] > 0
              && a[0] >= 0
              && a[1] >= 0
              && a[0] <= shot.picture().width()
              && a[1] <= shot.picture().height();
      if (inside) {
        seen[0]++;
        most = Math.max(most, Math.hypot(a[0] - b[0], a[1] - b[1]));
      }
    }
    return most;
  }

  /** Where no ray leads there: how much more or less two places part than at one frame. */
  private static double against(Pinhole p, ShotCamera c, Vec3 right, Vec3 wrong, int frame) {
    double[] a = new double[3];
    double[] b = new double[3];
    p.at(frame).project(right.x(), right.y(), right.z(), a);
    p.project(wrong.x(), wrong.y(), wrong.z(), b);
    double x = b[0] - a[0];
    double y = b[1] - a[1];
    double most = 0;
    for (int f = c.frames().first(); f <= c.frames().last(); f++) {
      p.at(f).project(right.x(), right.y(), right.z(), a);
      p.project(wrong.x(), wrong.y(), wrong.z(), b);
      if (a[2] > 0 && b[2] > 0) {
        most = Math.max(most, Math.hypot(b[0] - a[0] - x, b[1] - a[1] - y));
      }
    }
    return most;
  }

  private static List<Voucher> vouchers(LevelScene scene, Similarity level, Vec3 foot, Vec3 up) {
    Vec3 here = level.apply(foot);
    List<Voucher> out = new ArrayList<>();
    for (Map.Entry<String, Vec3> e : scene.places().entrySet()) {
      Vec3 d = level.apply(e.getValue()).minus(here);
      double away = Math.hypot(d.x(), d.z());
      if (away < 3 && Math.abs(d.y()) < 0.5 + away) {
        out.add(new Voucher(e.getKey(), away, d.y(), OptionalDouble.empty()));
      }
    }
    out.sort(Comparator.comparingDouble(v -> Math.hypot(v.away(), 2 * v.higher())));
    return out.stream()
        .limit(MOST_VOUCHERS)
        .map(
            v -> {
              Optional<Spread> s = scene.spread(v.tracker());
              return s.isEmpty()
                  ? v
                  : new Voucher(
                      v.tracker(),
                      v.away(),
                      v.higher(),
                      OptionalDouble.of(level.scale() * Math.sqrt(s.get().variance(up))));
            })
        .toList();
  }
}
