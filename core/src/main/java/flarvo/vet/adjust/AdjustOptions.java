package flarvo.vet.adjust;

/**
 * Which numbers may move, and when it is enough.
 *
 * @param tripod cameras turn about one fixed centre, and points are directions
 * @param lensTerms 0 to 2 radial coefficients
 * @param rounds at most so many steps are tried
 * @param tolerance enough is reached when a step lowers the cost by less than this share
 * @param damping share of its diagonal that is added to the first round's system; small where the
 *     start is known to be near the least
 */
public record AdjustOptions(
    boolean tripod,
    Focal focal,
    boolean principalPoint,
    int lensTerms,
    RobustLoss loss,
    int rounds,
    double tolerance,
    double damping) {

  private static final double USUAL_DAMPING = 1e-4;

  /** How the focal length may change. */
  public enum Focal {
    FIXED("fixed"),
    /** One factor on all frames. */
    CONSTANT("one for all frames"),
    PER_FRAME("per frame");

    private final String word;

    Focal(String word) {
      this.word = word;
    }

    public String word() {
      return word;
    }
  }

  public static final AdjustOptions USUAL =
      new AdjustOptions(false, Focal.FIXED, false, 0, RobustLoss.SQUARE, 60, 1e-9, USUAL_DAMPING);

  public AdjustOptions {
    if (lensTerms < 0 || lensTerms > 2) {
      throw new IllegalArgumentException("a lens has 0 to 2 terms here, not " + lensTerms);
    }
    if (rounds < 0 || !(tolerance >= 0) || !(damping >= 0)) {
      throw new IllegalArgumentException("rounds, tolerance and damping must not be negative");
    }
  }

  public AdjustOptions withTripod(boolean t) {
    return new AdjustOptions(t, focal, principalPoint, lensTerms, loss, rounds, tolerance, damping);
  }

  public AdjustOptions withFocal(Focal f) {
    return new AdjustOptions(
        tripod, f, principalPoint, lensTerms, loss, rounds, tolerance, damping);
  }

  public AdjustOptions withPrincipalPoint(boolean p) {
    return new AdjustOptions(tripod, focal, p, lensTerms, loss, rounds, tolerance, damping);
  }

  public AdjustOptions withLensTerms(int n) {
    return new AdjustOptions(tripod, focal, principalPoint, n, loss, rounds, tolerance, damping);
  }

  public AdjustOptions withLoss(RobustLoss l) {
    return new AdjustOptions(
        tripod, focal, principalPoint, lensTerms, l, rounds, tolerance, damping);
  }

  public AdjustOptions withRounds(int n) {
    return new AdjustOptions(tripod, focal, principalPoint, lensTerms, loss, n, tolerance, damping);
  }

  public AdjustOptions withTolerance(double t) {
    return new AdjustOptions(tripod, focal, principalPoint, lensTerms, loss, rounds, t, damping);
  }

  public AdjustOptions withDamping(double d) {
    return new AdjustOptions(tripod, focal, principalPoint, lensTerms, loss, rounds, tolerance, d);
  }
}
