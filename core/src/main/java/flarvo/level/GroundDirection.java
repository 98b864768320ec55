package flarvo.level;

import flarvo.scene.Luma;
import flarvo.scene.Pinhole;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
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

  /** Half the width about a peak that its middle is taken from. */
  private static final int ABOUT = 12;

  private static final double TELLING = 2;

  /** A tracker itself and the four next to it. */
  private static final int NEIGHBOURS = 5;

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

  /** How the direction was found, for the user. */
  public String words() {
    return strength < TELLING
        ? "No direction on the ground is distinct."
        : String.format(
            Locale.ROOT,
            "The strongest direction %s is aligned with an axis (%.1f times a chance one).",
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
        double gx = slope(luma, x, y, 1, 0);
        double gy = slope(luma, x, y, 0, 1);
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

  /** Over two pixels, by Scharr's weights, which favour no direction of the edge. */
  private static double slope(Luma l, int x, int y, int dx, int dy) {
    double sum = 0;
    for (int k = -1; k <= 1; k++) {
      int w = k == 0 ? 10 : 3;
      int ax = x + k * dy;
      int ay = y + k * dx;
      sum += w * (l.at(ax + dx, ay + dy) - l.at(ax - dx, ay - dy));
    }
    return sum / 16;
  }

  /** Null where the ray misses the ground or meets it far away. */
  private static Vec3 meet(Pinhole p, PlaneFit plane, Vec3 eye, double height, double x, double y) {
    Vec3 ray = p.ray(x, y);
    double down = -plane.normal().dot(ray);
    return down * FAR > 1 ? eye.plus(ray.times(height / down)) : null;
  }

  private static void ways(double[] votes, PlaneFit plane, Rotation upright, List<Vec3> on) {
    if (on.size() < 2) {
      return;
    }
    Neighbours all = new Neighbours(on);
    for (Vec3 here : on) {
      // To the nearest few: a grid shows in its neighbours.
      for (int k : all.nearest(here, NEIGHBOURS)) {
        Vec3 d = on.get(k).minus(here);
        Vec3 flat = d.minus(plane.normal().times(plane.normal().dot(d)));
        if (flat.length() > 0) {
          vote(votes, upright.apply(flat), 1);
        }
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
    double at = (middle(votes, best, all / BINS) + 0.5) / BINS * (Math.PI / 2);
    double turn = -at + Math.PI / 2 * Math.rint(at / (Math.PI / 2));
    double strength = most / all * BINS / (2 * NEAR + 1);
    return new GroundDirection(strength < TELLING ? 0 : turn, strength, fromPlates);
  }

  /** The middle of the votes about a peak, above a chance share; it walks to where that is. */
  private static double middle(double[] votes, int peak, double chance) {
    double at = peak;
    for (int round = 0; round < 20; round++) {
      double sum = 0;
      double moment = 0;
      int around = (int) Math.rint(at);
      for (int k = -ABOUT; k <= ABOUT; k++) {
        double v = Math.max(0, votes[Math.floorMod(around + k, BINS)] - chance);
        sum += v;
        moment += v * k;
      }
      double next = sum > 0 ? around + moment / sum : at;
      if (Math.abs(next - at) < 1e-6) {
        return next;
      }
      at = next;
    }
    return at;
  }

  private static double window(double[] votes, int at) {
    double sum = 0;
    for (int k = -NEAR; k <= NEAR; k++) {
      sum += votes[Math.floorMod(at + k, BINS)];
    }
    return sum;
  }
}
