package flarvo.vet;

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
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import java.util.Set;

/**
 * Shots with a known truth, their 2D tracks with noise, gaps, short lives and strays. The noise is
 * the RMS of the distance, as errors are measured.
 */
public final class MadeShots {

  /** How a camera goes. */
  public enum Move {
    WALK,
    TRUCK,
    DOLLY,
    CRANE,
    ARC,
    HAND_HELD,
    TRIPOD
  }

  /**
   * @param truth camera, true points, and tracks
   * @param strays trackers that follow no fixed point
   */
  public record Made(Shot truth, Set<String> strays) {}

  private static final PictureSize PICTURE = PictureSize.of(1920, 1080);
  private static final double BACK_WIDTH = 24;
  private static final double BACK_HEIGHT = 13.5;

  private MadeShots() {}

  /**
   * @param amount of the move: 1 is usual, 0.2 gives little parallax
   * @param noisePx RMS of the distance
   * @param strayShare of the trackers
   */
  public static Made made(
      Move move,
      double amount,
      double noisePx,
      double strayShare,
      int frames,
      int points,
      long seed) {
    return zoomed(move, amount, 1, noisePx, strayShare, frames, points, seed);
  }

  /**
   * The same with a focal length that grows evenly.
   *
   * @param zoom last focal length as a factor of the first
   */
  public static Made zoomed(
      Move move,
      double amount,
      double zoom,
      double noisePx,
      double strayShare,
      int frames,
      int points,
      long seed) {
    Random r = new Random(seed * 0x9E3779B97F4A7C15L); // neighbouring seeds begin alike otherwise
    double focal = 16 + 24 * r.nextDouble();
    FrameRange range = new FrameRange(1001, 1000 + frames);
    double[] phase = {r.nextDouble() * 6, r.nextDouble() * 6, r.nextDouble() * 6};
    ShotCamera camera =
        new ShotCamera(
            "cam",
            PoseTrack.of(range, f -> pose(move, amount, (f - 1001) / (frames - 1.0), phase)),
            OpticsTrack.of(
                range,
                f ->
                    Optics.centred(
                        focal * (1 + (zoom - 1) * (f - 1001) / (frames - 1.0)),
                        BACK_WIDTH,
                        BACK_HEIGHT)),
            Optional.empty());
    Pinhole pinhole = new Pinhole(camera, PICTURE);
    Observations.Builder o = new Observations.Builder();
    List<String> names = new ArrayList<>();
    List<Vec3> places = new ArrayList<>();
    Set<String> strays = new HashSet<>();
    double[] px = new double[3];
    int tries = 0;
    while (names.size() < points && tries++ < 100 * points) {
      // Born where the camera looks at some frame, at some depth.
      int born = range.first() + r.nextInt(frames);
      double depth = 3 + 9 * r.nextDouble() * r.nextDouble();
      Vec3 ray =
          pinhole.at(born).ray(PICTURE.width() * r.nextDouble(), PICTURE.height() * r.nextDouble());
      Vec3 p = camera.poses().at(born).position().plus(ray.times(depth));
      int life = 15 + r.nextInt(frames);
      int from = Math.max(range.first(), born - r.nextInt(life));
      boolean stray = r.nextDouble() < strayShare;
      Vec3 walk =
          stray
              ? new Vec3(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()).times(0.02)
              : Vec3.ZERO;
      String name = String.format(Locale.ROOT, "p%03d", names.size());
      List<double[]> rows = new ArrayList<>();
      for (int f = from; f <= Math.min(range.last(), from + life); f++) {
        Vec3 at = p.plus(walk.times(f - born)); // a stray walks off
        pinhole.at(f).project(at.x(), at.y(), at.z(), px);
        boolean gap = (f + names.size()) % 29 == 0;
        if (px[2] > 0.3 && px[0] > 0 && px[1] > 0 && px[0] < 1920 && px[1] < 1080 && !gap) {
          rows.add(
              new double[] {
                f,
                px[0] + noisePx / Math.sqrt(2) * r.nextGaussian(),
                px[1] + noisePx / Math.sqrt(2) * r.nextGaussian()
              });
        }
      }
      if (rows.size() < 12) {
        continue;
      }
      rows.forEach(row -> o.add(name, (int) row[0], row[1], row[2]));
      names.add(name);
      places.add(p);
      if (stray) {
        strays.add(name);
      }
    }
    double[] xyz = new double[3 * names.size()];
    for (int i = 0; i < names.size(); i++) {
      xyz[3 * i] = places.get(i).x();
      xyz[3 * i + 1] = places.get(i).y();
      xyz[3 * i + 2] = places.get(i).z();
    }
    return new Made(
        new Shot(
            move + "-" + seed,
            PICTURE,
            Rate.FPS_24,
            range,
            1001,
            List.of(camera),
            List.of(TrackerSet.of("trackers", names, xyz)),
            o.build(),
            List.of(),
            Similarity.IDENTITY),
        strays);
  }

