package flarvo.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import java.util.Random;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

class RotationTest {

  private final Random random = new Random(5);

  @Test
  void turnsAsAnIndependentLibraryDoes() {
    for (int i = 0; i < 2000; i++) {
      Rotation a = TestShots.randomRotation(random);
      Rotation b = TestShots.randomRotation(random);
      Vec3 v = new Vec3(random.nextGaussian(), random.nextGaussian(), random.nextGaussian());
      Vec3 ours = a.after(b).apply(v);
      Vector3d theirs =
          new Quaterniond(a.x(), a.y(), a.z(), a.w())
              .mul(new Quaterniond(b.x(), b.y(), b.z(), b.w()))
              .transform(new Vector3d(v.x(), v.y(), v.z()));
      assertThat(ours.minus(new Vec3(theirs.x, theirs.y, theirs.z)).length()).isLessThan(1e-13);
    }
  }

  @Test
  void comesBackFromItsMatrix() {
    for (int i = 0; i < 2000; i++) {
      Rotation a = TestShots.randomRotation(random);
      assertThat(Rotation.fromRows(a.toRows()).angleTo(a)).isLessThan(1e-14);
    }
  }

  @Test
  void refusesReflectionsAndLengths() {
    assertThatThrownBy(() -> Rotation.fromRows(-1, 0, 0, 0, 1, 0, 0, 0, 1))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> new Rotation(1, 1, 0, 0)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> Rotation.normalized(0, 0, 0, 0))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> Rotation.normalized(Double.NaN, 0, 0, 0))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void measuresSmallTurns() {
    Rotation a = TestShots.randomRotation(random);
    Rotation small = Rotation.about(new Vec3(1, 2, 3), 1e-9);
    assertThat(a.angleTo(small.after(a))).isCloseTo(1e-9, within(1e-15));
  }

  @Test
  void aSimilarityUndoesItself() {
    for (int i = 0; i < 200; i++) {
      Similarity s =
          new Similarity(
              Math.exp(random.nextGaussian()),
              TestShots.randomRotation(random),
              new Vec3(random.nextGaussian(), random.nextGaussian(), random.nextGaussian()));
      Vec3 v = new Vec3(1, -2, 3);
      assertThat(s.inverse().apply(s.apply(v)).minus(v).length()).isLessThan(1e-13);
      Similarity both = s.after(s);
      assertThat(both.apply(v).minus(s.apply(s.apply(v))).length())
          .isLessThan(1e-11 * both.scale() + 1e-11);
    }
  }
}
