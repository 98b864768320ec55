package flarvo.stage;

/**
 * A distance that somebody gave to a tracker of a tripod, which has only a direction by itself.
 *
 * @param distance from the camera, in solve space
 * @param how where it comes from, such as "typed" or "on the ground"
 */
public record GivenDepth(String tracker, double distance, String how) {

  public GivenDepth {
    if (!(distance > 0) || !Double.isFinite(distance)) {
      throw new IllegalArgumentException(tracker + " cannot be " + distance + " away");
    }
  }
}
