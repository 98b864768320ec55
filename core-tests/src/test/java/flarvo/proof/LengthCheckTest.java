package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialect;
import flarvo.convention.LinearUnit;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class LengthCheckTest {

  private static final Dialect CM = Dialect.CANONICAL.withUnit(LinearUnit.CENTIMETRE);

  private static TrackerSet set(String name, String names, double... xyz) {
    return TrackerSet.of(name, List.of(names.split(" ")), xyz);
  }

  private static List<Check> checks(
      List<TrackerSet> source, List<TrackerSet> found, List<TrackerSet> raw) {
    return LengthCheck.of(source, found, raw, CM, 1e-5);
  }

  private static List<Check> checks(List<TrackerSet> source, List<TrackerSet> found) {
    List<TrackerSet> raw = found.stream().map(t -> t.map(v -> v.times(100))).toList();
    return checks(source, found, raw);
  }

  private static List<String> failed(List<Check> checks) {
    return checks.stream().filter(c -> !c.holds()).map(Check::name).toList();
  }

  @Test
  void theLongestWayIsComparedInTheRecipientsUnits() {
    TrackerSet t = set("s", "a b c d", 0, 0, 0, 1, 0, 0, 0, 5, 0, -3, 0, 0);

    List<Check> all = checks(List.of(t), List.of(t));

    // From the first to c is 5 m, from c to d the root of 34.
    assertThat(all).extracting(Check::name).containsExactly("knownDistance", "origin");
    assertThat(all).extracting(Check::expected).startsWith("5.830952 m");
    assertThat(failed(all)).isEmpty();
  }

  @Test
  void aSceneInOtherUnitsOrMovedAsAWholeDoesNotHold() {
    TrackerSet t = set("s", "a b", 0, 0, 0, 10, 0, 0);

    assertThat(failed(checks(List.of(t), List.of(t), List.of(t)))).containsExactly("knownDistance");
    TrackerSet moved = t.map(v -> v.plus(new Vec3(0, 2e-4, 0)));
    assertThat(failed(checks(List.of(t), List.of(moved)))).containsExactly("origin");
    TrackerSet near = t.map(v -> v.plus(new Vec3(0, 5e-5, 0)));
    assertThat(failed(checks(List.of(t), List.of(near)))).isEmpty();
  }

  @Test
  void ofTwoThatAreNamedAlikeTheLastIsCompared() {
    TrackerSet a = set("a", "x y", 0, 0, 0, 10, 0, 0);
    TrackerSet b = set("b", "y z", 20, 0, 0, 3, 0, 0);

    assertThat(failed(checks(List.of(a, b), List.of(a, b)))).isEmpty();
    assertThat(failed(checks(List.of(a, b), List.of(b, a))))
        .containsExactly("knownDistance", "origin");
  }

  @Test
  void whatMovesOrIsAloneIsNotCompared() {
    TrackerSet one = set("s", "a", 1, 2, 3);
    TrackerSet two = set("s", "a b", 1, 2, 3, 4, 5, 6);
    FrameRange frames = new FrameRange(1, 2);
    Group g =
        new Group("g", Optional.empty(), Optional.of(PoseTrack.of(frames, f -> Pose.IDENTITY)));

    assertThat(checks(List.of(one), List.of(one))).isEmpty();
    assertThat(checks(List.of(two), List.of(one))).isEmpty();
    assertThat(checks(List.of(two.inGroup(Optional.of(g))), List.of(two))).isEmpty();
    assertThat(checks(List.of(two), List.of(two.inGroup(Optional.of(g))))).isEmpty();
  }
}
