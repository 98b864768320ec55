package flarvo.format;

import flarvo.scene.FrameRange;
import flarvo.scene.Vec3;
import java.util.Optional;

/**
 * For formats whose places are 32-bit floats: where a shot lies so far out that they would be too
 * coarse, everything goes under one parent near the middle, whose whole numbers floats hold
 * exactly.
 */
public final class ShotCentre {

  /**
   * Beyond this distance from the origin, in metres, floats begin to cost thousandths of a pixel.
   */
  private static final double BEYOND_METRES = 20;

  /** Name of that parent where it hangs from another one. */
  public static final String NODE = "shot_centre";

  private ShotCentre() {}

  /** In the unit of the scene, or of the parent it hangs from; empty when none is needed. */
  public static Optional<Vec3> of(FileScene all, double metresPerWorldUnit) {
    FileScene scene = all.inParent();
    double metresPerUnit =
        metresPerWorldUnit
            * scene.parents().stream()
                .mapToDouble(p -> p.place().scale())
                .reduce(1, (a, b) -> a * b);
    double[] lo = {Double.MAX_VALUE, Double.MAX_VALUE, Double.MAX_VALUE};
    double[] hi = {-Double.MAX_VALUE, -Double.MAX_VALUE, -Double.MAX_VALUE};
    double furthest = 0;
    for (FileCamera c : scene.cameras()) {
      FrameRange frames = c.camera().frames();
      for (int f = frames.first(); f <= frames.last(); f++) {
        Vec3 p = c.camera().poses().at(f).position();
        double[] v = {p.x(), p.y(), p.z()};
        for (int i = 0; i < 3; i++) {
          lo[i] = Math.min(lo[i], v[i]);
          hi[i] = Math.max(hi[i], v[i]);
          furthest = Math.max(furthest, Math.abs(v[i]));
        }
      }
    }
    if (furthest * metresPerUnit <= BEYOND_METRES) {
      return Optional.empty();
    }
    return Optional.of(
        new Vec3(
            Math.rint((lo[0] + hi[0]) / 2),
            Math.rint((lo[1] + hi[1]) / 2),
            Math.rint((lo[2] + hi[2]) / 2)));
  }
}
