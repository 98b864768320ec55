package flarvo.convention;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class LengthsTest {

  @ParameterizedTest
  @CsvSource(
      quoteCharacter = '|',
      value = {
        "0.6,0.6",
        "0.6 m,0.6",
        "12 mm,0.012",
        "60cm,0.6",
        "1'6\",0.4572",
        "1',0.3048",
        "18\",0.4572",
        "18 in,0.4572",
        "2 ft,0.6096",
        "-5 cm,-0.05",
        "-1'6\",-0.4572",
        ".5,0.5"
      })
  void isReadAsItIsTyped(String text, double metres) {
    assertThat(Lengths.metres(text)).isCloseTo(metres, within(1e-12));
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "x", "3 parsecs", "1 2", "m", "--3", "nan", "1e3 m"})
  void whatIsNoneSaysSo(String text) {
    assertThatThrownBy(() -> Lengths.metres(text)).isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void theUnitIsExact() {
    assertThat(Lengths.metres("1 inch")).isEqualTo(0.0254);
  }
}
