package flarvo.demo;

import flarvo.scene.Observations;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.PoseTrack;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** Where followed features should have been: what their first pixel shows, seen on every frame. */
final class FollowedTruth {

  private static final int[][] ROUND = {{0, 0}, {3, 0}, {-3, 0}, {0, 3}, {0, -3}};

  private final ShotTruth shot;
  private final boolean undistorted;
  private final Pinhole pinhole;
  private final double[] px = new double[3];

  FollowedTruth(ShotTruth shot, boolean undistorted) {
    this.shot = shot;
    this.undistorted = undistorted;
    pinhole =
        new Pinhole(
            new ShotCamera(
                "truth",
                PoseTrack.of(shot.frames(), shot::poseAt),
                OpticsTrack.of(shot.frames(), shot::opticsAt),
                Optional.empty()),
            ShotTruth.PICTURE);
  }

  /** RMS distance of each feature from where it should have been, in pixels. */
  Map<String, Double> errors(Observations o) {
    Map<String, Double> out = new TreeMap<>();
    for (String name : o.names()) {
      out.put(name, error(o, o.firstRow(name), o.endRow(name)));
    }
    return out;
  }

  /**
   * Which point a feature marks is its own choice: the one that it stays nearest to counts, at the
   * depth of what is seen round its first place. Of an edge that is the nearer of its sides.
   */
  private double error(Observations o, int first, int end) {
    int f0 = o.frame(first);
    double best = Double.POSITIVE_INFINITY;
    for (int[] d : ROUND) {
      double t = Math.min(1e6, distance(f0, ray(f0, o.x(first) + d[0], o.y(first) + d[1])));
      best = Math.min(best, error(o, first, end, t, -1));
      for (int k = 0; k < shot.cartsAt(f0).size(); k++) {
        best = Math.min(best, error(o, first, end, t, k));
      }
    }
    return best;
  }

  /** On which cart a feature stays, −1 for none; empty where that cannot be told. */
  Map<String, Integer> carts(Observations o, double withinPx) {
    Map<String, Integer> out = new TreeMap<>();
    for (String name : o.names()) {
      int first = o.firstRow(name);
      int f0 = o.frame(first);
      int on = -1;
      double best = Double.POSITIVE_INFINITY;
      double second = best;
      for (int k = -1; k < shot.cartsAt(f0).size(); k++) {
        double e = Double.POSITIVE_INFINITY;
        for (int[] d : ROUND) {
          double t = Math.min(1e6, distance(f0, ray(f0, o.x(first) + d[0], o.y(first) + d[1])));
          e = Math.min(e, error(o, first, o.endRow(name), t, k));
        }
        if (e < best) {
          second = best;
          best = e;
          on = k;
        } else {
          second = Math.min(second, e);
        }
      }
      if (best < withinPx && second > 3 * withinPx) {
        out.put(name, on);
      }
    }
    return out;
  }

  private double error(Observations o, int first, int end, double t, int cart) {
    int f0 = o.frame(first);
    double x = o.x(first);
    double y = o.y(first);
    double[] mean = new double[2];
    double rms = 0;
    for (int round = 0; round < 3; round++) {
      Vec3 p = shot.poseAt(f0).position().plus(ray(f0, x, y).times(t));
      Vec3 on = cart < 0 ? p : shot.cartsAt(f0).get(cart).toLocal(p);
      rms = rms(o, first, end, f -> cart < 0 ? p : shot.cartsAt(f).get(cart).toWorld(on), mean);
      x += mean[0];
      y += mean[1];
    }
    return rms;
  }

  private Vec3 ray(int frame, double x, double y) {
    double[] straight = straight(x, y);
    return pinhole.at(frame).ray(straight[0], straight[1]).normalized();
  }

  private double distance(int frame, Vec3 way) {
    Vec3 eye = shot.poseAt(frame).position();
    return new TerraceScene()
        .at(shot, frame)
        .distance(eye.x(), eye.y(), eye.z(), way.x(), way.y(), way.z());
  }

  /** Where what a pixel of a frame shows is on another frame; null behind the camera. */
  double[] on(int f0, double x, double y, int frame) {
    Vec3 way = ray(f0, x, y);
    Vec3 p = shot.poseAt(f0).position().plus(way.times(Math.min(1e6, distance(f0, way))));
    pinhole.at(frame).project(p.x(), p.y(), p.z(), px);
    return px[2] > 0 ? bent(px[0], px[1]) : null;
  }

  private double rms(
      Observations o,
      int first,
      int end,
      java.util.function.IntFunction<Vec3> where,
      double[] mean) {
    double sum = 0;
    mean[0] = 0;
    mean[1] = 0;
    for (int row = first; row < end; row++) {
      Vec3 p = where.apply(o.frame(row));
      pinhole.at(o.frame(row)).project(p.x(), p.y(), p.z(), px);
      double[] seen = bent(px[0], px[1]);
      double dx = o.x(row) - seen[0];
      double dy = o.y(row) - seen[1];
      sum += dx * dx + dy * dy;
      mean[0] += dx / (end - first);
      mean[1] += dy / (end - first);
    }
    return Math.sqrt(sum / (end - first));
  }

  private double[] bent(double x, double y) {
    PictureSize s = ShotTruth.PICTURE;
    return undistorted || !shot.lens().bends()
        ? new double[] {x, y}
        : shot.lens().distort(x, y, s.width(), s.height());
  }

  private double[] straight(double x, double y) {
    if (undistorted) {
      return new double[] {x, y};
    }
    double w = ShotTruth.PICTURE.width() / 2.0;
    double h = ShotTruth.PICTURE.height() / 2.0;
    double k = shot.lens().factor(((x - w) * (x - w) + (y - h) * (y - h)) / (w * w));
    return new double[] {w + k * (x - w), h + k * (y - h)};
  }
}
