package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.TestShots;
import flarvo.report.InputError;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Vec3;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import org.joml.Matrix4d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The small tools that every format stands on. */
class TextToolsTest {

  @TempDir private Path dir;

  @Test
  void aCursorKnowsWhereItIs() {
    TextCursor c = new TextCursor("f", "ab\ncd");
    c.skip(4);
    assertThat(c.place()).isEqualTo("line 2, column 2");
    assertThat(c.next()).isEqualTo('d');
    assertThat(c.atEnd()).isTrue();
    assertThat((int) c.peek()).isZero();
    assertThatThrownBy(c::next).isInstanceOf(InputError.class).hasMessageContaining("line 2");
    c.moveTo(0);
    assertThatThrownBy(() -> c.until("@", "a path")).hasMessageContaining("a path is not closed");
    assertThat(c.until("\n", "x")).isEqualTo("ab");
  }

  @Test
  void namesBecomeIdentifiersAndStayApart() {
    FileNames n = new FileNames();
    assertThat(n.identifier("trk 1")).isEqualTo("trk_1");
    assertThat(n.identifier("trk-1")).isEqualTo("trk_1_2");
    assertThat(n.identifier("trk.1")).isEqualTo("trk_1_3");
    assertThat(n.identifier("1st")).isEqualTo("_1st");
    assertThat(n.identifier("")).isEqualTo("_");
    assertThat(n.identifier("größe")).isEqualTo("gr__e");
    assertThat(n.unique("a")).isEqualTo("a");
    assertThat(n.unique("a")).isEqualTo("a_2");
  }

  @Test
  void textIsReadWholeOrRefused() throws Exception {
    Path f = dir.resolve("f.txt");
    Files.write(f, new byte[] {'a', (byte) 0xC3, (byte) 0x28});
    assertThatThrownBy(() -> TextSource.read(f, ReadLimits.USUAL)).hasMessageContaining("UTF-8");
    Files.writeString(f, "0123456789");
    assertThatThrownBy(
            () -> TextSource.read(f, new ReadLimits(5, 1, 1, 1, 1, 1, Reach.BESIDE, false)))
        .hasMessageContaining("larger than 5 bytes");
    assertThat(TextSource.read(f, ReadLimits.USUAL)).isEqualTo("0123456789");
    assertThatThrownBy(() -> TextSource.read(dir, ReadLimits.USUAL)).hasMessageContaining("folder");
    assertThatThrownBy(() -> TextSource.head(dir.resolve("no"))).hasMessageContaining("not found");
  }

  /** Any scale, none of it negative, is taken off; the pose beneath stays. */
  @Test
  void aPoseComesOutOfAScaledMatrix() {
    Random r = new Random(12);
    for (int i = 0; i < 500; i++) {
      Pose p = TestShots.randomPose(r);
      double[] m = p.rotation().toRows();
      Matrix4d scaled =
          new Matrix4d(
                  m[0],
                  m[3],
                  m[6],
                  0,
                  m[1],
                  m[4],
                  m[7],
                  0,
                  m[2],
                  m[5],
                  m[8],
                  0,
                  p.position().x(),
                  p.position().y(),
                  p.position().z(),
                  1)
              .scale(
                  Math.exp(2 * r.nextGaussian()),
                  Math.exp(2 * r.nextGaussian()),
                  Math.exp(2 * r.nextGaussian()));
      for (int kept = 0; kept < 3; kept++) {
        Pose out = MatrixPose.rigid(scaled, kept, (kept + 1 + i % 2) % 3).orElseThrow();
        assertThat(out.rotation().angleTo(p.rotation())).isLessThan(1e-9);
        assertThat(out.position()).isEqualTo(p.position());
      }
    }
  }

  @Test
  void underShearTheKeptAxisKeepsItsDirection() {
    Matrix4d shear = new Matrix4d().rotateY(0.4).mul(new Matrix4d().m10(0.5)).rotateX(0.3);
    Pose p = MatrixPose.rigid(shear, 2, 1).orElseThrow();
    Vec3 view = p.rotation().apply(new Vec3(0, 0, 1));
    org.joml.Vector3d z = shear.getColumn(2, new org.joml.Vector3d()).normalize();
    assertThat(view.minus(new Vec3(z.x, z.y, z.z)).length()).isLessThan(1e-12);
  }

  @Test
  void mirrorsAndCollapsesHaveNoPose() {
    assertThat(MatrixPose.rigid(new Matrix4d().scaling(-1, 1, 1), 2, 1)).isEmpty();
    assertThat(MatrixPose.rigid(new Matrix4d().scaling(1, 0, 1), 2, 1)).isEmpty();
    assertThat(MatrixPose.rigid(new Matrix4d().m00(Double.NaN), 2, 1)).isEmpty();
    assertThat(MatrixPose.rigid(new Matrix4d(), 2, 1).orElseThrow().rotation())
        .isEqualTo(Rotation.IDENTITY);
  }

  @Test
  void theRegistryKnowsFormatsByExtensionAndName() {
    assertThat(Formats.forWriting(Path.of("x/A.USDA")).id()).isEqualTo("usd-text");
    assertThat(Formats.forWriting(Path.of("b.fbx")).id()).isEqualTo("fbx-binary");
    assertThatThrownBy(() -> Formats.forWriting(Path.of("b.mov"))).hasMessageContaining(".usda");
    assertThatThrownBy(() -> Formats.byId("nope")).hasMessageContaining("usd-text");
    for (SceneFormat f : Formats.all()) {
      assertThat(f.title()).isNotBlank();
      assertThat(f.cannotCarry()).isNotEmpty();
    }
  }
}
