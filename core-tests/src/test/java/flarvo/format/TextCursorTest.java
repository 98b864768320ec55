package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Random;
import org.junit.jupiter.api.Test;

class TextCursorTest {

  private static double read(String number) {
    TextCursor in = new TextCursor("f", "(" + number + ")");
    in.skip(1 + number.length());
    return in.number(1);
  }

  /** The platform's own reading of the same text is the truth, to the last bit. */
  @Test
  void numbersAreWhatThePlatformReads() {
    Random r = new Random(3);
    for (int i = 0; i < 100_000; i++) {
      double d = Double.longBitsToDouble(r.nextLong());
      String s =
          switch (i % 4) {
            case 0 -> Double.toString(Double.isFinite(d) ? d : i);
            case 1 -> Float.toString(r.nextFloat() * 1000);
            case 2 -> r.nextLong() + "." + r.nextLong(1L << 60) + "e" + (r.nextInt(700) - 350);
            default -> "-" + r.nextInt(100) + "." + r.nextInt(1_000_000);
          };
      assertThat(read(s)).as(s).isEqualTo(Double.parseDouble(s));
    }
    assertThat(read("+.5e-3")).isEqualTo(0.0005);
    assertThat(read("-0")).isEqualTo(-0.0);
  }

  @Test
  void whatIsNoNumberIsRefused() {
    for (String s : new String[] {"", "-", "1e", "1.2.3", "e5", "--1", "1-2"}) {
      assertThatThrownBy(() -> read(s)).as(s).isInstanceOf(NumberFormatException.class);
    }
  }
}
