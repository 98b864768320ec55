package flarvo.level;

import flarvo.report.InputError;
import flarvo.scene.Luma;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import java.util.function.IntFunction;

/**
 * Where the ground is, found without anybody's help: the plane under the camera that most trackers
 * lie on, turned so that the strongest direction runs along an axis. The size is not guessed.
 *
 * @param onGround trackers that make the ground
 * @param below trackers that seem to lie under it
 * @param heightOfCamera over the ground, in units of the level, in the middle of the shot
 */
public record FirstGuess(
    Similarity level,
    List<String> onGround,
    int below,
    double heightOfCamera,
    GroundDirection direction) {

  private static final int TRIES = 3000;
  private static final int REFITS = 8;

  /** Up leans from the picture's own up by less. */
  private static final double UPRIGHT = 0.35;

  /** A tracker is on a plane within so many of its own deviations. */
  private static final double DEVIATIONS = 3;

  /** And at least within this share of its distance from the camera. */
  private static final double FINE = 0.002;

  /** What a tracker under the plane takes away from it. */
  private static final double UNDER = 0.5;

  private static final int LEAST = 4;

  /** Three trackers lie on some plane always; only more of them say something. */
  private static final double TELLING = 4;

  public FirstGuess {
    onGround = List.copyOf(onGround);
  }

  /** What is known of the trackers, side by side. */
  private record Cloud(List<String> names, Vec3[] at, Spread[] spreads, double[] fine) {
    double tolerance(int i, Vec3 normal) {
      double sd = spreads[i] == null ? 0 : Math.sqrt(spreads[i].variance(normal));
      return DEVIATIONS * sd + fine[i];
    }
  }

  /**
   * @param start its size is kept
   * @param plates to find the strongest direction in; where there are none the trackers tell it
   * @throws InputError where no plane lies under the camera
   */
  public static FirstGuess of(
      LevelScene scene, Similarity start, IntFunction<Optional<Luma>> plates, Progress progress) {
    if (scene.poses().isEmpty()) {
      throw InputError.words("the shot has no camera", "Add the solve first");
    }
    Cloud cloud = cloud(scene);
    if (cloud.at().length < LEAST) {
      throw InputError.words(
          "the shot has " + cloud.at().length + " trackers; the ground needs " + LEAST,
          "State the ground by hand");
    }
    Vec3 up = pictureUp(scene);
    Vec3 eye = eye(scene);
    PlaneFit plane = plane(cloud, up, scene.poses(), progress);
    List<String> on = new ArrayList<>();
    List<Vec3> places = new ArrayList<>();
    int below = 0;
    for (int i = 0; i < cloud.at().length; i++) {
      double d = plane.distance(cloud.at()[i]);
      double t = cloud.tolerance(i, plane.normal());
      if (Math.abs(d) <= t) {
        on.add(cloud.names().get(i));
        places.add(cloud.at()[i]);
      } else if (d < -2 * t) {
        below++;
      }
    }
    Rotation upright = upright(start.rotation(), plane.normal());
    GroundDirection direction = GroundDirection.of(scene, plane, upright, places, plates, progress);
    Rotation turn = Rotation.about(Equations.Y, direction.turn()).after(upright);
    Vec3 origin = origin(plane, places);
    double s = start.scale();
    Similarity level = new Similarity(s, turn, turn.apply(origin).times(-s));
    return new FirstGuess(level, on, below, s * plane.distance(eye), direction);
  }

  /** What was found, as a sentence. */
  public String words() {
    return String.format(
        Locale.ROOT,
        "%d trackers lie on a plane under the camera%s; the camera stands %.3f m over it if the"
            + " size is right. %s",
        onGround.size(),
        below == 0 ? "" : ", " + below + " under it",
        heightOfCamera,
        direction.words());
  }

  private static Cloud cloud(LevelScene scene) {
    List<String> names = new ArrayList<>();
    List<Vec3> at = new ArrayList<>();
    List<Spread> spreads = new ArrayList<>();
    List<Double> fine = new ArrayList<>();
    for (Map.Entry<String, Vec3> e : new TreeMap<>(scene.places()).entrySet()) {
      double near = Double.POSITIVE_INFINITY;
      for (Pose p : scene.poses()) {
        near = Math.min(near, e.getValue().minus(p.position()).length());
      }
      names.add(e.getKey());
      at.add(e.getValue());
      spreads.add(scene.spread(e.getKey()).orElse(null));
      fine.add(FINE * near);
    }
    return new Cloud(
        names,
        at.toArray(Vec3[]::new),
        spreads.toArray(Spread[]::new),
        fine.stream().mapToDouble(Double::doubleValue).toArray());
  }

  private static Vec3 pictureUp(LevelScene scene) {
    Vec3 sum = Vec3.ZERO;
    for (Pose p : scene.poses()) {
      sum = sum.plus(p.rotation().apply(Equations.Y));
    }
    return sum.length() > 0 ? sum.normalized() : Equations.Y;
  }

  private static Vec3 eye(LevelScene scene) {
    return scene.poses().get(scene.poses().size() / 2).position();
  }

  /** The plane that most trackers lie on, of those under every eye and not far from level. */
  private static PlaneFit plane(Cloud cloud, Vec3 up, List<Pose> poses, Progress progress) {
    Random r = new Random(20_261_124L);
    int n = cloud.at().length;
    PlaneFit best = null;
    double most = 0;
    for (int k = 0; k < TRIES; k++) {
      if (k % 256 == 0) {
        progress.step(k, TRIES);
      }
      Vec3 a = cloud.at()[r.nextInt(n)];
      Vec3 b = cloud.at()[r.nextInt(n)];
      Vec3 c = cloud.at()[r.nextInt(n)];
      Vec3 normal = b.minus(a).cross(c.minus(a));
      if (!(normal.length() > 0)) {
        continue;
      }
      PlaneFit p = facing(new PlaneFit(normal.normalized(), a), up);
      if (isUnder(p, up, poses)) {
        double score = score(p, cloud);
        if (score > most) {
          most = score;
          best = p;
        }
      }
    }
    if (best == null || most < TELLING) {
      throw InputError.words(
          "no plane under the camera holds several trackers",
          "State which trackers are on the ground");
    }
    for (int k = 0; k < REFITS; k++) {
      PlaneFit next = refit(best, cloud, up);
      if (next == null || !isUnder(next, up, poses)) {
        break;
      }
      best = next;
    }
    return best;
  }

  private static PlaneFit facing(PlaneFit p, Vec3 up) {
    return p.normal().dot(up) >= 0 ? p : new PlaneFit(p.normal().times(-1), p.middle());
  }

  private static boolean isUnder(PlaneFit p, Vec3 up, List<Pose> poses) {
    if (p.normal().dot(up) < UPRIGHT) {
      return false;
    }
    for (Pose q : poses) {
      if (!(p.distance(q.position()) > 0)) {
        return false;
      }
    }
    return true;
  }

  private static double score(PlaneFit p, Cloud cloud) {
    double score = 0;
    for (int i = 0; i < cloud.at().length; i++) {
      double d = p.distance(cloud.at()[i]);
      double t = cloud.tolerance(i, p.normal());
      if (Math.abs(d) < t) {
        score += 1 - d * d / (t * t);
      } else if (d < -2 * t) {
        score -= UNDER;
      }
    }
    return score;
  }

  /** Least squares with each tracker by its own deviation; far ones count ever less. */
  private static PlaneFit refit(PlaneFit p, Cloud cloud, Vec3 up) {
    List<Vec3> on = new ArrayList<>();
    List<Double> weights = new ArrayList<>();
    for (int i = 0; i < cloud.at().length; i++) {
      double t = cloud.tolerance(i, p.normal());
      double u = p.distance(cloud.at()[i]) / t;
      if (Math.abs(u) < 1) {
        on.add(cloud.at()[i]);
        weights.add((1 - u * u) * (1 - u * u) / (t * t));
      }
    }
    return PlaneFit.of(on, weights).map(q -> facing(q, up)).orElse(null);
  }

  /** The shortest turn after one that stands which makes a direction of solve space up. */
  private static Rotation upright(Rotation start, Vec3 normal) {
    Vec3 from = start.apply(normal);
    Vec3 axis = from.cross(Equations.Y);
    if (axis.length() < 1e-12) {
      return from.y() > 0 ? start : Rotation.about(Equations.X, Math.PI).after(start);
    }
    return Rotation.about(axis.normalized(), Math.atan2(axis.length(), from.y())).after(start);
  }

  /** The middle of what lies on the ground: half of it to each side, along each axis. */
  private static Vec3 origin(PlaneFit plane, List<Vec3> on) {
    double[] m = new double[3];
    for (int k = 0; k < 3; k++) {
      int axis = k;
      double[] v =
          on.stream()
              .mapToDouble(p -> axis == 0 ? p.x() : axis == 1 ? p.y() : p.z())
              .sorted()
              .toArray();
      m[k] = v[v.length / 2];
    }
    Vec3 p = new Vec3(m[0], m[1], m[2]);
    return p.minus(plane.normal().times(plane.distance(p)));
  }
}
