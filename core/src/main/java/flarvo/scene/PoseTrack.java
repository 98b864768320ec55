package flarvo.scene;

import java.util.Arrays;

/** One pose for each frame of a range, stored as seven doubles a frame. Immutable. */
public final class PoseTrack {

  private static final int STRIDE = 7;

  private final FrameRange frames;
  private final double[] values; // x y z qw qx qy qz, frame after frame

  private PoseTrack(FrameRange frames, double[] values) {
    this.frames = frames;
    this.values = values;
  }

  /** Builds a track by asking for the pose of each frame once, in order. */
  public static PoseTrack of(FrameRange frames, java.util.function.IntFunction<Pose> poseAt) {
    double[] v = new double[frames.count() * STRIDE];
    for (int i = 0; i < frames.count(); i++) {
      Pose p = poseAt.apply(frames.first() + i);
      int k = i * STRIDE;
      v[k] = p.position().x();
      v[k + 1] = p.position().y();
      v[k + 2] = p.position().z();
      v[k + 3] = p.rotation().w();
      v[k + 4] = p.rotation().x();
      v[k + 5] = p.rotation().y();
      v[k + 6] = p.rotation().z();
    }
    return new PoseTrack(frames, v);
  }

  public FrameRange frames() {
    return frames;
  }

  /** Pose at a frame of the range. */
  public Pose at(int frame) {
    int k = index(frame);
    return new Pose(
        new Vec3(values[k], values[k + 1], values[k + 2]),
        new Rotation(values[k + 3], values[k + 4], values[k + 5], values[k + 6]));
  }

  /** On the frames of a range only; before its first frame and after its last it is held. */
  public PoseTrack within(FrameRange part) {
    return of(part, f -> at(frames.clamp(f)));
  }

  /** Every pose changed, such as from one space to another. */
  public PoseTrack map(java.util.function.UnaryOperator<Pose> change) {
    return of(frames, f -> change.apply(at(f)));
  }

  /** The same poses under other frame numbers. */
  public PoseTrack shifted(int by) {
    return new PoseTrack(frames.shifted(by), values);
  }

  /** Writes position into {@code t[0..2]} and the rotation's rows into {@code rows[0..8]}. */
  void load(int frame, double[] t, double[] rows) {
    int k = index(frame);
    t[0] = values[k];
    t[1] = values[k + 1];
    t[2] = values[k + 2];
    Rotation.rows(values[k + 3], values[k + 4], values[k + 5], values[k + 6], rows);
  }

  private int index(int frame) {
    if (!frames.contains(frame)) {
      throw new IndexOutOfBoundsException("frame " + frame + " is outside " + frames);
    }
    return (frame - frames.first()) * STRIDE;
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof PoseTrack p && frames.equals(p.frames) && Arrays.equals(values, p.values);
  }

  @Override
  public int hashCode() {
    return 31 * frames.hashCode() + Arrays.hashCode(values);
  }
}
