package flarvo.vet.adjust;

/**
 * Which numbers may move, and when it is enough.
 *
 * @param tripod cameras turn about one fixed centre, and points are directions
 * @param lensTerms 0 to 3 radial coefficients
 * @param rounds at most so many steps are tried
 * @param tolerance enough is reached when a step lowers the cost by less than this share
 */
public record AdjustOptions(
    boolean tripod,
    Focal focal,
    boolean principalPoint,
    int lensTerms,
    RobustLoss loss,
    int rounds,
    double tolerance) {

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

  public static final int MOST_LENS_TERMS = 3;

  public static final AdjustOptions USUAL =
      new AdjustOptions(false, Focal.FIXED, false, 0, RobustLoss.SQUARE, 60, 1e-9);

  public AdjustOptions {
    if (lensTerms < 0 || lensTerms > MOST_LENS_TERMS) {
      throw new IllegalArgumentException(
          "a lens has 0 to " + MOST_LENS_TERMS + " terms here, not " + lensTerms);
    }
    if (rounds < 0 || !(tolerance >= 0)) {
      throw new IllegalArgumentException("rounds and tolerance must not be negative");
    }
  }

  public AdjustOptions withTripod(boolean t) {
    return new AdjustOptions(t, focal, principalPoint, lensTerms, loss, rounds, tolerance);
  }

  public AdjustOptions withFocal(Focal f) {
    return new AdjustOptions(tripod, f, principalPoint, lensTerms, loss, rounds, tolerance);
  }

  public AdjustOptions withPrincipalPoint(boolean p) {
    return new AdjustOptions(tripod, focal, p, lensTerms, loss, rounds, tolerance);
  }

  public AdjustOptions withLensTerms(int n) {
    return new AdjustOptions(tripod, focal, principalPoint, n, loss, rounds, tolerance);
  }

  public AdjustOptions withLoss(RobustLoss l) {
    return new AdjustOptions(tripod, focal, principalPoint, lensTerms, l, rounds, tolerance);
  }

  public AdjustOptions withRounds(int n) {
    return new AdjustOptions(tripod, focal, principalPoint, lensTerms, loss, n, tolerance);
  }

  public AdjustOptions withTolerance(double t) {
    return new AdjustOptions(tripod, focal, principalPoint, lensTerms, loss, rounds, t);
  }
}
