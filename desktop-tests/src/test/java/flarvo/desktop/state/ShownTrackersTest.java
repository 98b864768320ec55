package flarvo.desktop.state;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.vet.Reprojection;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

class ShownTrackersTest {

  private static final FrameRange FRAMES = new FrameRange(1, 3);

  private static TrackerSet set(String name, String names) {
    List<String> all = List.of(names.split(" "));
    double[] xyz = new double[3 * all.size()];
    for (int i = 0; i < all.size(); i++) {
      xyz[3 * i] = 0.1 * i;
      xyz[3 * i + 2] = -5 - i;
    }
    return TrackerSet.of(name, all, xyz);
  }

  private static Shot shot(double off) {
    Observations.Builder b = new Observations.Builder();
    int n = 0;
    for (String name : List.of("a1", "a2", "b1", "b2", "c1", "c2")) {
      b.add(name, 2, 960 + off * n++, 540);
    }
    return new Shot(
        "s",
        Shot.EMPTY.picture(),
        Shot.EMPTY.rate(),
        FRAMES,
        1,
        List.of(
            new ShotCamera(
                "c",
                PoseTrack.of(FRAMES, f -> Pose.IDENTITY),
                OpticsTrack.constant(FRAMES, Optics.centred(24, 24, 13.5)),
                Optional.empty())),
        List.of(set("a", "a1 a2 a3"), set("b", "b1 b2"), set("c", "c1 c2")),
        b.build(),
        List.of(),
        Similarity.IDENTITY);
  }

  private static void assertThatErrorsAreTheirOwn(ShownTrackers t, Reprojection errors) {
    for (int i = 0; i < t.size(); i++) {
      assertThat(t.rmsPx(i))
          .as(t.name(i))
          .isEqualTo(Double.valueOf(errors.trackerRmsPx(t.name(i))));
      assertThat(t.indexOf(t.name(i))).isEqualTo(i);
    }
  }

  @Test
  void eachHasItsOwnErrorWhateverIsHidden() {
    Shot s = shot(7);
    Reprojection errors = Reprojection.of(s).orElseThrow();
    ShownTrackers t = new ShownTrackers();

    assertThatErrorsAreTheirOwn(t.of(s.levelled(), errors, List.of(), Set.of()), errors);
    assertThat(t.size()).isEqualTo(7);
    assertThat(t.rmsPx(2)).isNaN(); // was never seen
    assertThatErrorsAreTheirOwn(t.of(s.levelled(), errors, List.of(), Set.of("a")), errors);
    assertThat(t.size()).isEqualTo(4);
    assertThatErrorsAreTheirOwn(t.of(s.levelled(), errors, List.of(), Set.of("b")), errors);
    assertThat(t.name(3)).isEqualTo("c1");
  }

  /** As after culls and restores: each keeps the rows of its own name, whatever comes and goes. */
  @Test
  void eachHasItsOwnRowsWhateverIsLeftOut() {
    List<String> all = List.of("a1", "a2", "a3", "b1", "b2", "c1", "c2");
    Shot full = shot(7);
    ShownTrackers t = new ShownTrackers();
    Random chance = new Random(5);
    for (int turn = 0; turn < 200; turn++) {
      List<String> some = new ArrayList<>(all);
      some.removeIf(n -> chance.nextInt(4) == 0);
      if (chance.nextInt(5) == 0) {
        Collections.shuffle(some, chance);
      }
      some.add("never");
      Shot s = full.withTrackers(List.of(set("a", String.join(" ", some))));
      t.of(s.levelled(), null, List.of(), Set.of());
      assertThat(t.size()).isEqualTo(some.size());
      for (int i = 0; i < some.size(); i++) {
        assertThat(t.name(i)).isEqualTo(some.get(i));
        assertThat(t.indexOf(some.get(i))).isEqualTo(i);
        assertThat(t.row(i, 2)).as(some.get(i)).isEqualTo(s.observations().row(some.get(i), 2));
      }
    }
    assertThat(t.indexOf("nobody")).isEqualTo(-1);
  }

  /** A few are looked for one by one, more of them through a map: the answer is the same. */
  @Test
  void theFirstOfANameIsFoundHoweverOftenItIsAsked() {
    ShownTrackers t = new ShownTrackers();
    Shot s = shot(7).withTrackers(List.of(set("a", "a1 a2 a3"), set("b", "a1 b1 a2")));
    t.of(s.levelled(), null, List.of(), Set.of());
    for (int i = 0; i < 40; i++) {
      assertThat(t.indexOf("a1")).isZero();
      assertThat(t.indexOf("a2")).isEqualTo(1);
      assertThat(t.indexOf("b1")).isEqualTo(4);
      assertThat(t.indexOf("nobody")).isEqualTo(-1);
    }
  }

  @Test
  void ofAShotWithoutTrackersNoneIsFound() {
    ShownTrackers t = new ShownTrackers();
    t.of(shot(7).levelled(), null, List.of(), Set.of());
    assertThat(t.indexOf("a2")).isEqualTo(1);
    t.of(Shot.EMPTY.levelled(), null, List.of(), Set.of());
    assertThat(t.size()).isZero();
    assertThat(t.indexOf("a2")).isEqualTo(-1);
  }

  @Test
  void otherErrorsAreTakenAndNoneAreNought() {
    Shot s = shot(7);
    Reprojection errors = Reprojection.of(s).orElseThrow();
    Shot other = shot(11);
    Reprojection later = Reprojection.of(other).orElseThrow();
    ShownTrackers t = new ShownTrackers().of(s.levelled(), errors, List.of(), Set.of());
    double before = t.rmsPx(1);

    assertThatErrorsAreTheirOwn(t.of(other.levelled(), later, List.of(), Set.of()), later);
    assertThat(t.rmsPx(1)).isNotEqualTo(before);
    assertThat(t.of(other.levelled(), null, List.of(), Set.of()).rmsPx(1)).isZero();
  }
}
