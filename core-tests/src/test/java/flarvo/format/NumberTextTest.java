package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Random;
import org.junit.jupiter.api.Test;

class NumberTextTest {

  @Test
  void readsBackAsTheSameNumberAndIsUsuallyTheJdksText() {
    Random r = new Random(2);
    for (int i = 0; i < 200_000; i++) {
      double bits = Double.longBitsToDouble(r.nextLong());
      assertThat(Double.valueOf(NumberText.of(bits))).isEqualTo(Double.valueOf(bits));
      assertThat(Double.valueOf(NumberText.of(-bits))).isEqualTo(Double.valueOf(-bits));
      double usual = r.nextGaussian() * Math.pow(10, r.nextInt(12) - 6);
      assertThat(NumberText.of(usual)).isEqualTo(Double.toString(usual));
    }
  }

  @Test
  void wholeNumbersHaveNoPointWherePlain() {
    assertThat(NumberText.plain(24)).isEqualTo("24");
    assertThat(NumberText.plain(-1e14)).isEqualTo("-100000000000000");
    assertThat(NumberText.plain(1e15)).isEqualTo("1.0E15");
    assertThat(NumberText.of(24)).isEqualTo("24.0");
    assertThat(NumberText.plain(0.5)).isEqualTo("0.5");
  }
}
