package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.TestShots;
import flarvo.dispatch.Contents;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Trackers and meshes that hang elsewhere than they did turn the check red, by name. */
class GroupCheckTest {

  private static final Group SET = Group.still("set");
  private static final Group PROPS = Group.still("props 1").in(SET);
  private static final Mesh FLOOR =
      Mesh.of("floor", new double[9], new int[] {3}, new int[] {0, 1, 2});

  private static TrackerSet trackers() {
    return TestShots.walk(3, 6, 1).trackers().get(0);
  }

  private static Optional<Check> check(
      TrackerSet sent, TrackerSet found, Mesh sentMesh, Mesh foundMesh, Contents contents) {
    Shot shot = TestShots.walk(3, 6, 1).withTrackers(List.of(sent)).withMeshes(List.of(sentMesh));
    return GroupCheck.of(shot.levelled(), List.of(found), List.of(foundMesh), contents);
  }

  private static Check trackersIn(Group sent, Group found) {
    return check(
            trackers().inGroup(Optional.of(sent)),
            trackers().inGroup(Optional.ofNullable(found)),
            FLOOR,
            FLOOR,
            Contents.CAMERA_AND_TRACKERS)
        .orElseThrow();
  }

  @Test
  void aTrackerThatHangsElsewhereIsNamedWithBothPlaces() {
    String first = trackers().names().stream().sorted().findFirst().orElseThrow();
    Check c = trackersIn(PROPS, SET);
    assertThat(c.holds()).isFalse();
    assertThat(c.expected()).isEqualTo(first + " in /set/props_1");
    assertThat(c.found()).isEqualTo("in /set");
    assertThat(trackersIn(PROPS, null).found()).isEqualTo("in /");
    assertThat(trackersIn(PROPS, Group.still("props 1")).holds())
        .as("its parent is gone")
        .isFalse();
  }

  @Test
  void whatAFormatMakesOfANameIsTheSameName() {
    assertThat(trackersIn(PROPS, Group.still("props_1").in(SET)).holds()).isTrue();
    assertThat(trackersIn(PROPS, PROPS).holds()).isTrue();
  }

  @Test
  void aMeshThatHangsElsewhereIsNamedWhereMeshesWereSent() {
    Mesh sent = FLOOR.inGroup(Optional.of(PROPS));
    Check c = check(trackers(), trackers(), sent, FLOOR, Contents.WITH_GEOMETRY).orElseThrow();
    assertThat(c.holds()).isFalse();
    assertThat(c.expected()).isEqualTo("mesh floor in /set/props_1");
    assertThat(check(trackers(), trackers(), sent, FLOOR, Contents.CAMERA_AND_TRACKERS)).isEmpty();
  }

  /** That a tracker is missing at all is said by its name, and not here. */
  @Test
  void whatIsMissingIsNotInAnotherGroup() {
    TrackerSet sent = trackers().inGroup(Optional.of(PROPS));
    TrackerSet fewer = sent.without(java.util.Set.of(sent.names().get(0)));
    assertThat(check(sent, fewer, FLOOR, FLOOR, Contents.TRACKERS).orElseThrow().holds()).isTrue();
  }

  @Test
  void nothingIsAskedWhereAllHangsInTheShot() {
    TrackerSet found = trackers().inGroup(Optional.of(SET));
    assertThat(check(trackers(), found, FLOOR, FLOOR, Contents.WITH_GEOMETRY)).isEmpty();
  }
}
