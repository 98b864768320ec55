package flarvo.convention;

import flarvo.scene.FrameRange;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Vec3;

/**
 * Unrolled angles for each frame: of the equivalent solutions, each frame takes the one nearest to
 * its neighbour, so no curve jumps by a full or half turn. At a pole, where one angle is free, it
 * stays as it was.
 */
public final class EulerTrack {

  private final FrameRange frames;
  private final RotationOrder order;
  private final double[] radians; // x y z, frame after frame

  private EulerTrack(FrameRange frames, RotationOrder order, double[] radians) {
    this.frames = frames;
    this.order = order;
    this.radians = radians;
  }

  /** Angles of one rotation, at frame 0. */
  public static EulerTrack of(Rotation r, RotationOrder order) {
    return of(PoseTrack.of(new FrameRange(0, 0), f -> new Pose(Vec3.ZERO, r)), order);
  }

  /** Angles of rotations in an order, continuous over the frames. */
  public static EulerTrack of(PoseTrack poses, RotationOrder order) {
    FrameRange frames = poses.frames();
    double[] out = new double[frames.count() * 3];
    // Begin at a frame whose angles are certain, and unroll from there both ways.
    int seed = frames.first();
    while (seed < frames.last() && order.atPole(poses.at(seed).rotation())) {
      seed++;
    }
    double[] start = order.decompose(poses.at(seed).rotation(), 0);
    put(out, seed - frames.first(), start);
    double[] previous = start;
    for (int f = seed + 1; f <= frames.last(); f++) {
      previous = next(order, poses.at(f).rotation(), previous);
      put(out, f - frames.first(), previous);
    }
    previous = start;
    for (int f = seed - 1; f >= frames.first(); f--) {
      previous = next(order, poses.at(f).rotation(), previous);
      put(out, f - frames.first(), previous);
    }
    return new EulerTrack(frames, order, out);
  }

  public FrameRange frames() {
    return frames;
  }

  public RotationOrder order() {
    return order;
  }

  /** Radians about x (0), y (1) or z (2) at a frame. */
  public double radians(int frame, int axis) {
    if (!frames.contains(frame)) {
      throw new IndexOutOfBoundsException("frame " + frame + " is outside " + frames);
    }
    return radians[3 * (frame - frames.first()) + axis];
  }

  /** Angle about axis {@code axis} (0 x, 1 y, 2 z) at a frame. */
  public double degrees(int frame, int axis) {
    return Math.toDegrees(radians(frame, axis));
  }

  private static double[] next(RotationOrder order, Rotation r, double[] previous) {
    double[] one = order.decompose(r, previous[order.first]);
    double[] two = order.other(one);
    nearest(one, previous);
    nearest(two, previous);
    return distance(one, previous) <= distance(two, previous) ? one : two;
  }

  private static void nearest(double[] angles, double[] previous) {
    double full = 2 * Math.PI;
    for (int i = 0; i < 3; i++) {
      angles[i] += full * Math.rint((previous[i] - angles[i]) / full);
    }
  }

  private static double distance(double[] a, double[] b) {
    return Math.abs(a[0] - b[0]) + Math.abs(a[1] - b[1]) + Math.abs(a[2] - b[2]);
  }

  private static void put(double[] out, int index, double[] angles) {
    System.arraycopy(angles, 0, out, 3 * index, 3);
  }
}
