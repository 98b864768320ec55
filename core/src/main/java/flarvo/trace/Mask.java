package flarvo.trace;

/** Parts of the picture in which nothing is followed. */
@FunctionalInterface
public interface Mask {

  /** Nothing is masked. */
  Mask NONE = (frame, x, y) -> false;

  /**
   * Whether a place is masked.
   *
   * @param frame of the plate
   * @param x canonical pixels of the plate
   */
  boolean covers(int frame, double x, double y);

  /** Masked where this or the other is. */
  default Mask or(Mask other) {
    return (f, x, y) -> covers(f, x, y) || other.covers(f, x, y);
  }

  /** Masked where this is not. */
  default Mask inverted() {
    return (f, x, y) -> !covers(f, x, y);
  }
}
