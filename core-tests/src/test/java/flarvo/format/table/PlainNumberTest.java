package flarvo.format.table;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class PlainNumberTest {

  private final PlainNumber number = new PlainNumber();

  private boolean read(String cell) {
    byte[] b = (cell + ",7\n").getBytes(StandardCharsets.UTF_8);
    boolean read = number.read(b, 0, (byte) ',');
    assertThat(!read || number.end() == cell.length()).isTrue();
    return read;
  }

  /** Bit for bit what the platform's own parser makes of them. */
  @Test
  void numbersAreReadToTheLastBit() {
    SplittableRandom r = new SplittableRandom(5);
    int taken = 0;
    for (int i = 0; i < 300_000; i++) {
      String t =
          switch (r.nextInt(4)) {
            case 0 -> Long.toString(r.nextLong() >> r.nextInt(64));
            case 1 -> String.format(Locale.ROOT, "%." + r.nextInt(12) + "f", 4000 * r.nextDouble());
            case 2 -> new BigDecimal(r.nextDouble(-1, 1)).toPlainString();
            default -> BigDecimal.valueOf(r.nextLong(), r.nextInt(25)).toPlainString();
          };
      if (read(t)) {
        taken++;
        assertThat(Double.doubleToRawLongBits(number.value()))
            .as(t)
            .isEqualTo(Double.doubleToRawLongBits(Double.parseDouble(t)));
      }
    }
    assertThat(taken).isGreaterThan(100_000);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "",
        "-",
        ".",
        "-.",
        "1e3",
        "1 ",
        " 1",
        "+1",
        "1.2.3",
        "NaN",
        "0x1p3",
        "1d",
        "--1",
        "1-",
        "9007199254740993",
        "1234567890123456789"
      })
  void whatIsNotSureIsLeftToOthers(String cell) {
    assertThat(read(cell)).isFalse();
  }

  @Test
  void minusZeroStaysOne() {
    assertThat(read("-0.0")).isTrue();
    assertThat(1 / number.value()).isEqualTo(Double.NEGATIVE_INFINITY);
  }
}
