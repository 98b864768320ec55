package flarvo.scene;

/** Where a camera or locator stands: local to world. */
public record Pose(Vec3 position, Rotation rotation) {

  public static final Pose IDENTITY = new Pose(Vec3.ZERO, Rotation.IDENTITY);

  public Pose {
    java.util.Objects.requireNonNull(position);
    java.util.Objects.requireNonNull(rotation);
  }

  /** A point of camera space in the world. */
  public Vec3 toWorld(Vec3 local) {
    return rotation.apply(local).plus(position);
  }

  /** A point of the world in camera space: x right, y up, −z along the view. */
  public Vec3 toLocal(Vec3 world) {
    return rotation.inverse().apply(world.minus(position));
  }
}
