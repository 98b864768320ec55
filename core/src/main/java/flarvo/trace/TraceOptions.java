package flarvo.trace;

/**
 * How features are found and followed.
 *
 * @param features wanted in each frame, spread over the picture
 * @param radius of a pattern: pixels to each side of its centre
 * @param errorPx largest standard error of a feature's place, by what is left over of its pattern
 */
public record TraceOptions(int features, int radius, double errorPx) {

  public static final int MOST_FEATURES = 20_000;
  public static final int LARGEST_RADIUS = 40;
  public static final int SMALLEST_RADIUS = 4;

  public static final double SMALLEST_ERROR_PX = 0.01;
  public static final double LARGEST_ERROR_PX = 1;

  public static final int USUAL_FEATURES = 300;
  public static final int USUAL_RADIUS = 9;
  public static final double USUAL_ERROR_PX = 0.08;

  public static final TraceOptions USUAL =
      new TraceOptions(USUAL_FEATURES, USUAL_RADIUS, USUAL_ERROR_PX);

  /**
   * @throws IllegalArgumentException when a number is out of range, with the range
   */
  public TraceOptions {
    if (features < 1 || features > MOST_FEATURES) {
      throw new IllegalArgumentException(
          "features are 1 to " + MOST_FEATURES + ", not " + features);
    }
    if (radius < SMALLEST_RADIUS || radius > LARGEST_RADIUS) {
      throw new IllegalArgumentException(
          "a pattern's radius is " + SMALLEST_RADIUS + " to " + LARGEST_RADIUS + ", not " + radius);
    }
    if (!(errorPx >= SMALLEST_ERROR_PX && errorPx <= LARGEST_ERROR_PX)) {
      throw new IllegalArgumentException(
          "the error is " + SMALLEST_ERROR_PX + " to " + LARGEST_ERROR_PX + " px, not " + errorPx);
    }
  }

  /** With another number of features in each frame. */
  public TraceOptions withFeatures(int n) {
    return new TraceOptions(n, radius, errorPx);
  }

  /** With patterns of another size. */
  public TraceOptions withRadius(int r) {
    return new TraceOptions(features, r, errorPx);
  }

  /** With another largest error. */
  public TraceOptions withErrorPx(double px) {
    return new TraceOptions(features, radius, px);
  }
}
