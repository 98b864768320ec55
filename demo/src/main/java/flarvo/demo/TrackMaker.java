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
 * 2D tracks and solved points of the terrace: true features seen with noise of 0.15 to 0.4 px, gaps
 * and limited life, and a dozen strays that follow what is no fixed point.
 */
final class TrackMaker {

  private static final long SEED = 20_261_010L;
  private static final int SHORTEST_LIFE = 10;

  /** Standard error of a solved position, in metres. */
  private static final double POINT_NOISE = 0.0006;

  private final Random random = new Random(SEED);
  private final ShotCamera camera = TerraceTruth.camera();
  private final Pinhole pinhole = new Pinhole(camera, TerraceTruth.PICTURE);
  private final TerraceScene scene = new TerraceScene();
  private final Observations.Builder observations = new Observations.Builder();
  private final List<String> names = new ArrayList<>();
  private final List<Vec3> points = new ArrayList<>();
  private final List<Vec3> truth = new ArrayList<>();
  private final double[] px = new double[3];

  record Tracks(Observations observations, TrackerSet solved, TrackerSet truth) {}

  Tracks make() {
    for (Vec3 p : features()) {
      feature(p);
    }
    for (int i = 0; i < 4; i++) {
      bird(i);
      glint(i);
      crossing(i);
    }
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

  /** Corners of flagstones, of everything built, and points on wall and dome. */
  private List<Vec3> features() {
    List<Vec3> list = new ArrayList<>();
    double side = TerraceTruth.FLAGSTONE_METRES;
    for (int i = -6; i <= 6; i++) {
      for (int j = -6; j <= 4; j++) {
        if (random.nextDouble() < 0.62) {
          list.add(new Vec3(i * side, 0, j * side));
        }
      }
    }
    for (double[] b : TerraceScene.BOXES) {
      for (int corner = 0; corner < 4; corner++) {
        list.add(new Vec3((corner & 1) == 0 ? b[0] : b[3], b[4], (corner & 2) == 0 ? b[2] : b[5]));
      }
    }
    for (int i = 0; i < 26; i++) {
      list.add(new Vec3(-5 + 10 * random.nextDouble(), 0.1 + 0.65 * random.nextDouble(), -4.0));
    }
    for (int i = 0; i < 22; i++) {
      double a = Math.PI * random.nextDouble();
      double e = 1.2 * random.nextDouble();
      list.add(
          new Vec3(
              TerraceScene.DOME_X
                  + TerraceScene.DOME_RADIUS * StrictMath.cos(e) * StrictMath.cos(a),
              TerraceScene.DOME_Y + TerraceScene.DOME_RADIUS * StrictMath.sin(e),
              TerraceScene.DOME_Z
                  + TerraceScene.DOME_RADIUS * StrictMath.cos(e) * StrictMath.sin(a)));
    }
    return list;
  }

  private void feature(Vec3 p) {
    double noise = 0.15 + 0.25 * random.nextDouble();
    int born = TerraceTruth.FRAMES.first() + random.nextInt(30) - 15;
    int life = 30 + random.nextInt(110);
    int gapAt = random.nextInt(400);
    String name = String.format(Locale.ROOT, "t%03d", names.size() + 1);
    List<double[]> rows = new ArrayList<>();
    for (int f = TerraceTruth.FRAMES.first(); f <= TerraceTruth.FRAMES.last(); f++) {
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
            p.x() + POINT_NOISE * random.nextGaussian(),
            p.y() + POINT_NOISE * random.nextGaussian(),
            p.z() + POINT_NOISE * random.nextGaussian()));
  }

  /** Inside the picture with a margin, and nothing in front. Leaves the pixel in {@link #px}. */
  private boolean visible(Vec3 p, int frame) {
    pinhole.at(frame).project(p.x(), p.y(), p.z(), px);
    int margin = 4;
    if (!(px[0] > margin
        && px[1] > margin
        && px[0] < TerraceTruth.PICTURE.width() - margin
        && px[1] < TerraceTruth.PICTURE.height() - margin)) {
      return false;
    }
    Pose eye = camera.poses().at(frame);
    Vec3 way = p.minus(eye.position());
    double length = way.length();
    Vec3 d = way.times(1 / length);
    double hit =
        scene.distance(
            eye.position().x(), eye.position().y(), eye.position().z(), d.x(), d.y(), d.z());
    return hit > length - 0.015;
  }

  /** Flies across the sky. */
  private void bird(int i) {
    int first = TerraceTruth.FRAMES.first() + 8 + 21 * i;
    double x = 120 + 160 * i;
    double y = 60 + 18 * i;
    stray(first, 26, f -> new double[] {x + 5.3 * (f - first), y - 0.9 * (f - first)}, 9 + i);
  }

  /** A reflection in the brass: it goes with the eye, half as fast as the disc passes. */
  private void glint(int i) {
    int first = TerraceTruth.FRAMES.first() + 4 + 19 * i;
    stray(
        first,
        34,
        f -> {
          Vec3 eye = camera.poses().at(f).position();
          double k = 0.045 + 0.01 * i;
          Vec3 p = new Vec3(eye.x() * k, TerraceScene.DISC_Y, eye.z() * k - 0.03);
          visible(p, f);
          return new double[] {px[0], px[1]};
        },
        2.2);
  }

  /** Where two edges at different depths cross in the picture. */
  private void crossing(int i) {
    int first = TerraceTruth.FRAMES.first() + 2 + 15 * i;
    double near = i % 2 == 0 ? -0.26 : 0.26;
    stray(
        first,
        40,
        f -> {
          visible(new Vec3(near, 0.5, 0.2), f);
          double x = px[0];
          visible(new Vec3(near, 0.90 - 0.2 * i, -3.92), f);
          return new double[] {x, px[1]};
        },
        3.0 + 0.4 * i);
  }

  /** A stray gets the place that a solver would give it: where its error is least. */
  private void stray(int first, int life, IntFunction<double[]> at, double startDepth) {
    String name = String.format(Locale.ROOT, "t%03d", names.size() + 1);
    List<double[]> rows = new ArrayList<>();
    for (int f = first; f < first + life && f <= TerraceTruth.FRAMES.last(); f++) {
      double[] p = at.apply(f);
      double x = p[0] + 0.25 * random.nextGaussian();
      double y = p[1] + 0.25 * random.nextGaussian();
      if (x > 2
          && y > 2
          && x < TerraceTruth.PICTURE.width() - 2
          && y < TerraceTruth.PICTURE.height() - 2) {
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
