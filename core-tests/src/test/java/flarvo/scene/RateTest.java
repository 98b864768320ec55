package flarvo.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class RateTest {

  @ParameterizedTest
  @CsvSource({
    "24, 24/1",
    "25, 25/1",
    "23.976, 24000/1001",
    "23.98, 24000/1001",
    "29.97, 30000/1001",
    "59.94, 60000/1001",
    "47.952, 48000/1001",
    "119.88, 120000/1001",
    "24000/1001, 24000/1001",
    "48000/2002, 24000/1001",
    "12.5, 25/2",
    "30.0, 30/1",
    "23.976023976, 24000/1001",
  })
  void readsWhatPeopleWrite(String text, String exact) {
    String[] p = exact.split("/", -1);
    assertThat(Rate.parse(text)).isEqualTo(new Rate(Long.parseLong(p[0]), Long.parseLong(p[1])));
  }

  @ParameterizedTest
  @ValueSource(strings = {"0/0", "0", "-24", "24/0", "fast", "", "24/-1", "1e400", "NaN"})
  void refusesWhatIsNoRate(String text) {
    assertThatThrownBy(() -> Rate.parse(text)).isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void everyStandardRateComesBackFromItsDouble() {
    for (int n : new int[] {24, 25, 30, 48, 50, 60, 72, 96, 100, 120}) {
      assertThat(Rate.fromDouble(n)).isEqualTo(new Rate(n, 1));
      if (n != 25 && n != 50 && n != 100) {
        Rate ntsc = new Rate(n * 1000L, 1001);
        assertThat(Rate.fromDouble(ntsc.toDouble())).isEqualTo(ntsc);
        assertThat(Rate.fromDouble((float) ntsc.toDouble())).isEqualTo(ntsc);
      }
    }
  }

  @Test
  void framesAndTimeAreExactOverAHundredThousandFrames() {
    Rate rate = Rate.NTSC_24;
    Fraction step = rate.seconds(1);
    Fraction sum = Fraction.of(0);
    for (int f = 0; f <= 100_000; f++) {
      Fraction t = rate.seconds(f);
      assertThat(t).isEqualTo(sum);
      assertThat(rate.frames(t)).isEqualTo(Fraction.of(f));
      sum = sum.plus(step);
    }
    assertThat(rate.seconds(24_000)).isEqualTo(Fraction.of(1001));
  }

  @Test
  void displaysForEyesAndSpellsExactly() {
    assertThat(Rate.NTSC_24.display()).isEqualTo("23.976");
    assertThat(Rate.NTSC_24).hasToString("24000/1001");
    assertThat(Rate.FPS_25).hasToString("25");
  }
}
