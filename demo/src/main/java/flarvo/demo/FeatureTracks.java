package flarvo.demo;

import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.function.IntFunction;

/**
 * Makes 2D tracks and solved points: true features seen with noise of 0.15 to 0.4 px RMS, gaps and
 * limited life, and strays that follow what is no fixed point.
 */
final class FeatureTracks {

  private static final int SHORTEST_LIFE = 10;

  private final ShotTruth shot;
  private final Random random;
  private final double pointNoise;
  private final ShotCamera camera;
  private final Pinhole pinhole;
  private final Observations.Builder observations = new Observations.Builder();
  private final List<String> names = new ArrayList<>();
  private final List<Vec3> points = new ArrayList<>();
  private final List<Vec3> truth = new ArrayList<>();
  private final double[] px = new double[3];

  record Tracks(Observations observations, TrackerSet solved, TrackerSet truth) {}

  /**
   * @param pointNoise standard error of a solved position, in metres
   */
  FeatureTracks(ShotTruth shot, Random random, double pointNoise) {
    this.shot = shot;
    this.random = random;
    this.pointNoise = pointNoise;
    this.camera = shot.solvedCamera();
    this.pinhole = new Pinhole(camera, ShotTruth.PICTURE);
  }

  Tracks made() {
    return new Tracks(observations.build(), set(points), set(truth));
  }

  private TrackerSet set(List<Vec3> list) {
    double[] xyz = new double[3 * list.size()];
    for (int i = 0; i < list.size(); i++) {
      xyz[3 * i] = list.get(i).x();
      xyz[3 * i + 1] = list.get(i).y();
      xyz[3 * i + 2] = list.get(i).z();
    }
    return TrackerSet.of("trackers", names, xyz);
  }

  void feature(Vec3 p) {
    int first = shot.frames().first();
    // The distance is what is measured as error; half of its square falls on each axis.
    double noise = (0.15 + 0.25 * random.nextDouble()) / Math.sqrt(2);
    int born = first + random.nextInt(30) - 15;
    int life = 30 + random.nextInt(110);
    int gapAt = random.nextInt(400);
    String name = String.format(Locale.ROOT, "t%03d", names.size() + 1);
    List<double[]> rows = new ArrayList<>();
    for (int f = first; f <= shot.frames().last(); f++) {
      double nx = noise * random.nextGaussian();
      double ny = noise * random.nextGaussian();
      int age = f - born;
      boolean gap = age > gapAt && age < gapAt + 7;
      if (age >= 0 && age < life && !gap && visible(p, f)) {
        rows.add(new double[] {f, px[0] + nx, px[1] + ny});
      }
    }
    if (rows.size() < SHORTEST_LIFE) {
      return;
    }
    rows.forEach(r -> observations.add(name, (int) r[0], r[1], r[2]));
    names.add(name);
    truth.add(p);
    points.add(
        new Vec3(
            p.x() + pointNoise * random.nextGaussian(),
            p.y() + pointNoise * random.nextGaussian(),
            p.z() + pointNoise * random.nextGaussian()));
  }

  /** Where a point is in the picture, whether it is seen or not. */
  double[] pixel(Vec3 p, int frame) {
    visible(p, frame);
    return px.clone();
  }

  Vec3 eye(int frame) {
    return camera.poses().at(frame).position();
  }

  /** Inside the picture with a margin, and nothing in front. Leaves the pixel in {@link #px}. */
  private boolean visible(Vec3 p, int frame) {
    pinhole.at(frame).project(p.x(), p.y(), p.z(), px);
    int margin = 4;
    if (!(px[0] > margin
        && px[1] > margin
        && px[0] < ShotTruth.PICTURE.width() - margin
        && px[1] < ShotTruth.PICTURE.height() - margin)) {
      return false;
    }
    Pose eye = shot.poseAt(frame);
    Vec3 way = shot.featuresAt(frame).toWorld(p).minus(eye.position());
    double length = way.length();
    Vec3 d = way.times(1 / length);
    double hit =
        new TerraceScene()
            .at(shot, frame)
            .distance(
                eye.position().x(), eye.position().y(), eye.position().z(), d.x(), d.y(), d.z());
    return hit > length - 0.015;
  }

  /** A stray gets the place that a solver would give it: where its error is least. */
  void stray(int first, int life, IntFunction<double[]> at, double startDepth) {
    String name = String.format(Locale.ROOT, "t%03d", names.size() + 1);
    List<double[]> rows = new ArrayList<>();
    for (int f = first; f < first + life && f <= shot.frames().last(); f++) {
      double[] p = at.apply(f);
      double x = p[0] + 0.25 * random.nextGaussian();
      double y = p[1] + 0.25 * random.nextGaussian();
      if (x > 2
          && y > 2
          && x < ShotTruth.PICTURE.width() - 2
          && y < ShotTruth.PICTURE.height() - 2) {
        rows.add(new double[] {f, x, y});
      }
    }
    if (rows.size() < SHORTEST_LIFE) {
      return;
    }
    rows.forEach(r -> observations.add(name, (int) r[0], r[1], r[2]));
    Vec3 place = leastError(rows, startDepth);
    names.add(name);
    points.add(place);
    truth.add(place);
  }

  /** Walks downhill from a point on the middle ray, with ever smaller steps. */
  private Vec3 leastError(List<double[]> rows, double startDepth) {
    double[] middle = rows.get(rows.size() / 2);
    Vec3 ray = pinhole.at((int) middle[0]).ray(middle[1], middle[2]);
    Vec3 best = camera.poses().at((int) middle[0]).position().plus(ray.times(startDepth));
    double least = squares(rows, best);
    for (double step = 1; step > 1e-4; step /= 2) {
      boolean better = true;
      while (better) {
        better = false;
        for (int i = 0; i < 6; i++) {
          double d = (i & 1) == 0 ? step : -step;
          Vec3 next = best.plus(new Vec3(i < 2 ? d : 0, i / 2 == 1 ? d : 0, i > 3 ? d : 0));
          double error = squares(rows, next);
          if (error < least) {
            least = error;
            best = next;
            better = true;
          }
        }
      }
    }
    return best;
  }

  private double squares(List<double[]> rows, Vec3 p) {
    double sum = 0;
    for (double[] r : rows) {
      pinhole.at((int) r[0]).project(p.x(), p.y(), p.z(), px);
      double dx = px[0] - r[1];
      double dy = px[1] - r[2];
      sum += px[2] > 0.2 ? dx * dx + dy * dy : 1e9;
    }
    return sum;
  }
}
