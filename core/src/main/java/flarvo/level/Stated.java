package flarvo.level;

/**
 * A statement as it stands in the list.
 *
 * @param on whether it counts now
 * @param weight how much a metre of it counts beside a metre of the others; 1 is usual
 */
public record Stated(Statement what, boolean on, double weight) {

  public Stated {
    if (!(weight > 0) || !Double.isFinite(weight)) {
      throw new IllegalArgumentException("a weight must be over 0, not " + weight);
    }
  }

  public Stated(Statement what) {
    this(what, true, 1);
  }

  /** The same statement, active or not. */
  public Stated switched(boolean to) {
    return new Stated(what, to, weight);
  }

  /** The same statement with another weight, 1 being usual. */
  public Stated weighing(double w) {
    return new Stated(what, on, w);
  }
}
