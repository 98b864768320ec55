package flarvo.scene;

/** Near and far clipping distance, in the unit of the space of whoever holds it. */
public record ClipRange(double near, double far) {

  public ClipRange {
    if (!(near > 0) || !(far > near) || !Double.isFinite(far)) {
      throw new IllegalArgumentException(
          "clipping planes must be 0 < near < far: " + near + ", " + far);
    }
  }

  /** Both distances times a factor. */
  public ClipRange scaled(double k) {
    return new ClipRange(near * k, far * k);
  }
}
