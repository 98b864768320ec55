package flarvo.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Locale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class TimecodeTest {

  /** An hour of drop frame is 107,892 frames, as the standard has it: 18 less in ten minutes. */
  @ParameterizedTest
  @CsvSource({
    "00:00:00:00, 24, 0",
    "01:00:00:00, 24, 86400",
    "01:00:00:00, 23.976, 86400",
    "00:00:59;29, 29.97, 1799",
    "00:01:00;02, 29.97, 1800",
    "00:10:00;00, 29.97, 17982",
    "01:00:00;00, 29.97, 107892",
    "01:00:00:00, 29.97, 108000",
    "01:00:00;00, 59.94, 215784",
    "10:00:00:24, 25, 900024",
  })
  void countsFrames(String text, String rate, int frames) {
    assertThat(Timecode.frames(text, Rate.parse(rate))).isEqualTo(frames);
  }

  @ParameterizedTest
  @CsvSource({
    "00:01:00;00, 29.97, left out",
    "00:00:00:24, 24, no timecode at",
    "00:60:00:00, 24, no timecode at",
    "00:00:01;00, 25, drop frame",
    "1001, 24, no timecode",
  })
  void whatIsNoTimecodeIsSaid(String text, String rate, String part) {
    assertThatThrownBy(() -> Timecode.frames(text, Rate.parse(rate)))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining(part);
  }

  /** Counted one by one, leaving out what drop frame leaves out. */
  @Test
  void dropFrameCountsWithoutAGapOverADay() {
    int count = 0;
    for (int minute = 0; minute < 24 * 60; minute++) {
      for (int s = 0; s < 60; s++) {
        for (int f = s == 0 && minute % 10 != 0 ? 2 : 0; f < 30; f++) {
          if (count % 997 == 0 || s == 0 && f < 4) {
            String t =
                String.format(Locale.ROOT, "%02d:%02d:%02d;%02d", minute / 60, minute % 60, s, f);
            assertThat(Timecode.frames(t, Rate.NTSC_30)).as(t).isEqualTo(count);
          }
          count++;
        }
      }
    }
    assertThat(count).isEqualTo(2589408);
  }

  /** Counting and writing are each other's inverse, over a day and round its end. */
  @ParameterizedTest
  @CsvSource({
    "00:00:00:00, 24",
    "23:59:59:23, 23.976",
    "01:00:00;00, 29.97",
    "01:00:00;00, 59.94",
    "10:00:00:24, 25",
    "00:00:59;29, 29.97",
    "23:59:59.29, 29.97"
  })
  void laterIsSoManyFramesLater(String text, String rate) {
    Rate r = Rate.parse(rate);
    int day = Timecode.frames("23:59:59" + text.charAt(8) + "23", r);
    int start = Timecode.frames(text, r);
    for (int by = 0; by < 3_000_000; by += 1 + by / 40) {
      String t = Timecode.later(text, by, r);
      assertThat(t.charAt(8)).isEqualTo(text.charAt(8));
      int at = Timecode.frames(t, r);
      assertThat(Timecode.later(t, -by, r)).as(t).isEqualTo(text);
      if (start + by <= day) {
        assertThat(at).as(t).isEqualTo(start + by);
      }
    }
    assertThat(Timecode.later("23:59:59:23", 1, Rate.FPS_24)).isEqualTo("00:00:00:00");
    assertThat(Timecode.later("00:00:59;29", 1, Rate.NTSC_30)).isEqualTo("00:01:00;02");
  }
}
