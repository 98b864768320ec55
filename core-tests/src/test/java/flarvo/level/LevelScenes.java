package flarvo.level;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.vet.Triangulation;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;

/** Scenes that stand on a known ground, carried into a solve space of somebody's own. */
final class LevelScenes {

  /**
   * @param solved in solve space
   * @param truth solve space to the world as it was made
   * @param ground names of trackers on the ground
   */
  record Made(Shot solved, Similarity truth, List<String> ground) {}

  private LevelScenes() {}

  static Similarity anySimilarity(Random r) {
    return new Similarity(
        Math.exp(1.5 * r.nextGaussian()),
        Rotation.normalized(r.nextGaussian(), r.nextGaussian(), r.nextGaussian(), r.nextGaussian()),
        new Vec3(5 * r.nextGaussian(), 5 * r.nextGaussian(), 5 * r.nextGaussian()));
  }

  /**
   * A walk over a ground at y = 0; trackers stand where noisy tracks put them.
   *
   * @param offGround share of the trackers that are on something else
   */
  static Made walk(long seed, int trackers, double offGround, double noisePx) {
    Random r = new Random(seed * 0x9E3779B97F4A7C15L);
    FrameRange frames = new FrameRange(1001, 1050);
    PictureSize size = PictureSize.of(1920, 1080);
    double height = 1.2 + 1.2 * r.nextDouble();
    double pitch = -0.15 - 0.35 * r.nextDouble();
    double roll = 0.05 * r.nextGaussian();
    double way = 0.8 + r.nextDouble();
    Rotation look =
        Rotation.about(new Vec3(1, 0, 0), pitch).after(Rotation.about(new Vec3(0, 0, 1), roll));
    ShotCamera c =
        new ShotCamera(
            "cam",
            PoseTrack.of(
                frames,
                f -> {
                  double s = (f - 1001) / 49.0;
                  return new Pose(
                      new Vec3(way * s, height + 0.03 * Math.sin(20 * s), -0.4 * way * s), look);
                }),
            OpticsTrack.constant(frames, Optics.centred(20 + 12 * r.nextDouble(), 24, 13.5)),
            Optional.empty());
    Pinhole p = new Pinhole(c, size);
    double[] px = new double[3];
    Observations.Builder o = new Observations.Builder();
    List<String> names = new ArrayList<>();
    List<String> ground = new ArrayList<>();
    List<Vec3> true3d = new ArrayList<>();
    while (names.size() < trackers) {
      boolean off = r.nextDouble() < offGround;
      Vec3 at =
          new Vec3(
              -3 + 7 * r.nextDouble(),
              off ? 0.15 + 2.5 * r.nextDouble() : 0,
              -2 - 7 * r.nextDouble());
      List<double[]> rows = new ArrayList<>();
      for (int f = frames.first(); f <= frames.last(); f++) {
        p.at(f).project(at.x(), at.y(), at.z(), px);
        if (px[2] > 0.3 && px[0] > 0 && px[1] > 0 && px[0] < 1920 && px[1] < 1080) {
          double sd = noisePx / Math.sqrt(2);
          rows.add(new double[] {f, px[0] + sd * r.nextGaussian(), px[1] + sd * r.nextGaussian()});
        }
      }
      if (rows.size() > 20) {
        String name = String.format(Locale.ROOT, "p%03d", names.size());
        rows.forEach(row -> o.add(name, (int) row[0], row[1], row[2]));
        names.add(name);
        true3d.add(at);
        if (!off) {
          ground.add(name);
        }
      }
    }
    Observations seen = o.build();
    Triangulation t = new Triangulation(c, size, seen);
    double[] xyz = new double[3 * names.size()];
    for (int i = 0; i < names.size(); i++) {
      Vec3 v = noisePx == 0 ? true3d.get(i) : t.of(names.get(i)).orElseThrow().position();
      xyz[3 * i] = v.x();
      xyz[3 * i + 1] = v.y();
      xyz[3 * i + 2] = v.z();
    }
    Shot world =
        new Shot(
            "walk-" + seed,
            size,
            Rate.FPS_24,
            frames,
            1001,
            List.of(c),
            List.of(TrackerSet.of("trackers", names, xyz)),
            seen,
            List.of(),
            Similarity.IDENTITY);
    Similarity truth = anySimilarity(r);
    return new Made(world.withLevel(truth.inverse()).levelled().contents(), truth, ground);
  }

  /** The same scene with other noise in its tracks, and its trackers where they put them. */
  static Made noisy(Made m, double noisePx, long seed) {
    Random r = new Random(seed);
    Shot s = m.solved();
    ShotCamera c = s.cameras().get(0);
    Observations was = s.observations();
    Observations.Builder o = new Observations.Builder();
    double sd = noisePx / Math.sqrt(2);
    TrackerSet set = s.trackers().get(0);
    for (String n : set.names()) {
      for (int row = was.firstRow(n); row < was.endRow(n); row++) {
        o.add(
            n,
            was.frame(row),
            was.x(row) + sd * r.nextGaussian(),
            was.y(row) + sd * r.nextGaussian());
      }
    }
    Observations seen = o.build();
    Triangulation t = new Triangulation(c, s.picture(), seen);
    double[] xyz = new double[3 * set.size()];
    for (int i = 0; i < set.size(); i++) {
      Vec3 v = t.refined(set.names().get(i), set.position(i)).orElseThrow();
      xyz[3 * i] = v.x();
      xyz[3 * i + 1] = v.y();
      xyz[3 * i + 2] = v.z();
    }
    return new Made(
        s.withObservations(seen).withTrackers(List.of(TrackerSet.of(set.name(), set.names(), xyz))),
        m.truth(),
        m.ground());
  }
}
