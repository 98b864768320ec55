package flarvo.scene;

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

  /** Frames of its poses. */
  public FrameRange frames() {
    return poses.frames();
  }

  /** The same under frame numbers that are {@code by} higher. */
  public ShotCamera shifted(int by) {
    return new ShotCamera(name, poses.shifted(by), optics.shifted(by), clip);
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
}
