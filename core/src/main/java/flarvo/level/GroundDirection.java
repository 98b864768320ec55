package flarvo.level;

import flarvo.scene.Pinhole;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import flarvo.vet.Luma;
import flarvo.work.Progress;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.IntFunction;

/**
 * The strongest direction on the ground, and the one across it. Edges of the plate are laid on the
 * ground: those of flagstones, kerbs and of everything built along them agree there, whatever the
 * camera sees them from. Without plates, ways between trackers on the ground vote.
 *
 * @param turn about up that lays it along an axis, radians, at most 45° either way
 * @param strength its votes over those of a direction without any reason; 1 says nothing
 * @param fromPlates whether edges of plates told it
 */
public record GroundDirection(double turn, double strength, boolean fromPlates) {

  private static final int BINS = 360; // of a quarter turn
  private static final int FRAMES = 3;
  private static final int STEP = 2;

  /** Edges of at least so many levels of brightness over two pixels. */
  private static final double EDGE = 24;

  /** Ground further off than so many heights of the camera is seen too flat. */
  private static final double FAR = 6;

  /** Half the width of the window that a direction gathers its votes from. */
  private static final int NEAR = 3;

  private static final double TELLING = 2;

  static GroundDirection of(
      LevelScene scene,
      PlaneFit plane,
      Rotation upright,
      List<Vec3> onGround,
      IntFunction<Optional<Luma>> plates,
      Progress progress) {
    double[] votes = new double[BINS];
    boolean seen = false;
    if (scene.shot().camera().isPresent()) {
      ShotCamera c = scene.shot().camera().get();
      for (int k = 0; k < FRAMES; k++) {
        progress.step(k, FRAMES);
        int f = c.frames().first() + (c.frames().count() - 1) * (2 * k + 1) / (2 * FRAMES);
        Optional<Luma> luma = plates.apply(f);
        if (luma.isPresent()) {
          seen |= edges(votes, scene, plane, upright, f, luma.get());
        }
      }
    }
    if (!seen) {
      ways(votes, plane, upright, onGround);
    }
    return peak(votes, seen);
  }

  public String words() {
    return strength < TELLING
        ? "No direction on the ground stands out."
        : String.format(
            Locale.ROOT,
            "The strongest direction %s is laid along an axis (%.1f times a chance one).",
            fromPlates ? "of the plate's edges" : "between the trackers",
            strength);
  }

  private static boolean edges(
      double[] votes, LevelScene scene, PlaneFit plane, Rotation upright, int frame, Luma luma) {
    Pinhole p = new Pinhole(scene.shot().camera().orElseThrow(), scene.shot().picture()).at(frame);
    Vec3 eye = scene.shot().camera().orElseThrow().poses().at(frame).position();
    double height = plane.distance(eye);
    double kx = scene.shot().picture().width() / (double) luma.width();
    double ky = scene.shot().picture().height() / (double) luma.height();
    boolean some = false;
    for (int y = 2; y + 2 < luma.height(); y += STEP) {
      for (int x = 2; x + 2 < luma.width(); x += STEP) {
        double gx = luma.at(x + 1, y) - luma.at(x - 1, y);
        double gy = luma.at(x, y + 1) - luma.at(x, y - 1);
        double g = Math.hypot(gx, gy);
        if (g < EDGE) {
          continue;
        }
        // Along the edge, a pixel either way.
        double ex = -gy / g;
        double ey = gx / g;
        Vec3 a = meet(p, plane, eye, height, (x + 0.5 - ex) * kx, (y + 0.5 - ey) * ky);
        Vec3 b = meet(p, plane, eye, height, (x + 0.5 + ex) * kx, (y + 0.5 + ey) * ky);
        if (a != null && b != null) {
          vote(votes, upright.apply(b.minus(a)), Math.min(g, 4 * EDGE));
          some = true;
        }
      }
    }
    return some;
  }

  /** Null where the ray misses the ground or meets it far away. */
  private static Vec3 meet(Pinhole p, PlaneFit plane, Vec3 eye, double height, double x, double y) {
    Vec3 ray = p.ray(x, y);
    double down = -plane.normal().dot(ray);
    return down * FAR > 1 ? eye.plus(ray.times(height / down)) : null;
  }

  private static void ways(double[] votes, PlaneFit plane, Rotation upright, List<Vec3> on) {
    for (Vec3 here : on) {
      // To the nearest few: a grid shows in its neighbours.
      List<Vec3> near =
          on.stream()
              .filter(o -> !o.equals(here))
              .sorted(java.util.Comparator.comparingDouble(o -> o.minus(here).length()))
              .limit(4)
              .toList();
      for (Vec3 o : near) {
        Vec3 d = o.minus(here);
        vote(votes, upright.apply(d.minus(plane.normal().times(plane.normal().dot(d)))), 1);
      }
    }
  }

  /** Directions a quarter turn apart are one: the sides of a square. */
  private static void vote(double[] votes, Vec3 d, double weight) {
    double angle = Math.atan2(-d.z(), d.x()) / (Math.PI / 2);
    double u = (angle - Math.floor(angle)) * BINS;
    votes[(int) u % BINS] += weight;
  }

  private static GroundDirection peak(double[] votes, boolean fromPlates) {
    double all = 0;
    for (double v : votes) {
      all += v;
    }
    if (!(all > 0)) {
      return new GroundDirection(0, 1, fromPlates);
    }
    int best = 0;
    double most = -1;
    for (int i = 0; i < BINS; i++) {
      double sum = window(votes, i);
      if (sum > most) {
        most = sum;
        best = i;
      }
    }
    // The middle of the votes about the peak.
    double moment = 0;
    for (int k = -NEAR; k <= NEAR; k++) {
      moment += k * votes[Math.floorMod(best + k, BINS)];
    }
    double at = (best + 0.5 + moment / most) / BINS * (Math.PI / 2);
    double turn = at > Math.PI / 4 ? Math.PI / 2 - at : -at;
    double strength = most / all * BINS / (2 * NEAR + 1);
    return new GroundDirection(strength < TELLING ? 0 : turn, strength, fromPlates);
  }

  private static double window(double[] votes, int at) {
    double sum = 0;
    for (int k = -NEAR; k <= NEAR; k++) {
      sum += votes[Math.floorMod(at + k, BINS)];
    }
    return sum;
  }
}
