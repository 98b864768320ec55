package flarvo.scene;

/**
 * Motion between frames: positions go along a cubic through the four nearest frames (Catmull-Rom),
 * rotations along the shortest arc, lengths of the film straight. Outside its range a motion is
 * held.
 */
public final class TimeSampler {

  private TimeSampler() {}

  /** A pose between frames. */
  public static Pose pose(PoseTrack poses, Fraction frame) {
    FrameRange range = poses.frames();
    int i = range.clamp(Math.toIntExact(frame.floor()));
    double u = frame.minus(Fraction.of(i)).toDouble();
    Pose here = poses.at(i);
    if (u <= 0 || i == range.last()) {
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

  /** Lens and film between frames. */
  public static Optics optics(OpticsTrack track, Fraction frame) {
    FrameRange range = track.frames();
    int i = range.clamp(Math.toIntExact(frame.floor()));
    double u = frame.minus(Fraction.of(i)).toDouble();
    Optics a = track.at(i);
    if (u <= 0 || i == range.last() || track.isConstant()) {
      return a;
    }
    Optics b = track.at(i + 1);
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
