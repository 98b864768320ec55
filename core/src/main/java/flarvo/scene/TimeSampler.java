package flarvo.scene;

/**
 * Motion between frames. Positions go along a cubic through the four nearest frames (Catmull-Rom),
 * rotations along the shortest arc, lengths of the film straight; a gap is bridged by a cubic too.
 * What is keyed straight, as in files that are written here, is {@link #straight}. Outside its
 * range a motion is held.
 */
public final class TimeSampler {

  private static final long MOST = Integer.MAX_VALUE;

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
    return across(here, poses.at(i + 1), p2.minus(p0).times(0.5), p3.minus(p1).times(0.5), u);
  }

  /**
   * A pose on the way from one to another: a cubic (Hermite) for the place, the shortest arc for
   * the rotation.
   *
   * @param in how the place changes at the beginning, over the whole way
   * @param out how it changes at the end
   * @param u from 0 to 1
   */
  public static Pose across(Pose a, Pose b, Vec3 in, Vec3 out, double u) {
    double u2 = u * u;
    double u3 = u2 * u;
    Vec3 place =
        a.position()
            .times(2 * u3 - 3 * u2 + 1)
            .plus(in.times(u3 - 2 * u2 + u))
            .plus(b.position().times(3 * u2 - 2 * u3))
            .plus(out.times(u3 - u2));
    return new Pose(place, a.rotation().slerp(b.rotation(), u));
  }

  /** A pose between frames that are keyed straight, turning along the shortest arc. */
  public static Pose straight(PoseTrack poses, Fraction frame) {
    FrameRange range = poses.frames();
    int i = range.clamp(Math.toIntExact(Math.max(-MOST, Math.min(MOST, frame.floor()))));
    double u = frame.minus(Fraction.of(i)).toDouble();
    Pose a = poses.at(i);
    if (u <= 0 || i == range.last()) {
      return a;
    }
    Pose b = poses.at(i + 1);
    return new Pose(
        a.position().times(1 - u).plus(b.position().times(u)), a.rotation().slerp(b.rotation(), u));
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
