package flarvo.vet;

import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import flarvo.vet.adjust.Symmetric3;
import java.util.Optional;

/**
 * The point in space that a tracker's pixels agree on, while the camera stays as it is: first the
 * point nearest to all rays, then least squares in pixels by Gauss and Newton.
 */
public final class Triangulation {

  private static final int STEPS = 30;

  private final ShotCamera camera;
  private final Observations observations;
  private final Pinhole pinhole;
  private final double[] px = new double[3];
  private final double[] jacobian = new double[6];

  public Triangulation(ShotCamera camera, PictureSize picture, Observations observations) {
    this.camera = camera;
    this.observations = observations;
    this.pinhole = new Pinhole(camera, picture);
  }

  /**
   * A point and how well it is known.
   *
   * @param rmsPx what is left in pixels
   * @param angle the widest angle that one of its rays makes with the first, radians
   * @param depth from the nearest camera that sees it
   * @param depthError standard error along the way to that camera, for an error of one pixel on
   *     each axis; infinite where it is not known
   * @param sideError the same across it
   */
  public record Placed(
      Vec3 position,
      double rmsPx,
      double angle,
      double depth,
      double depthError,
      double sideError) {}

  /** Empty where fewer than two frames see it, or its rays meet behind a camera or nowhere. */
  public Optional<Placed> of(String tracker) {
    return nearestToRays(tracker).flatMap(p -> place(tracker, p));
  }

  /** The same from a start; only the position. */
  public Optional<Vec3> refined(String tracker, Vec3 start) {
    return place(tracker, start).or(() -> of(tracker)).map(Placed::position);
  }

  /** What is known of a tracker that stands somewhere already, and stays there. */
  public Optional<Placed> measured(String tracker, Vec3 at) {
    double[] n = new double[9];
    double squares = 0;
    int rows = 0;
    for (int row = first(tracker); row < end(tracker); row++) {
      if (usable(row)) {
        double e = normal(row, at, n, null);
        if (!Double.isNaN(e)) {
          squares += e;
          rows++;
        }
      }
    }
    return rows < 1 ? Optional.empty() : Optional.of(known(tracker, at, n, squares, rows));
  }

  private Optional<Placed> place(String tracker, Vec3 start) {
    Vec3 p = start;
    double cost = cost(tracker, p);
    if (Double.isNaN(cost)) {
      return Optional.empty();
    }
    double damping = 1e-6;
    for (int step = 0; step < STEPS; step++) {
      double[] n = new double[9];
      double[] g = new double[3];
      for (int row = first(tracker); row < end(tracker); row++) {
        if (usable(row)) {
          normal(row, p, n, g);
        }
      }
      Vec3 d = solve(n, g, damping);
      if (d == null) {
        return Optional.empty();
      }
      Vec3 next = p.minus(d);
      double trial = cost(tracker, next);
      if (trial < cost) {
        boolean settled = cost - trial < 1e-12 * cost;
        p = next;
        cost = trial;
        damping = Math.max(1e-12, damping / 10);
        if (settled) {
          break;
        }
      } else if (damping > 1e6) {
        break;
      } else {
        damping *= 10;
      }
    }
    return measured(tracker, p);
  }

  /** Sum of squares in pixels; NaN where the point is behind a camera that sees it. */
  private double cost(String tracker, Vec3 p) {
    double sum = 0;
    int rows = 0;
    for (int row = first(tracker); row < end(tracker); row++) {
      if (usable(row)) {
        pinhole.at(observations.frame(row)).project(p.x(), p.y(), p.z(), px);
        double dx = px[0] - observations.x(row);
        double dy = px[1] - observations.y(row);
        sum += dx * dx + dy * dy;
        rows++;
      }
    }
    return rows < 2 ? Double.NaN : sum;
  }

  private int first(String tracker) {
    return Math.max(0, observations.firstRow(tracker));
  }

  private int end(String tracker) {
    return observations.endRow(tracker);
  }

  private boolean usable(int row) {
    return camera.frames().contains(observations.frame(row));
  }

