package flarvo.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigInteger;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;

/** Exact time, against the big integers of the Java library. */
class FractionPropertyTest {

  private static final long MOST = 40_000;

  @Property
  void sumsAreThoseOfBigIntegers(
      @ForAll @LongRange(min = -MOST, max = MOST) long a,
      @ForAll @LongRange(min = 1, max = MOST) long b,
      @ForAll @LongRange(min = -MOST, max = MOST) long c,
      @ForAll @LongRange(min = 1, max = MOST) long d) {
    Fraction sum = new Fraction(a, b).plus(new Fraction(c, d));
    BigInteger num =
        BigInteger.valueOf(a)
            .multiply(BigInteger.valueOf(d))
            .add(BigInteger.valueOf(c).multiply(BigInteger.valueOf(b)));
    BigInteger den = BigInteger.valueOf(b).multiply(BigInteger.valueOf(d));
    assertThat(BigInteger.valueOf(sum.num()).multiply(den))
        .isEqualTo(num.multiply(BigInteger.valueOf(sum.den())));
    assertThat(sum.minus(new Fraction(c, d))).isEqualTo(new Fraction(a, b));
    assertThat(new Fraction(a, b).compareTo(new Fraction(c, d)))
        .isEqualTo(Long.compare(a * d, c * b));
  }

  @Property
  void theFloorIsTheLargestWholeBelow(
      @ForAll @LongRange(min = -MOST, max = MOST) long a,
      @ForAll @LongRange(min = 1, max = MOST) long b) {
    Fraction f = new Fraction(a, b);
    assertThat(Fraction.of(f.floor()).compareTo(f)).isLessThanOrEqualTo(0);
    assertThat(Fraction.of(f.floor() + 1).compareTo(f)).isPositive();
    assertThat(f.isWhole()).isEqualTo(a % b == 0);
  }

  @Property
  void timesAndBackIsTheSame(
      @ForAll @IntRange(min = -100_000, max = 100_000) int frame,
      @ForAll @IntRange(min = 1, max = 240) int n,
      @ForAll boolean ntsc) {
    Rate rate = ntsc ? new Rate(n * 1000L, 1001) : new Rate(n, 1);
    assertThat(rate.frames(rate.seconds(frame))).isEqualTo(Fraction.of(frame));
    assertThat(Rate.parse(rate.toString())).isEqualTo(rate);
  }

  @Test
  void nothingOverflowsInSilence() {
    assertThatThrownBy(() -> new Fraction(1, 0)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> Fraction.of(Long.MAX_VALUE).plus(Fraction.of(1)))
        .isInstanceOf(ArithmeticException.class);
    assertThat(new Fraction(-4, -6)).isEqualTo(new Fraction(2, 3));
    assertThat(new Fraction(4, -6)).hasToString("-2/3");
    assertThat(new Fraction(7, 2).toDouble()).isEqualTo(3.5);
  }
}
