package flarvo.recipient;

import flarvo.convention.Dialect;
import flarvo.convention.SpaceChange;
import flarvo.scene.PictureSize;
import flarvo.scene.Vec3;

/**
 * How a world stands that was understood otherwise than it was meant. Drift cannot see it: camera
 * and points move together.
 *
 * @param scale size in the recipient's scene over the size meant
 * @param tiltDegrees between the up that was meant and the recipient's
 * @param mirrored whether left and right changed places
 * @param turned whether the axes lie otherwise at all
 * @param offsetMetres how far the origin moved
 */
public record WorldShift(
    double scale, double tiltDegrees, boolean mirrored, boolean turned, double offsetMetres) {

  private static final double SAME = 1e-9;

  /** From the dialect in which a file was meant to the one in which it is read. */
  static WorldShift between(Dialect meant, Dialect read, PictureSize picture) {
    SpaceChange a = meant.spaceChange(picture);
    SpaceChange b = read.spaceChange(picture);
    Vec3 o = b.toCanonical(a.toDialect(Vec3.ZERO));
    Vec3 x = b.toCanonical(a.toDialect(new Vec3(1, 0, 0))).minus(o);
    Vec3 y = b.toCanonical(a.toDialect(new Vec3(0, 1, 0))).minus(o);
    Vec3 z = b.toCanonical(a.toDialect(new Vec3(0, 0, 1))).minus(o);
    double scale = y.length();
    double tilt = Math.toDegrees(Math.acos(Math.max(-1, Math.min(1, y.y() / scale))));
    boolean turned = Math.abs(x.x() / scale - 1) > SAME || Math.abs(z.z() / scale - 1) > SAME;
    return new WorldShift(
        Math.abs(scale - 1) < SAME ? 1 : scale,
        tilt,
        x.cross(y).dot(z) < 0,
        turned || tilt > SAME,
        o.length());
  }

  /** Whether the world stands as it was meant. */
  public boolean isNone() {
    return scale == 1 && !turned && offsetMetres < 1e-6;
  }
}