  /**
   * Adds one row's share.
   *
   * @param n JᵀJ, row by row
   * @param g Jᵀr; may be null
   * @return squared distance in pixels; NaN behind the camera
   */
  private double normal(int row, Vec3 p, double[] n, double[] g) {
    pinhole.at(observations.frame(row)).derive(p.x(), p.y(), p.z(), px, jacobian);
    double dx = px[0] - observations.x(row);
    double dy = px[1] - observations.y(row);
    double e = dx * dx + dy * dy;
    if (Double.isNaN(e)) {
      return e;
    }
    for (int i = 0; i < 3; i++) {
      for (int k = 0; k < 3; k++) {
        n[3 * i + k] += jacobian[i] * jacobian[k] + jacobian[3 + i] * jacobian[3 + k];
      }
      if (g != null) {
        g[i] += jacobian[i] * dx + jacobian[3 + i] * dy;
      }
    }
    return e;
  }

  private Placed known(String tracker, Vec3 p, double[] n, double squares, int rows) {
    double widest = 0;
    double depth = Double.POSITIVE_INFINITY;
    Vec3 way = new Vec3(0, 0, 1);
    Vec3 firstRay = null;
    for (int row = first(tracker); row < end(tracker); row++) {
      if (!usable(row)) {
        continue;
      }
      Vec3 from = p.minus(camera.poses().at(observations.frame(row)).position());
      double d = from.length();
      if (!(d > 0)) {
        continue;
      }
      Vec3 ray = from.times(1 / d);
      if (firstRay == null) {
        firstRay = ray;
      }
      widest = Math.max(widest, angle(firstRay, ray));
      if (d < depth) {
        depth = d;
        way = ray;
      }
    }
    double[] inverse = inverse(n, 0);
    double along = Double.POSITIVE_INFINITY;
    double across = Double.POSITIVE_INFINITY;
    if (inverse != null) {
      double a = quadratic(inverse, way);
      double all = inverse[0] + inverse[4] + inverse[8];
      along = Math.sqrt(Math.max(0, a));
      across = Math.sqrt(Math.max(0, all - a) / 2);
    }
    return new Placed(p, Math.sqrt(squares / rows), widest, depth, along, across);
  }

  static double angle(Vec3 a, Vec3 b) {
    return Math.atan2(a.cross(b).length(), a.dot(b));
  }

  private static double quadratic(double[] m, Vec3 v) {
    double x = m[0] * v.x() + m[1] * v.y() + m[2] * v.z();
    double y = m[3] * v.x() + m[4] * v.y() + m[5] * v.z();
    double z = m[6] * v.x() + m[7] * v.y() + m[8] * v.z();
    return x * v.x() + y * v.y() + z * v.z();
  }

  /** Where the sum of squared distances to all rays is least. */
  private Optional<Vec3> nearestToRays(String tracker) {
    double[] n = new double[9];
    double[] b = new double[3];
    int rows = 0;
    for (int row = first(tracker); row < end(tracker); row++) {
      if (!usable(row)) {
        continue;
      }
      int frame = observations.frame(row);
      Pose pose = camera.poses().at(frame);
      Vec3 d = pinhole.at(frame).ray(observations.x(row), observations.y(row));
      double[] r = {d.x(), d.y(), d.z()};
      double[] c = {pose.position().x(), pose.position().y(), pose.position().z()};
      for (int i = 0; i < 3; i++) {
        for (int k = 0; k < 3; k++) {
          double m = (i == k ? 1 : 0) - r[i] * r[k];
          n[3 * i + k] += m;
          b[i] += m * c[k];
        }
      }
      rows++;
    }
    if (rows < 2) {
      return Optional.empty();
    }
    return Optional.ofNullable(solve(n, b, 0));
  }

  /** Null where the matrix says nothing about some direction. */
  private static Vec3 solve(double[] n, double[] b, double damping) {
    double[] i = inverse(n, damping);
    if (i == null) {
      return null;
    }
    double x = i[0] * b[0] + i[1] * b[1] + i[2] * b[2];
    double y = i[3] * b[0] + i[4] * b[1] + i[5] * b[2];
    double z = i[6] * b[0] + i[7] * b[1] + i[8] * b[2];
    return Double.isFinite(x + y + z) ? new Vec3(x, y, z) : null;
  }

  private static double[] inverse(double[] n, double damping) {
    double[] out = new double[9];
    return Symmetric3.invert(n, damping, out) ? out : null;
  }
}
