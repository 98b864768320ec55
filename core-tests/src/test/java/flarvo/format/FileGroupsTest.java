package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.function.IntFunction;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** Nodes with any transforms, made into groups with rigid motions, against the matrices. */
class FileGroupsTest {

  private static final FrameRange FRAMES = new FrameRange(10, 40);

  private final List<Note> notes = new ArrayList<>();

  private record Node(String name, Node above, boolean movesItself, IntFunction<Matrix4d> local)
      implements TreeNode {
    @Override
    public TreeNode parent() {
      return above;
    }

    @Override
    public Matrix4d world(int frame) {
      Matrix4d own = new Matrix4d(local.apply(frame));
      return above == null ? own : above.world(frame).mul(own);
    }

    @Override
    public String place() {
      return name;
    }
  }

  private static Node still(String name, Node above, Matrix4d m) {
    return new Node(name, above, false, f -> m);
  }

  private static Node moving(String name, Node above, IntFunction<Matrix4d> m) {
    return new Node(name, above, true, m);
  }

  private static Matrix4d drive(int f) {
    return new Matrix4d().translation(0.3 * f, 0.1 * Math.sin(f), -f).rotateY(0.07 * f);
  }

  private FileGroups groups(Node root) {
    return new FileGroups("file", FRAMES, root, notes);
  }

  /** The tracker as a set, where its node says that it is on every frame. */
  private TrackerSet placed(FileGroups g, Node leaf) {
    TrackerCollector c = new TrackerCollector("file", ReadLimits.USUAL);
    FileGroups.Placement in = g.ofTracker(leaf);
    c.add(in, leaf.name, in.of(leaf.world(FRAMES.first())), 0, 0, 0, () -> "leaf");
    return c.sets().get(0);
  }

  private static void follows(TrackerSet t, Node leaf) {
    for (int f = FRAMES.first(); f <= FRAMES.last(); f++) {
      Vector3d truth = leaf.world(f).getTranslation(new Vector3d());
      Vec3 at = t.position(0, f);
      assertThat(truth.distance(at.x(), at.y(), at.z())).as("frame %d", f).isLessThan(1e-9);
    }
  }

  @Test
  void whatStandsStillHangsInTheScene() {
    Node set = still("set", null, new Matrix4d().translation(1, 2, 3));
    Node leaf = still("t", set, new Matrix4d().translation(0.5, 0, 0).scale(2));
    TrackerSet t = placed(groups(null), leaf);
    assertThat(t.name()).isEqualTo("set");
    assertThat(t.group()).isEmpty();
    assertThat(t.position(0)).isEqualTo(new Vec3(1.5, 2, 3));
  }

  @Test
  void keysThatDoNotMoveMakeNoMotion() {
    Node baked = moving("baked", null, f -> new Matrix4d().translation(4, 0, 0));
    TrackerSet t = placed(groups(null), still("t", baked, new Matrix4d().translation(0, 1, 0)));
    assertThat(t.moves()).isFalse();
    assertThat(t.position(0)).isEqualTo(new Vec3(4, 1, 0));
  }

  @Test
  void scaleAndShearThatStayAreInWhatHangsThere() {
    Matrix4d shear = new Matrix4d().m10(0.4).scale(2, 0.5, 3);
    Node cart = moving("cart", null, f -> drive(f).mul(shear));
    Node part = still("part", cart, new Matrix4d().translation(0.2, 0.7, -0.1).rotateX(0.4));
    Node leaf = still("t", part, new Matrix4d().translation(1, 1, 1));
    TrackerSet t = placed(groups(null), leaf);
    assertThat(t.moves()).isTrue();
    assertThat(t.name()).isEqualTo("part");
    assertThat(t.group().orElseThrow().name()).isEqualTo("cart");
    follows(t, leaf);
    assertThat(notes).isEmpty();
  }

  @Test
  void aMirrorIsInWhatHangsThere() {
    Node cart = moving("cart", null, f -> drive(f).scale(-1, 1, 1));
    Node leaf = still("t", cart, new Matrix4d().translation(1, 2, 3));
    follows(placed(groups(null), leaf), leaf);
  }

