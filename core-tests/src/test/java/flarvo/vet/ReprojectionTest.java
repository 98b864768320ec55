package flarvo.vet;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.assertj.core.api.Assertions.withinPercentage;

import flarvo.TestShots;
import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ReprojectionTest {

  private static final int FRAMES = 10;

  /** Every tracker seen on every frame, off by the same 3 and 4 pixels. */
  private static Shot seen(double dx, double dy, double noise) {
    Shot s = TestShots.walk(FRAMES, 12, 6);
    Observations.Builder b = new Observations.Builder();
    Pinhole p = new Pinhole(s.cameras().get(0), s.picture());
    TrackerSet t = s.trackers().get(0);
    Random r = new Random(1);
    double[] px = new double[3];
    for (int f = s.frames().first(); f <= s.frames().last(); f++) {
      p.at(f);
      for (int i = 0; i < t.size(); i++) {
        p.project(t, i, px);
        b.add(
            t.names().get(i),
            f,
            px[0] + dx + noise * r.nextGaussian(),
            px[1] + dy + noise * r.nextGaussian());
      }
    }
    b.add("nobody", s.frames().first(), 1, 1);
    return new Shot(
        s.name(),
        s.picture(),
        s.rate(),
        s.frames(),
        s.sourceFirstFrame(),
        s.cameras(),
        s.trackers(),
        b.build(),
        s.plates(),
        s.level());
  }

  @Test
  void aKnownOffsetIsReadEverywhere() {
    Reprojection r = Reprojection.of(seen(3, 4, 0)).orElseThrow();
    assertThat(r.rmsPx()).isCloseTo(5, within(1e-9));
    assertThat(r.frameRmsPx(1005)).isCloseTo(5, within(1e-9));
    assertThat(r.trackerRmsPx("trk 3")).isCloseTo(5, within(1e-9));
    assertThat(r.trackerMaxPx("trk 3")).isCloseTo(5, within(1e-9));
    assertThat(r.live(1005)).isEqualTo(12);
    assertThat(r.live(2000)).isZero();
    assertThat(r.trackerRmsPx("nobody")).isNaN();
    assertThat(r.trackerRmsPx("unheard of")).isNaN();
  }

  @Test
  void aSetsErrorsAreThoseOfItsTrackersInOrder() {
    Shot s = seen(0, 0, 0.3);
    TrackerSet t = s.trackers().get(0);
    TrackerSet rest = TrackerSet.of("unseen", List.of("u 1", "u 2"), new double[6]);
    Shot two = s.withTrackers(List.of(rest, t));

    Reprojection r = Reprojection.of(two, Set.of(t.names().get(0))).orElseThrow();

    assertThat(r.setRmsPx(0)).containsExactly(Double.NaN, Double.NaN);
    assertThat(r.setRmsPx(1))
        .containsExactly(t.names().stream().mapToDouble(r::trackerRmsPx).toArray())
        .doesNotHaveDuplicates();
  }

  @Test
  void noiseComesBackAsItsOwnSize() {
    Reprojection r = Reprojection.of(seen(0, 0, 0.3)).orElseThrow();
    // Two axes of 0.3 px each.
    assertThat(r.rmsPx()).isCloseTo(0.3 * Math.sqrt(2), within(0.06));
  }

  @ParameterizedTest
  @ValueSource(doubles = {0, 1e-6, 0.3, 5000})
  void theMedianIsTheMiddleOfAllDistances(double noise) {
    Shot s = seen(0.5, 0, noise);
    Reprojection r = Reprojection.of(s).orElseThrow();
    double[] all =
        IntStream.range(0, s.observations().size())
            .mapToDouble(r::rowPx)
            .filter(d -> !Double.isNaN(d))
            .sorted()
            .toArray();
    assertThat(all).hasSize(12 * FRAMES);
    assertThat(r.medianPx()).isCloseTo(all[all.length / 2], withinPercentage(1e-9));
  }

  @Test
  void aLevelChangesNothing() {
    Shot s = seen(1, 2, 0.2);
    Similarity level =
        new Similarity(3, flarvo.scene.Rotation.about(new Vec3(1, 1, 0), 1), Vec3.ZERO);
    assertThat(Reprojection.of(s.withLevel(level).levelled().contents()).orElseThrow().rmsPx())
        .isCloseTo(Reprojection.of(s).orElseThrow().rmsPx(), within(1e-9));
  }

  @Test
  void aFrameThatStandsOutIsNamed() {
    Shot s = seen(0, 0, 0.3);
    assertThat(Reprojection.of(s).orElseThrow().outliers()).isEmpty();
    Observations o = s.observations();
    Observations.Builder b = new Observations.Builder();
    for (String n : o.names()) {
      for (int row = o.firstRow(n); row < o.endRow(n); row++) {
        b.add(n, o.frame(row), o.x(row) + (o.frame(row) == 1004 ? 2 : 0), o.y(row));
      }
    }
    assertThat(Reprojection.of(s.withObservations(b.build())).orElseThrow().outliers())
        .containsExactly(1004);
  }

  @Test
  void withoutTracksThereIsNothingToSay() {
    assertThat(Reprojection.of(TestShots.walk(3, 3, 1))).isEmpty();
  }
}
