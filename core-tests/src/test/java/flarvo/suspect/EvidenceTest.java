package flarvo.suspect;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import java.util.Arrays;
import java.util.HashSet;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** The sample that scenes are measured on. */
class EvidenceTest {

  private static final PictureSize SIZE = PictureSize.of(960, 540);
  private static final int TRACKS = 30;

  private static Observations tracks() {
    return tracks(1000);
  }

  /** Tracks with gaps; the places tell row from row. */
  private static Observations tracks(int apart) {
    Random r = new Random(5);
    Observations.Builder b = new Observations.Builder();
    for (int t = 0; t < TRACKS; t++) {
      for (int f = 0; f < 50; f++) {
        if (r.nextInt(3) > 0) {
          b.add("t" + t, f * f * apart - 7, t + f / 100.0, 500 - t);
        }
      }
    }
    return b.build();
  }

  private static int[] every(int second) {
    int[] pointOf = new int[TRACKS];
    for (int t = 0; t < TRACKS; t++) {
      pointOf[t] = t % second == 0 ? 100 + t : -1;
    }
    return pointOf;
  }

  @Test
  void allOfItIsEveryRowOfTracksThatHaveAPoint() {
    Observations o = tracks();
    Evidence e = Evidence.of(o, every(2), SIZE, Integer.MAX_VALUE, Integer.MAX_VALUE);
    int wanted = 0;
    Set<Integer> frames = new HashSet<>();
    for (int t = 0; t < TRACKS; t += 2) {
      for (int row = o.firstRow("t" + t); row < o.endRow("t" + t); row++) {
        wanted++;
        frames.add(o.frame(row));
      }
    }
    assertThat(e.size()).isEqualTo(wanted);
    assertThat(e.frames).isSorted().hasSize(frames.size());
    assertRowsAreObserved(e, o);
  }

  @Test
  void framesThatLieCloseAreTakenAsThoseFarApartAre() {
    Evidence far = Evidence.of(tracks(1000), every(1), SIZE, Integer.MAX_VALUE, Integer.MAX_VALUE);
    for (int apart : new int[] {1, 3}) {
      Observations o = tracks(apart);
      Evidence e = Evidence.of(o, every(1), SIZE, Integer.MAX_VALUE, Integer.MAX_VALUE);
      assertThat(e.frames)
          .containsExactly(
              Arrays.stream(far.frames).map(f -> (f + 7) / 1000 * apart - 7).toArray());
      assertThat(e.begin).containsExactly(far.begin);
      assertRowsAreObserved(e, o);
    }
  }

  @Test
  void aSampleIsEvenOverFramesAndOverTracks() {
    Observations o = tracks();
    Evidence e = Evidence.of(o, every(1), SIZE, 10, 8);
    assertThat(e.frames).hasSize(10).isSorted();
    assertThat(Arrays.stream(e.frames).map(f -> (int) Math.sqrt((f + 7) / 1000.0)).toArray())
        .containsExactly(2, 7, 12, 17, 22, 27, 32, 37, 42, 47);
    int[] taken = new int[TRACKS];
    for (int f = 0; f < 10; f++) {
      assertThat(e.begin[f + 1] - e.begin[f]).isEqualTo(8);
      for (int i = e.begin[f]; i < e.begin[f + 1]; i++) {
        taken[e.point[i] - 100]++;
      }
    }
    // Not the same eight in each frame.
    assertThat(Arrays.stream(taken).filter(n -> n > 0).count()).isGreaterThan(20);
    assertRowsAreObserved(e, o);
  }

  @Test
  void whereNoTrackHasAPointThereIsNone() {
    int[] none = new int[TRACKS];
    Arrays.fill(none, -1);
    assertThat(Evidence.of(tracks(), none, SIZE, 10, 8).size()).isZero();
    assertThat(Evidence.of(Observations.NONE, new int[0], SIZE, 10, 8).frames).isEmpty();
  }

  private static void assertRowsAreObserved(Evidence e, Observations o) {
    for (int f = 0; f < e.frames.length; f++) {
      Set<Integer> once = new HashSet<>();
      for (int i = e.begin[f]; i < e.begin[f + 1]; i++) {
        assertThat(once.add(e.point[i])).isTrue();
        int row = o.row("t" + (e.point[i] - 100), e.frames[f]);
        assertThat(e.x[i]).isEqualTo(o.x(row));
        assertThat(e.y[i]).isEqualTo(o.y(row));
      }
    }
  }
}
