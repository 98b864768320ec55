package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** The nodes that writers make of a scene. */
class SceneTreeTest {

  private static final FrameRange FRAMES = new FrameRange(1, 20);

  private static Pose outer(int f) {
    return new Pose(new Vec3(f, 2, 0), Rotation.about(new Vec3(0, 1, 0), 0.2 * f));
  }

  private static Pose inner(int f) {
    return new Pose(new Vec3(0.5, 0.1 * f, 1), Rotation.about(new Vec3(1, 0, 1), 0.3 * f));
  }

  private static Pose both(int f) {
    return new Pose(
        outer(f).toWorld(inner(f).position()), outer(f).rotation().after(inner(f).rotation()));
  }

  private static TrackerSet set(String name, Group in) {
    return TrackerSet.of(name, List.of(name + "1"), new double[] {1, 2, 3})
        .inGroup(Optional.ofNullable(in));
  }

  private static SceneTree.Branch tree(List<TrackerSet> sets, List<Mesh> meshes) {
    FileScene.Builder b = new FileScene.Builder();
    b.trackers.addAll(sets);
    b.meshes.addAll(meshes);
    return SceneTree.of(b.build());
  }

  @Test
  void aSetIsANodeUnlessItIsTheGroupThatMoves() {
    Group cart = Group.moving("cart", PoseTrack.of(FRAMES, SceneTreeTest::outer));
    SceneTree.Branch root =
        tree(List.of(set("ground", null), set("cart", cart), set("bolts", cart)), List.of());
    assertThat(root.branches())
        .extracting(SceneTree.Branch::name)
        .containsExactly("ground", "cart");
    SceneTree.Branch node = root.branches().get(1);
    assertThat(node.trackers()).extracting(TrackerSet::name).containsExactly("cart");
    assertThat(node.branches()).extracting(SceneTree.Branch::name).containsExactly("bolts");
    assertThat(node.branches().get(0).isInMotion()).isTrue();
    assertThat(node.branches().get(0).hasMotion()).isFalse();
    assertThat(root.count()).isEqualTo(3);
    assertThat(root.countMoving()).isEqualTo(1);
  }

  /** What is written below a node that moves is where it is against that node. */
  @Test
  void posesAreRelativeToTheNodeAbove() {
    Group cart = Group.moving("cart", PoseTrack.of(FRAMES, SceneTreeTest::outer));
    Group wheel =
        Group.moving("wheel", PoseTrack.of(FRAMES, SceneTreeTest::both))
            .in(Group.still("axle").in(cart));
    SceneTree.Branch root = tree(List.of(set("wheel", wheel)), List.of());
    SceneTree.Branch axle = root.branches().get(0).branches().get(0);
    PoseTrack local = axle.branches().get(0).local(FRAMES);
    for (int f = 1; f <= 20; f++) {
      assertThat(local.at(f).position().minus(inner(f).position()).length()).isLessThan(1e-12);
      assertThat(local.at(f).rotation().angleTo(inner(f).rotation())).isLessThan(1e-7);
    }
  }

  @Test
  void oneGroupIsOneNodeForAllThatHangsInIt() {
    Group prop = Group.still("prop");
    Mesh m = Mesh.of("m", new double[9], new int[] {3}, new int[] {0, 1, 2});
    SceneTree.Branch root =
        tree(List.of(set("a", prop)), List.of(m.inGroup(Optional.of(Group.still("prop"))), m));
    assertThat(root.branches()).hasSize(1);
    assertThat(root.branches().get(0).meshes()).hasSize(1);
    assertThat(root.meshes()).hasSize(1);
  }

  @Test
  void aSetWithoutATrackerIsNoNode() {
    TrackerSet none = TrackerSet.of("none", List.of(), new double[0]);
    assertThat(tree(List.of(none), List.of()).count()).isZero();
  }
}