  @Test
  void aTrackerThatMovesByItselfIsAGroupOfItsOwn() {
    Node leaf = moving("t", still("set", null, new Matrix4d().scale(0.1)), FileGroupsTest::drive);
    TrackerSet t = placed(groups(null), leaf);
    assertThat(t.group().orElseThrow().path()).extracting(Group::name).containsExactly("set", "t");
    follows(t, leaf);
  }

  /**
   * A point goes its own way where the scale above it changes; what has a size says that it stays.
   */
  @Test
  void underAScaleThatChangesTrackersAreFollowedAndTheRestIsSaid() {
    IntFunction<Matrix4d> grows = f -> drive(f).scale(1 + 0.01 * f);
    follows(placed(groups(null), moving("t", null, grows)), moving("t", null, grows));
    assertThat(notes).isEmpty();
    Node balloon = moving("balloon", null, grows);
    Node part = still("part", balloon, new Matrix4d().translation(0, 1, 0).rotateX(0.3));
    Node leaf = still("t", part, new Matrix4d().translation(1, 0, 0));
    TrackerSet t = placed(groups(null), leaf);
    follows(t, leaf);
    assertThat(t.group().orElseThrow().path())
        .extracting(Group::name)
        .containsExactly("balloon", "part", "t");
    assertThat(notes).isEmpty();
    groups(null).ofContents(balloon);
    assertThat(notes).hasSize(1);
    assertThat(notes.get(0).toString()).contains("balloon").contains("frame 10");
  }

  @Test
  void aCollapsedTransformIsAnError() {
    Node flat = moving("flat", null, f -> drive(f).scale(1, 0, 1));
    assertThatThrownBy(() -> placed(groups(null), still("t", flat, new Matrix4d())))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("collapsed");
  }

  @Test
  void theFilesRootIsNoGroup() {
    Node root = still("shot", null, new Matrix4d().translation(5, 0, 0));
    Node cart = moving("cart", root, FileGroupsTest::drive);
    Node leaf = still("t", cart, new Matrix4d().translation(1, 0, 0));
    TrackerSet t = placed(groups(root), leaf);
    assertThat(t.group().orElseThrow().path()).extracting(Group::name).containsExactly("cart");
    follows(t, leaf);
    // A root that moves is one.
    Node crane = moving("crane", null, FileGroupsTest::drive);
    Node other = still("t", crane, new Matrix4d().translation(1, 0, 0));
    assertThat(placed(groups(crane), other).moves()).isTrue();
  }

  /** 500 chains of two to six nodes, each still or moving, scaled where it likes. */
  @Test
  void anyChainFollowsItsMatrices() {
    Random r = new Random(12);
    for (int i = 0; i < 500; i++) {
      Node n = null;
      int depth = 2 + r.nextInt(5);
      for (int k = 0; k < depth; k++) {
        Matrix4d own =
            new Matrix4d()
                .translation(r.nextGaussian(), r.nextGaussian(), r.nextGaussian())
                .rotateXYZ(r.nextGaussian(), r.nextGaussian(), r.nextGaussian());
        Matrix4d made =
            r.nextInt(3) == 0
                ? own.scale(0.5 + r.nextDouble(), 0.5 + r.nextDouble(), -1 - r.nextDouble())
                : own;
        double speed = r.nextGaussian();
        n =
            r.nextBoolean()
                ? still("n" + k, n, made)
                : moving("n" + k, n, f -> drive((int) (speed * f)).mul(made));
      }
      Node leaf = still("t", n, new Matrix4d().translation(r.nextGaussian(), 1, r.nextGaussian()));
      notes.clear();
      follows(placed(groups(null), leaf), leaf);
      assertThat(notes).isEmpty();
    }
  }

  @Test
  void framesAreThoseOfTheRangeAndEveryCamera() {
    assertThat(FileGroups.frames(FRAMES, List.of(), () -> null, 1000)).isEqualTo(FRAMES);
    assertThat(FileGroups.frames(null, List.of(), () -> new FrameRange(3, 4), 1000))
        .isEqualTo(new FrameRange(3, 4));
    assertThat(FileGroups.frames(null, List.of(), () -> null, 1000))
        .isEqualTo(new FrameRange(0, 0));
  }
}
