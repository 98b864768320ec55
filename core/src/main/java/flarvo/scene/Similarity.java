package flarvo.scene;

/**
 * A level: {@code world = scale · rotation(solve) + translation}. It moves camera and points
 * together, so it never changes the picture.
 */
public record Similarity(double scale, Rotation rotation, Vec3 translation) {

  public static final Similarity IDENTITY = new Similarity(1, Rotation.IDENTITY, Vec3.ZERO);

  public Similarity {
    if (!(scale > 0) || !Double.isFinite(scale)) {
      throw new IllegalArgumentException("a scale must be positive, not " + scale);
    }
  }

  /** Scaled, rotated, then moved. */
  public Vec3 apply(Vec3 v) {
    return rotation.apply(v).times(scale).plus(translation);
  }

  /** Scaled, rotated, then moved. */
  public Pose apply(Pose p) {
    return new Pose(apply(p.position()), rotation.after(p.rotation()));
  }

  /** The similarity that takes this one back. */
  public Similarity inverse() {
    Rotation r = rotation.inverse();
    return new Similarity(1 / scale, r, r.apply(translation).times(-1 / scale));
  }

  /** This similarity after {@code first}. */
  public Similarity after(Similarity first) {
    if (first.equals(IDENTITY)) {
      return this; // to the last bit
    }
    return new Similarity(
        scale * first.scale, rotation.after(first.rotation), apply(first.translation));
  }
}
