package flarvo.bench;

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
import flarvo.suspect.SuspectReport;
import flarvo.suspect.SuspectSearch;
import flarvo.work.Progress;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import java.util.stream.IntStream;

/** The search for what is wrong with a file, in a process that has searched nothing before. */
final class SuspectBench {

  private static final double NOISE_PX = 0.3;

  private SuspectBench() {}

  static void run() {
    for (int[] size : new int[][] {{100, 200}, {1000, 1000}}) {
      Shot truth = truth(size[0], size[1]);
      Observations seen = tracks(truth);
      Shot late = shifted(truth);
      measure("one frame late", late, seen);
      measure("one frame late, points in other axes", swapped(late), seen);
      measure("one frame late again", late, seen);
      measure("one frame late, points in other axes, again", swapped(late), seen);
    }
  }

  private static void measure(String what, Shot shot, Observations seen) {
    long start = System.nanoTime();
    SuspectReport r = SuspectSearch.of(shot, seen, OptionalDouble.empty(), Progress.NONE);
    System.out.printf(
        Locale.ROOT,
        "suspects, %d frames × %d tracks, %s: %.2f s, %s%n",
        shot.frames().count(),
        shot.trackerCount(),
        what,
        (System.nanoTime() - start) / 1e9,
        r.suspects().isEmpty() ? "nothing found" : r.suspects().get(0).sentence());
  }

  /** A walk round things that lie five metres about the middle. */
  private static Shot truth(int frameCount, int points) {
    FrameRange frames = new FrameRange(1001, 1000 + frameCount);
    ShotCamera camera =
        new ShotCamera(
            "cam",
            PoseTrack.of(
                frames,
                f -> {
                  double t = (f - 1001) * 0.6;
                  return new Pose(
                      new Vec3(
                          4 * Math.sin(0.02 * t),
                          1.6 + 0.05 * Math.sin(0.4 * t),
                          9 + Math.cos(0.01 * t)),
                      Rotation.about(
                          new Vec3(0.1, 1, 0),
                          0.2 * Math.sin(0.02 * t) + 0.02 * Math.sin(0.2 * t)));
                }),
            OpticsTrack.constant(frames, Optics.centred(28, 24.576, 13.824)),
            Optional.empty());
    Random r = new Random(5);
    double[] xyz = new double[3 * points];
    for (int i = 0; i < points; i++) {
      xyz[3 * i] = 10 * r.nextDouble() - 4;
      xyz[3 * i + 1] = 3 * r.nextDouble();
      xyz[3 * i + 2] = 8 * r.nextDouble() - 6;
    }
    return new Shot(
        "bench",
        PictureSize.of(1920, 1080),
        Rate.FPS_24,
        frames,
        1001,
        List.of(camera),
        List.of(
            TrackerSet.of(
                "trackers", IntStream.range(0, points).mapToObj(i -> "t" + i).toList(), xyz)),
        Observations.NONE,
        List.of(),
        Similarity.IDENTITY);
  }

  private static Observations tracks(Shot s) {
    Random r = new Random(6);
    Observations.Builder b = new Observations.Builder();
    Pinhole eye = new Pinhole(s.camera().orElseThrow(), s.picture());
    TrackerSet t = s.trackers().get(0);
    double[] px = new double[3];
    for (int f = s.frames().first(); f <= s.frames().last(); f++) {
      eye.at(f);
      for (int i = 0; i < t.size(); i++) {
        eye.project(t, i, px);
        if (px[2] > 0 && px[0] > 0 && px[0] < 1920 && px[1] > 0 && px[1] < 1080) {
          b.add(
              t.names().get(i),
              f,
              px[0] + NOISE_PX * r.nextGaussian(),
              px[1] + NOISE_PX * r.nextGaussian());
        }
      }
    }
    return b.build();
  }

  private static Shot shifted(Shot s) {
    ShotCamera c = s.camera().orElseThrow();
    FrameRange f = s.frames();
    PoseTrack late = PoseTrack.of(f, k -> c.poses().at(Math.max(f.first(), k - 1)));
    return s.withCameras(List.of(new ShotCamera(c.name(), late, c.optics(), Optional.empty())));
  }

  private static Shot swapped(Shot s) {
    return s.withTrackers(
        s.trackers().stream().map(t -> t.map(v -> new Vec3(v.x(), -v.z(), v.y()))).toList());
  }
}
