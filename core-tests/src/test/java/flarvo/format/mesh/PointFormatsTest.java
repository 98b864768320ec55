package flarvo.format.mesh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.HostileFiles;
import flarvo.convention.Dialect;
import flarvo.format.FileScene;
import flarvo.format.Formats;
import flarvo.format.ReadLimits;
import flarvo.format.SceneFormat;
import flarvo.report.InputError;
import flarvo.scene.Mesh;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class PointFormatsTest {

  private static final String OBJ =
      """
      # a made-up stone
      o stone
      v 0 0 0
      v 1 0 0.5
      v 1 1 0
      v 0 1 -2.5e-1
      vt 0 0
      f 1/1 2/1 3/1 4/1
      f -4 -3 -1
      """;

  @TempDir private Path dir;

  private FileScene read(byte[] bytes) throws IOException {
    Path f = dir.resolve("stone.bin");
    HostileFiles.write(f, bytes);
    return Formats.recognise(f).read(f, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
  }

  private static byte[] ply(String kind, boolean faces) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    String header =
        "ply\nformat "
            + kind
            + " 1.0\ncomment made up\nelement vertex 3\nproperty double x\nproperty float y\n"
            + "property float z\nproperty uchar red\n"
            + (faces ? "element face 1\nproperty list uchar int vertex_indices\n" : "")
            + "end_header\n";
    out.write(header.getBytes(StandardCharsets.US_ASCII));
    if (kind.equals("ascii")) {
      out.write("0.1 2 3 255\n4 5 6 0\n-7 8.5 9 1\n".getBytes(StandardCharsets.US_ASCII));
      out.write((faces ? "3 0 1 2\n" : "").getBytes(StandardCharsets.US_ASCII));
      return out.toByteArray();
    }
    ByteBuffer b =
        ByteBuffer.allocate(128)
            .order(kind.contains("big") ? ByteOrder.BIG_ENDIAN : ByteOrder.LITTLE_ENDIAN);
    b.putDouble(0.1).putFloat(2).putFloat(3).put((byte) 255);
    b.putDouble(4).putFloat(5).putFloat(6).put((byte) 0);
    b.putDouble(-7).putFloat(8.5f).putFloat(9).put((byte) 1);
    if (faces) {
      b.put((byte) 3).putInt(0).putInt(1).putInt(2);
    }
    out.write(b.array(), 0, b.position());
    return out.toByteArray();
  }

  @ParameterizedTest
  @ValueSource(strings = {"ascii", "binary_little_endian", "binary_big_endian"})
  void pointsOfEveryKindOfPly(String kind) throws IOException {
    FileScene cloud = read(ply(kind, false));
    assertThat(cloud.trackerCount()).isEqualTo(3);
    assertThat(cloud.trackers().get(0).position(2)).isEqualTo(new Vec3(-7, 8.5, 9));
    assertThat(cloud.up()).isEmpty();
    Mesh m = read(ply(kind, true)).meshes().get(0);
    assertThat(m.x(0)).isEqualTo(0.1);
    assertThat(m.faceIndices()).containsExactly(0, 1, 2);
  }

  @Test
  void facesOfObjCountFromOneAndBackwards() throws IOException {
    Mesh m = read(OBJ.getBytes(StandardCharsets.UTF_8)).meshes().get(0);
    assertThat(m.points()).isEqualTo(4);
    assertThat(m.corners(0)).isEqualTo(4);
    assertThat(m.faceIndices()).containsExactly(0, 1, 2, 3, 0, 1, 3);
    assertThat(m.z(3)).isEqualTo(-0.25);
  }

  @Test
  void theyComeInAndDoNotGoOut() {
    for (SceneFormat f : new SceneFormat[] {new PlyFormat(), new ObjFormat()}) {
      assertThat(f.writes()).isFalse();
      assertThatThrownBy(() -> Formats.forWriting(Path.of("a" + f.extensions().get(0))))
          .isInstanceOf(InputError.class);
    }
  }

  @Test
  void liesAndGarbageEndInAnErrorWithAPlace() throws IOException {
    byte[] lie =
        "ply\nformat binary_little_endian 1.0\nelement vertex 2000000000\nproperty float x\nend_header\n"
            .getBytes(StandardCharsets.US_ASCII);
    assertThatThrownBy(() -> read(lie))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("claim");
    byte[][] whole = {
      ply("ascii", true), ply("binary_little_endian", true), OBJ.getBytes(StandardCharsets.UTF_8)
    };
    Random random = new Random(5);
    for (byte[] w : whole) {
      for (int i = 0; i < 10_000; i++) {
        byte[] bad = i < 200 ? Arrays.copyOf(w, w.length * i / 200) : w.clone();
        for (int k = 0; i >= 200 && k < 1 + random.nextInt(5); k++) {
          bad[random.nextInt(bad.length)] = (byte) random.nextInt(256);
        }
        Assertions.assertTimeout(
            Duration.ofSeconds(10),
            () -> {
              try {
                read(bad);
              } catch (InputError expected) {
                assertThat(expected.getMessage()).doesNotContain("\n");
              }
            });
      }
    }
  }
}
