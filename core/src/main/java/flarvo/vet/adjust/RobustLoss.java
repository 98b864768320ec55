package flarvo.vet.adjust;

/**
 * What an error counts for. With {@code e} the distance in pixels, the cost of one observation is
 * half of {@link #rho}; Huber, "Robust Estimation of a Location Parameter", 1964, and the Cauchy
 * loss of the same family.
 *
 * @param scalePx distance from which an observation counts for less than its square
 */
public record RobustLoss(Kind kind, double scalePx) {

  /** Shape of the loss. */
  public enum Kind {
    /** Every error counts by its square. */
    SQUARE,
    /** Square near zero, straight beyond the scale. */
    HUBER,
    /** Grows like a logarithm: far strays hardly pull. */
    CAUCHY
  }

  public static final RobustLoss SQUARE = new RobustLoss(Kind.SQUARE, 1);

  public RobustLoss {
    if (!(scalePx > 0) || !Double.isFinite(scalePx)) {
      throw new IllegalArgumentException("the scale of a loss must be positive, not " + scalePx);
    }
  }

  /** Quadratic up to {@code px}, linear beyond. */
  public static RobustLoss huber(double scalePx) {
    return new RobustLoss(Kind.HUBER, scalePx);
  }

  /** Logarithmic: what lies far beyond {@code px} hardly counts. */
  public static RobustLoss cauchy(double scalePx) {
    return new RobustLoss(Kind.CAUCHY, scalePx);
  }

  /** Loss of a squared distance, in square pixels. */
  public double rho(double squared) {
    double s2 = scalePx * scalePx;
    return switch (kind) {
      case SQUARE -> squared;
      case HUBER -> squared <= s2 ? squared : 2 * scalePx * Math.sqrt(squared) - s2;
      case CAUCHY -> s2 * Math.log1p(squared / s2);
    };
  }

  /** Derivative of {@link #rho}: 1 for a small error, towards 0 for a large one. */
  public double weight(double squared) {
    double s2 = scalePx * scalePx;
    return switch (kind) {
      case SQUARE -> 1;
      case HUBER -> squared <= s2 ? 1 : scalePx / Math.sqrt(squared);
      case CAUCHY -> 1 / (1 + squared / s2);
    };
  }
}
