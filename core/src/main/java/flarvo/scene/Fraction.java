package flarvo.scene;

/**
 * An exact fraction in lowest terms with a positive denominator; used for time in seconds and for
 * frame positions between whole frames. Overflow is an {@link ArithmeticException}, never a wrong
 * number.
 */
public record Fraction(long num, long den) implements Comparable<Fraction> {

  public Fraction {
    if (den == 0) {
      throw new IllegalArgumentException("a fraction needs a denominator other than 0");
    }
    long gcd = gcd(Math.abs(num), Math.abs(den));
    long sign = den < 0 ? -1 : 1;
    num = sign * (num / gcd);
    den = sign * (den / gcd);
  }

  /**
   * In lowest terms, with a positive denominator.
   *
   * @throws ArithmeticException for a denominator of 0
   */
  public static Fraction of(long whole) {
    return new Fraction(whole, 1);
  }

  /** The exact product. */
  public Fraction times(long n, long d) {
    // Cross-reduce first: 100,000 frames at 24000/1001 stay far inside a long.
    long g1 = gcd(Math.abs(num), Math.abs(d));
    long g2 = gcd(Math.abs(n), den);
    return new Fraction(Math.multiplyExact(num / g1, n / g2), Math.multiplyExact(den / g2, d / g1));
  }

  /** The exact sum. */
  public Fraction plus(Fraction other) {
    long g = gcd(den, other.den);
    long left = Math.multiplyExact(num, other.den / g);
    long right = Math.multiplyExact(other.num, den / g);
    return new Fraction(Math.addExact(left, right), Math.multiplyExact(den / g, other.den));
  }

  /** The exact difference. */
  public Fraction minus(Fraction other) {
    return plus(new Fraction(-other.num, other.den));
  }

  /** Whether it is an integer. */
  public boolean isWhole() {
    return den == 1;
  }

  /** The largest integer that is not over it. */
  public long floor() {
    return Math.floorDiv(num, den);
  }

  /** The nearest double. */
  public double toDouble() {
    return (double) num / den;
  }

  @Override
  public int compareTo(Fraction other) {
    return Long.compare(minus(other).num, 0);
  }

  @Override
  public String toString() {
    return den == 1 ? Long.toString(num) : num + "/" + den;
  }

  private static long gcd(long a, long b) {
    while (b != 0) {
      long t = a % b;
      a = b;
      b = t;
    }
    return a == 0 ? 1 : a;
  }
}
