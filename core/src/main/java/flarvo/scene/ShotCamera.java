package flarvo.scene;

import java.util.List;
import java.util.Objects;
import java.util.Optional;

/** A solved camera: a pose and optics for each frame, and clipping distances where known. */
public record ShotCamera(
    String name, PoseTrack poses, OpticsTrack optics, Optional<ClipRange> clip) {

  public ShotCamera {
    Objects.requireNonNull(name);
    Objects.requireNonNull(clip);
    if (!poses.frames().equals(optics.frames())) {
      throw new IllegalArgumentException(
          "poses run " + poses.frames() + " but optics run " + optics.frames());
    }
  }

  /** How far a nodal camera may stray, as a share of the distance of its nearest tracker. */
  private static final double NODAL = 1e-4;

  /**
   * Whether it only turns: then a tracker is a direction and no place. It is measured against the
   * nearest of the trackers that stand still; without any, against one unit.
   */
  public boolean isNodal(List<TrackerSet> trackers) {
    Vec3 first = poses.at(frames().first()).position();
    double strayed = 0;
    for (int f = frames().first(); f <= frames().last(); f++) {
      strayed = Math.max(strayed, poses.at(f).position().minus(first).length());
    }
    double near = Double.POSITIVE_INFINITY;
    for (TrackerSet t : trackers) {
      for (int i = 0; i < t.size() && !t.moves(); i++) {
        near = Math.min(near, t.position(i).minus(first).length());
      }
    }
    return strayed <= NODAL * (Double.isFinite(near) ? near : 1);
  }

  /** Frames of its poses. */
  public FrameRange frames() {
    return poses.frames();
  }

  /** The same under frame numbers that are {@code by} higher. */
  public ShotCamera shifted(int by) {
    return new ShotCamera(name, poses.shifted(by), optics.shifted(by), clip);
  }

  /** On the frames of a range only; before its first frame and after its last it is held. */
  public ShotCamera within(FrameRange part) {
    FrameRange own = frames();
    return new ShotCamera(
        name, poses.within(part), OpticsTrack.of(part, f -> optics.at(own.clamp(f))), clip);
  }

  public ShotCamera withName(String n) {
    return new ShotCamera(n, poses, optics, clip);
  }

  public ShotCamera withPoses(PoseTrack p) {
    return new ShotCamera(name, p, optics, clip);
  }

  public ShotCamera withOptics(OpticsTrack o) {
    return new ShotCamera(name, poses, o, clip);
  }

  public ShotCamera withClip(ClipRange c) {
    return new ShotCamera(name, poses, optics, Optional.of(c));
  }

  /** For a format that has no place for clipping planes. */
  public ShotCamera withoutClip() {
    return new ShotCamera(name, poses, optics, Optional.empty());
  }
}
