package flarvo.level;

import flarvo.scene.Vec3;

/**
 * How well a tracker's place is known: standard errors in solve space along the way to the camera
 * that sees it from nearest, and across it.
 *
 * @param ray unit direction of that way
 */
public record Spread(Vec3 ray, double along, double across) {

  /** Variance along a unit direction. */
  public double variance(Vec3 d) {
    double c = ray.dot(d);
    return along * along * c * c + across * across * (1 - c * c);
  }
}
