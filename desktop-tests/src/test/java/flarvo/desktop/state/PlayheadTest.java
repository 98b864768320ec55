package flarvo.desktop.state;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.desktop.view.TimeAxis;
import flarvo.desktop.view.TrackerMark;
import flarvo.scene.FrameRange;
import flarvo.scene.Rate;
import org.junit.jupiter.api.Test;

/** Arithmetic of the window that needs no window. */
class PlayheadTest {

  @Test
  void framesFollowFromTheClockExactly() {
    Rate ntsc = Rate.NTSC_24;
    // 24,000 frames take exactly 1001 seconds.
    assertThat(Playhead.framesAfter(1_001_000_000_000L, ntsc)).isEqualTo(24_000);
    assertThat(Playhead.framesAfter(1_001_000_000_000L - 1, ntsc)).isEqualTo(23_999);
    assertThat(Playhead.framesAfter(0, ntsc)).isZero();
    long before = 0;
    for (long t = 0; t < 10_000_000_000L; t += 7_777_777L) {
      long f = Playhead.framesAfter(t, ntsc);
      assertThat(f).isBetween(before, before + 1);
      before = f;
    }
  }

  @Test
  void playbackOfDaysDoesNotOverflow() {
    long day = 86_400_000_000_000L;
    assertThat(Playhead.framesAfter(30 * day, new Rate(60000, 1001)))
        .isBetween(155_000_000L, 156_000_000L);
  }

  @Test
  void aRingTellsItsStateByTheLimit() {
    assertThat(TrackerMark.State.of(0.2, 1)).isEqualTo(TrackerMark.State.WITHIN);
    assertThat(TrackerMark.State.of(0.7, 1)).isEqualTo(TrackerMark.State.WATCH);
    assertThat(TrackerMark.State.of(1.2, 1)).isEqualTo(TrackerMark.State.OVER);
    assertThat(TrackerMark.State.of(Double.NaN, 1)).isEqualTo(TrackerMark.State.WITHIN);
  }

  @Test
  void theTimeAxisSpansTheLadder() {
    FrameRange r = new FrameRange(1001, 1096);
    double first = TimeAxis.xOf(1001, r, 1000);
    double last = TimeAxis.xOf(1096, r, 1000);
    double step = TimeAxis.xOf(1002, r, 1000) - first;
    assertThat(first - step / 2)
        .isCloseTo(TimeAxis.LEFT, org.assertj.core.api.Assertions.within(1e-9));
    assertThat(last + step / 2)
        .isCloseTo(1000 - TimeAxis.RIGHT, org.assertj.core.api.Assertions.within(1e-9));
  }
}
