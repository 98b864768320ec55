package flarvo.dispatch;

import flarvo.convention.FrameMap;
import flarvo.scene.Fraction;
import flarvo.scene.FrameRange;
import flarvo.scene.Mesh;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;

/**
 * A motion on the recipient's frames. Keeping frames it is only renumbered; keeping seconds,
 * positions go along a cubic through the four nearest frames, rotations along the shortest arc.
 */
final class Resampler {

  private Resampler() {}

  static ShotCamera onto(ShotCamera camera, FrameMap map) {
    if (map.isOffset()) {
      FrameRange own = camera.frames();
      ShotCamera held =
          own.equals(map.plate())
              ? camera
              : new ShotCamera(
                  camera.name(),
                  PoseTrack.of(map.plate(), f -> camera.poses().at(own.clamp(f))),
                  OpticsTrack.of(map.plate(), f -> camera.optics().at(own.clamp(f))),
                  camera.clip());
      return held.shifted(map.recipientFirst() - map.plate().first());
    }
    FrameRange frames = map.recipientFrames();
    return new ShotCamera(
        camera.name(),
        onto(camera.poses(), map),
        OpticsTrack.of(frames, f -> optics(camera, map.toPlate(f))),
        camera.clip());
  }

  static TrackerSet onto(TrackerSet t, FrameMap map) {
    return t.moves() ? t.inGroup(t.group().map(g -> g.map(p -> onto(p, map)))) : t;
  }

  static Mesh onto(Mesh m, FrameMap map) {
    return m.moves() ? m.inGroup(m.group().map(g -> g.map(p -> onto(p, map)))) : m;
  }

  private static PoseTrack onto(PoseTrack poses, FrameMap map) {
    return map.isOffset()
        ? poses.shifted(map.recipientFirst() - map.plate().first())
        : PoseTrack.of(map.recipientFrames(), f -> pose(poses, map.toPlate(f)));
  }

  private static Pose pose(PoseTrack poses, Fraction frame) {
    FrameRange range = poses.frames();
    int i = range.clamp(Math.toIntExact(frame.floor()));
    double u = frame.minus(Fraction.of(i)).toDouble();
    Pose here = poses.at(i);
    if (u == 0 || i == range.last()) {
      return here;
    }
    Vec3 p0 = poses.at(range.clamp(i - 1)).position();
    Vec3 p1 = here.position();
    Vec3 p2 = poses.at(i + 1).position();
    Vec3 p3 = poses.at(range.clamp(i + 2)).position();
    return new Pose(
        new Vec3(
            cubic(p0.x(), p1.x(), p2.x(), p3.x(), u),
            cubic(p0.y(), p1.y(), p2.y(), p3.y(), u),
            cubic(p0.z(), p1.z(), p2.z(), p3.z(), u)),
        here.rotation().slerp(poses.at(i + 1).rotation(), u));
  }

  /** Through b at u = 0 and c at u = 1, with slopes from the neighbours. */
  private static double cubic(double a, double b, double c, double d, double u) {
    return b + 0.5 * u * (c - a + u * (2 * a - 5 * b + 4 * c - d + u * (3 * (b - c) + d - a)));
  }

  private static Optics optics(ShotCamera c, Fraction frame) {
    FrameRange range = c.frames();
    int i = range.clamp(Math.toIntExact(frame.floor()));
    double u = frame.minus(Fraction.of(i)).toDouble();
    Optics a = c.optics().at(i);
    if (u == 0 || i == range.last() || c.optics().isConstant()) {
      return a;
    }
    Optics b = c.optics().at(i + 1);
    return new Optics(
        mix(a.focalLengthMm(), b.focalLengthMm(), u),
        mix(a.filmWidthMm(), b.filmWidthMm(), u),
        mix(a.filmHeightMm(), b.filmHeightMm(), u),
        mix(a.principalXMm(), b.principalXMm(), u),
        mix(a.principalYMm(), b.principalYMm(), u));
  }

  private static double mix(double a, double b, double u) {
    return a + (b - a) * u;
  }
}
