package flarvo.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.Optional;
import org.junit.jupiter.api.Test;

class MeshTest {

  /** A triangle and a quad; a number at every corner, so that a mix-up shows. */
  private static Mesh mesh() {
    return Mesh.of(
            "m",
            new double[] {0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 2, 0, 0},
            new int[] {3, 4},
            new int[] {1, 4, 2, 0, 1, 2, 3})
        .withNormals(
            new double[] {1, 0, 0, 0, 1, 0, 0, 0, 1, -1, 0, 0, 0, -1, 0, 0, 0, -1, 0.6, 0.8, 0})
        .withUvs(new double[] {0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13});
  }

  @Test
  void turningTheHandRewindsEveryCornerWithWhatItHas() {
    Mesh m = mesh().map(v -> new Vec3(-v.x(), v.y(), v.z()), d -> d, true);
    assertThat(m.faceIndices()).containsExactly(2, 4, 1, 3, 2, 1, 0);
    assertThat(m.uvs()).containsExactly(4, 5, 2, 3, 0, 1, 12, 13, 10, 11, 8, 9, 6, 7);
    assertThat(m.normals()[0]).isZero();
    assertThat(m.normals()[2]).isEqualTo(1);
    assertThat(m.map(v -> new Vec3(-v.x(), v.y(), v.z()), d -> d, true)).isEqualTo(mesh());
  }

  @Test
  void aSimilarityMovesPointsAndTurnsNormals() {
    Similarity s =
        new Similarity(2, Rotation.about(new Vec3(0, 0, 1), Math.PI / 2), new Vec3(1, 2, 3));
    Mesh m = mesh().under(s);
    assertThat(m.position(1, 0).minus(new Vec3(1, 4, 3)).length()).isLessThan(1e-12);
    assertThat(m.normals()[0]).isCloseTo(0, within(1e-12));
    assertThat(m.normals()[1]).isCloseTo(1, within(1e-12));
    assertThat(m.uvs()).isEqualTo(mesh().uvs());
  }

  /** What hangs in a group that moves is scaled, and its group is moved and turned. */
  @Test
  void inAMovingGroupTheGroupTakesTheMove() {
    Group g =
        Group.moving(
            "g",
            PoseTrack.of(
                new FrameRange(1, 5),
                f -> new Pose(new Vec3(f, 0, 0), Rotation.about(new Vec3(0, 1, 0), 0.1 * f))));
    Mesh in = mesh().inGroup(Optional.of(g));
    Similarity s = new Similarity(3, Rotation.about(new Vec3(1, 2, 0), 0.7), new Vec3(-1, 0.5, 4));
    Mesh moved = in.under(s);
    for (int f = 1; f <= 5; f++) {
      for (int i = 0; i < in.points(); i++) {
        Vec3 truth = s.apply(in.position(i, f));
        assertThat(moved.position(i, f).minus(truth).length()).isLessThan(1e-12);
      }
    }
    assertThat(in.shifted(10).position(4, 13)).isEqualTo(in.position(4, 3));
  }

  @Test
  void whatDoesNotFitIsRefused() {
    assertThatThrownBy(() -> mesh().withNormals(new double[20]))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("7 corners");
    assertThatThrownBy(() -> mesh().withUvs(new double[13]))
        .isInstanceOf(IllegalArgumentException.class);
    double[] bad = new double[14];
    bad[3] = Double.NaN;
    assertThatThrownBy(() -> mesh().withUvs(bad)).hasMessageContaining("not finite");
  }

  @Test
  void everyPartCountsForEquality() {
    assertThat(mesh()).isEqualTo(mesh()).hasSameHashCodeAs(mesh());
    assertThat(mesh().withUvs(new double[14])).isNotEqualTo(mesh());
    assertThat(mesh().inGroup(Optional.of(Group.still("a")))).isNotEqualTo(mesh());
    assertThat(mesh().map(v -> v, d -> d.times(-1), false)).isNotEqualTo(mesh());
  }
}