  /** The camera at a share of the shot, 0 to 1; hands shake it a little. */
  private static Pose pose(Move move, double amount, double s, double[] phase) {
    double a = amount * (s - 0.5);
    double shakeX = 0.004 * Math.sin(40 * s + phase[0]);
    double shakeY = 0.004 * Math.sin(33 * s + phase[1]);
    Vec3 eye =
        switch (move) {
          case WALK -> new Vec3(1.6 * a, 1.6 + 0.03 * Math.sin(25 * s), -1.2 * a);
          case TRUCK -> new Vec3(2.5 * a, 1.5, 0);
          case DOLLY -> new Vec3(0.02 * a, 1.5, -2.2 * a);
          case CRANE -> new Vec3(0.3 * a, 2 + 2 * a, -0.5 * a);
          case ARC -> new Vec3(5 * Math.sin(0.7 * a), 1.5, 5 * Math.cos(0.7 * a) - 5);
          case HAND_HELD ->
              new Vec3(
                  amount * 0.25 * Math.sin(7 * s + phase[0]),
                  1.6 + amount * 0.15 * Math.sin(9 * s + phase[1]),
                  amount * 0.2 * Math.sin(5 * s + phase[2]));
          case TRIPOD -> new Vec3(0, 1.6, 0);
        };
    double pan =
        switch (move) {
          case ARC -> 0.7 * a;
          case TRIPOD -> 0.6 * a;
          case WALK -> 0.25 * a;
          default -> 0.05 * a;
        };
    double tilt = move == Move.CRANE ? -0.2 * a : move == Move.TRIPOD ? 0.15 * a : 0;
    Rotation turn =
        Rotation.about(new Vec3(0, 1, 0), pan + shakeX)
            .after(Rotation.about(new Vec3(1, 0, 0), tilt + shakeY));
    return new Pose(eye, turn);
  }

  /** The truth's shot with camera and points shaken, as a poor solve has them. */
  public static Shot shaken(Shot truth, double metres, double radians, long seed) {
    Random r = new Random(seed);
    ShotCamera c = truth.cameras().get(0);
    PoseTrack poses =
        PoseTrack.of(
            c.frames(),
            f -> {
              Pose p = c.poses().at(f);
              Vec3 axis = gaussian(r);
              return new Pose(
                  p.position().plus(gaussian(r).times(metres)),
                  p.rotation().after(Rotation.about(axis, radians * r.nextGaussian())));
            });
    return truth
        .withCameras(List.of(c.withPoses(poses)))
        .withTrackers(
            truth.trackers().stream()
                .map(t -> t.map(p -> p.plus(gaussian(r).times(metres))))
                .toList());
  }

  private static Vec3 gaussian(Random r) {
    return new Vec3(r.nextGaussian(), r.nextGaussian(), r.nextGaussian());
  }
}
