package flarvo.stage;

import flarvo.report.Figures;
import flarvo.report.InputError;
import flarvo.scene.Vec3;

/**
 * Where the light comes from, as angles in the levelled world.
 *
 * @param azimuth degrees clockwise as seen from above: 0 from −z, 90 from +x
 * @param elevation degrees over the horizon, over 0 up to 90
 */
public record SunDirection(double azimuth, double elevation) {

  private static final double LEAST = 1;

  /**
   * @throws InputError when the light would come from under the horizon, or nearly along it
   */
  public SunDirection {
    if (!Double.isFinite(azimuth) || !(elevation >= LEAST && elevation <= 90)) {
      throw InputError.words(
          "a light "
              + (Double.isFinite(elevation) ? Figures.of(elevation) : elevation)
              + "° over the horizon casts no shadow on the ground",
          "Give an elevation of 1 to 90°");
    }
    azimuth = azimuth - 360 * Math.floor(azimuth / 360);
  }

  /**
   * The angles of a direction.
   *
   * @param towards to the light, in the levelled world; of any length
   * @throws InputError when it points under the horizon
   */
  public static SunDirection of(Vec3 towards) {
    double level = Math.hypot(towards.x(), towards.z());
    return new SunDirection(
        Math.toDegrees(Math.atan2(towards.x(), -towards.z())),
        Math.toDegrees(Math.atan2(towards.y(), level)));
  }

  /** To the light, in the levelled world; of length one. */
  public Vec3 towards() {
    double a = Math.toRadians(azimuth);
    double e = Math.toRadians(elevation);
    return new Vec3(Math.cos(e) * Math.sin(a), Math.sin(e), -Math.cos(e) * Math.cos(a));
  }
}
