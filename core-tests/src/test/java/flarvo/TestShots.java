package flarvo;

import flarvo.scene.ClipRange;
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
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;

/** Generated shots with a known truth, for tests. */
public final class TestShots {

  public static final PictureSize HD = PictureSize.of(1920, 1080);

  private TestShots() {}

  public static Rotation randomRotation(Random r) {
    return Rotation.normalized(
        r.nextGaussian(), r.nextGaussian(), r.nextGaussian(), r.nextGaussian());
  }

  public static Pose randomPose(Random r) {
    return new Pose(
        new Vec3(4 * r.nextGaussian(), 4 * r.nextGaussian(), 4 * r.nextGaussian()),
        randomRotation(r));
  }

  /** A camera that walks round the origin and looks at it, and points about the origin. */
  public static Shot walk(int frames, int points, long seed) {
    return walkFrom(1001, frames, points, seed);
  }

  /** The same from another frame on. */
  public static Shot walkFrom(int first, int frames, int points, long seed) {
    FrameRange range = new FrameRange(first, first + frames - 1);
    ShotCamera camera =
        new ShotCamera(
            "cam main",
            PoseTrack.of(range, f -> orbit((f - first) * 0.011, seed)),
            OpticsTrack.constant(range, Optics.centred(24, 24.576, 13.824)),
            Optional.of(new ClipRange(0.1, 500)));
    return shot(camera, points, seed, Vec3.ZERO);
  }

  /** Focal length, principal point and pose all change. */
  public static Shot zoom(int frames, int points, long seed) {
    FrameRange range = new FrameRange(-3, frames - 4);
    ShotCamera camera =
        new ShotCamera(
            "zoom",
            PoseTrack.of(range, f -> orbit(f * 0.02, seed)),
            OpticsTrack.of(range, f -> new Optics(35 + 0.25 * f, 36, 20.25, 0.31, -0.12)),
            Optional.empty());
    return shot(camera, points, seed, Vec3.ZERO);
  }

  /** The same shot with everything moved. */
  public static Shot moved(Shot s, Vec3 by) {
    return s.withLevel(new Similarity(1, Rotation.IDENTITY, by)).levelled().contents();
  }

  private static Pose orbit(double angle, long seed) {
    Vec3 eye =
        new Vec3(4 * Math.sin(angle), 1.6 + 0.1 * Math.sin(7 * angle + seed), 4 * Math.cos(angle));
    Vec3 back = eye.minus(new Vec3(0, 0.5, 0)).normalized();
    Vec3 right = new Vec3(0, 1, 0).cross(back).normalized();
    Vec3 up = back.cross(right);
    return new Pose(
        eye,
        Rotation.fromRows(
            right.x(), up.x(), back.x(), right.y(), up.y(), back.y(), right.z(), up.z(), back.z()));
  }

  private static Shot shot(ShotCamera camera, int points, long seed, Vec3 at) {
    Random r = new Random(seed);
    List<String> names = new ArrayList<>();
    double[] xyz = new double[3 * points];
    for (int i = 0; i < points; i++) {
      names.add("trk " + (i + 1));
      xyz[3 * i] = at.x() + 2.4 * (r.nextDouble() - 0.5);
      xyz[3 * i + 1] = at.y() + 1.6 * r.nextDouble();
      xyz[3 * i + 2] = at.z() + 2.4 * (r.nextDouble() - 0.5);
    }
    return new Shot(
        "test",
        HD,
        Rate.NTSC_24,
        camera.frames(),
        camera.frames().first(),
        List.of(camera),
        List.of(TrackerSet.of("trackers", names, xyz)),
        Observations.NONE,
        List.of(),
        Similarity.IDENTITY);
  }

  /** Largest distance in pixels between what two cameras make of points of their own. */
  public static double worstPixel(
      ShotCamera a, List<TrackerSet> pa, ShotCamera b, List<TrackerSet> pb, PictureSize size) {
    Pinhole ha = new Pinhole(a, size);
    Pinhole hb = new Pinhole(b, size);
    double[] x = new double[3];
    double[] y = new double[3];
    double worst = 0;
    for (int f = a.frames().first(); f <= a.frames().last(); f++) {
      ha.at(f);
      hb.at(f - a.frames().first() + b.frames().first());
      for (int s = 0; s < pa.size(); s++) {
        for (int i = 0; i < pa.get(s).size(); i++) {
          ha.project(pa.get(s).x(i), pa.get(s).y(i), pa.get(s).z(i), x);
          hb.project(pb.get(s).x(i), pb.get(s).y(i), pb.get(s).z(i), y);
          if (x[2] > 0) {
            worst = Math.max(worst, Math.hypot(x[0] - y[0], x[1] - y[1]));
          }
        }
      }
    }
    return worst;
  }

  /** Where each tracker of a shot is seen, frame by frame, as a table of 2D tracks. */
  public static String tracksTable(Shot shot) {
    StringBuilder s = new StringBuilder("tracker,frame,x,y\n");
    Pinhole h = new Pinhole(shot.camera().orElseThrow(), shot.picture());
    double[] px = new double[3];
    TrackerSet t = shot.trackers().get(0);
    for (int i = 0; i < t.size(); i++) {
      for (int f = shot.frames().first(); f <= shot.frames().last(); f++) {
        h.at(f).project(t, i, px);
        s.append(t.names().get(i)).append(',').append(f);
        s.append(String.format(Locale.ROOT, ",%.6f,%.6f%n", px[0], px[1]));
      }
    }
    return s.toString();
  }
}
