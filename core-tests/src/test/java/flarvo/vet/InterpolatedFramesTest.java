package flarvo.vet;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Frames that see too few trackers, and their sentence. */
class InterpolatedFramesTest {

  /** Tracker n is seen on the first 10 − n frames of ten. */
  private static Observations fewerAndFewer() {
    Observations.Builder b = new Observations.Builder();
    for (int n = 0; n < 6; n++) {
      for (int f = 1001; f <= 1010 - n; f++) {
        b.add("t" + n, f, 10 * n, f);
      }
    }
    return b.build();
  }

  @Test
  void aMovingCameraNeedsFourTrackersAndATripodTwo() {
    FrameRange frames = new FrameRange(1001, 1010);
    Observations o = fewerAndFewer();
    assertThat(InterpolatedFrames.of(o, Set.of(), frames, false))
        .containsExactly(new FrameRange(1008, 1010));
    assertThat(InterpolatedFrames.of(o, Set.of(), frames, true))
        .containsExactly(new FrameRange(1010, 1010));
    // What was culled holds no camera.
    assertThat(InterpolatedFrames.of(o, Set.of("t0", "t1"), frames, false))
        .containsExactly(new FrameRange(1006, 1010));
    assertThat(InterpolatedFrames.of(o, Set.of(), new FrameRange(1003, 1006), false)).isEmpty();
  }

  @Test
  void theSentenceNamesThem() {
    Observations o = fewerAndFewer();
    FrameRange wider = new FrameRange(1000, 1009);
    assertThat(InterpolatedFrames.sentence(InterpolatedFrames.of(o, Set.of(), wider, false)))
        .endsWith("frames 1000, 1008–1009.");
    assertThat(InterpolatedFrames.sentence(java.util.List.of())).isEmpty();
  }

  @Test
  void framesOfThePlatesWithoutACameraAreNamed() {
    FrameRange solved = new FrameRange(1003, 1010);
    assertThat(InterpolatedFrames.withoutCamera(new FrameRange(1001, 1011), solved))
        .endsWith("frames 1001–1002, 1011.");
    assertThat(InterpolatedFrames.withoutCamera(new FrameRange(1003, 1010), solved)).isEmpty();
    assertThat(InterpolatedFrames.withoutCamera(new FrameRange(1005, 1008), solved)).isEmpty();
  }
}
