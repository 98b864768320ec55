package flarvo.format.gltf;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What other writers put into glTF. {@code ./flarvo peers} reads 200 such files elsewhere too. */
class GltfForeignTest {

  @TempDir private Path dir;

  private FileScene read(String json) throws IOException {
    Path file = Files.writeString(dir.resolve("f.gltf"), json);
    return GltfFormat.text().read(file, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
  }

  private static String uri(ByteBuffer b) {
    byte[] bytes = new byte[b.capacity()];
    b.get(0, bytes);
    return "data:application/octet-stream;base64," + Base64.getEncoder().encodeToString(bytes);
  }

  private static ByteBuffer floats(double... v) {
    ByteBuffer b = ByteBuffer.allocate(4 * v.length).order(ByteOrder.LITTLE_ENDIAN);
    for (double d : v) {
      b.putFloat((float) d);
    }
    return b;
  }

  @ParameterizedTest
  @ValueSource(strings = {"KHR_draco_mesh_compression", "VENDOR_something_new"})
  void whatAFileRequiresAndNobodyKnowsRefusesIt(String extension) {
    assertThatThrownBy(
            () ->
                read(
                    """
                    {"asset":{"version":"2.0"},"extensionsUsed":["%1$s"],
                     "extensionsRequired":["%1$s"],"nodes":[{"name":"a","translation":[1,2,3]}]}
                    """
                        .formatted(extension)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining(extension);
  }

  @Test
  void extensionsThatAreOnlyUsedAreSaidAndLooksAreNot() throws IOException {
    FileScene s =
        read(
            """
            {"asset":{"version":"2.0"},
             "extensionsUsed":["EXT_mesh_gpu_instancing","KHR_materials_unlit"],
             "extensionsRequired":["KHR_materials_unlit"],
             "nodes":[{"name":"a","translation":[1,2,3]}]}
            """);
    assertThat(s.notes())
        .extracting(Note::text)
        .containsExactly("EXT_mesh_gpu_instancing is not followed");
  }

  /** A camera whose angle and place are driven through pointers. */
  @Test
  void pointersMoveWhatTheyPointAt() throws IOException {
    String json =
        """
        {"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],
         "extensionsUsed":["KHR_animation_pointer"],
         "nodes":[{"name":"cam","camera":0}],
         "cameras":[{"type":"perspective","perspective":{"yfov":0.8,"aspectRatio":1.5,"znear":0.1}}],
         "buffers":[{"byteLength":48,"uri":"%s"}],
         "bufferViews":[{"buffer":0,"byteLength":12},{"buffer":0,"byteOffset":12,"byteLength":12},
                        {"buffer":0,"byteOffset":24,"byteLength":24}],
         "accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"SCALAR"},
                      {"bufferView":1,"componentType":5126,"count":3,"type":"SCALAR"},
                      {"bufferView":0,"componentType":5126,"count":2,"type":"SCALAR"},
                      {"bufferView":2,"componentType":5126,"count":2,"type":"VEC3"}],
         "animations":[{"samplers":[{"input":0,"output":1},{"input":2,"output":3}],
          "channels":[
           {"sampler":0,"target":{"path":"pointer","extensions":{"KHR_animation_pointer":
             {"pointer":"/cameras/0/perspective/yfov"}}}},
           {"sampler":1,"target":{"path":"pointer","extensions":{"KHR_animation_pointer":
             {"pointer":"/nodes/0/translation"}}}},
           {"sampler":0,"target":{"path":"pointer","extensions":{"KHR_animation_pointer":
             {"pointer":"/materials/0/alphaCutoff"}}}}]}]}
        """
            .formatted(uri(floats(0, 1 / 24d, 2 / 24d, 0.8, 0.6, 0.4, 0, 0, 0, 1, 2, 3)));
    FileScene s = read(json);
    ShotCamera c = s.cameras().get(0).camera();
    assertThat(c.frames()).isEqualTo(new FrameRange(0, 2));
    for (int f = 0; f <= 2; f++) {
      double angle = 0.8 - 0.2 * f;
      double half = c.optics().at(f).filmHeightMm() / 2 / c.optics().at(f).focalLengthMm();
      assertThat(2 * Math.atan(half)).isCloseTo(angle, within(1e-7));
    }
    assertThat(c.poses().at(1).position()).isEqualTo(new Vec3(1, 2, 3));
    assertThat(s.notes())
        .extracting(Note::text)
        .anyMatch(t -> t.contains("/materials/0/alphaCutoff"));
  }

  @Test
  void nodesOutsideTheSceneStayOutAndAreSaid() throws IOException {
    FileScene s =
        read(
            """
            {"asset":{"version":"2.0"},"scene":1,"scenes":[{"nodes":[1]},{"nodes":[0]}],
             "nodes":[{"name":"in","translation":[1,2,3]},{"name":"out","translation":[4,5,6]}]}
            """);
    assertThat(s.trackers()).flatExtracting(TrackerSet::names).containsExactly("in");
    assertThat(s.notes()).extracting(Note::text).anyMatch(t -> t.contains("[out]"));
  }

  /** Three points of which one is stated; the others are at the origin, as the format says. */
  @Test
  void loosePointsAreTrackersAndSparseListsNeedNoBase() throws IOException {
    ByteBuffer b = ByteBuffer.allocate(16).order(ByteOrder.LITTLE_ENDIAN);
    b.putShort((short) 1).putShort((short) 0).putFloat(7).putFloat(8).putFloat(9);
    FileScene s =
        read(
            """
            {"asset":{"version":"2.0"},"scenes":[{"nodes":[0]}],
             "nodes":[{"name":"cloud","mesh":0,"translation":[0,0,1]}],
             "meshes":[{"name":"p","primitives":[{"mode":0,"attributes":{"POSITION":0}}]}],
             "buffers":[{"byteLength":16,"uri":"%s"}],
             "bufferViews":[{"buffer":0,"byteLength":2},{"buffer":0,"byteOffset":4,"byteLength":12}],
             "accessors":[{"componentType":5126,"count":3,"type":"VEC3","sparse":{"count":1,
               "indices":{"bufferView":0,"componentType":5123},"values":{"bufferView":1}}}]}
            """
                .formatted(uri(b)));
    TrackerSet t = s.trackers().get(0);
    assertThat(t.names()).containsExactly("p_1", "p_2", "p_3");
    assertThat(t.position(0, 0)).isEqualTo(new Vec3(0, 0, 1));
    assertThat(t.position(1, 0)).isEqualTo(new Vec3(7, 8, 10));
  }

  @Test
  void aSparseEntryBeyondTheListIsAnError() {
    ByteBuffer b = ByteBuffer.allocate(16).order(ByteOrder.LITTLE_ENDIAN);
    b.putShort((short) 9);
    assertThatThrownBy(
            () ->
                read(
                    """
                    {"asset":{"version":"2.0"},"scenes":[{"nodes":[0]}],
                     "nodes":[{"name":"cloud","mesh":0}],
                     "meshes":[{"primitives":[{"mode":0,"attributes":{"POSITION":0}}]}],
                     "buffers":[{"byteLength":16,"uri":"%s"}],
                     "bufferViews":[{"buffer":0,"byteLength":2},
                                    {"buffer":0,"byteOffset":4,"byteLength":12}],
                     "accessors":[{"componentType":5126,"count":3,"type":"VEC3","sparse":{"count":1,
                       "indices":{"bufferView":0,"componentType":5123},"values":{"bufferView":1}}}]}
                    """
                        .formatted(uri(b))))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("does not fit");
  }

  /** An hour in at 24 frames a second: 32-bit times are good for about a hundredth of a frame. */
  @Test
  void noFrameIsLostFarFromZeroAndTheTimesAreSaid() {
    Shot shot = TestShots.walkFrom(86400, 20, 12, 1);
    Path file = dir.resolve("late.glb");
    Dialect comp = Dialects.shipped().get("comp-yup");
    Delivery delivery =
        new Delivery("x", comp, GltfFormat.binary(), Contents.CAMERA_AND_TRACKERS, "late.glb");
    Dispatcher.Sent sent = Dispatcher.send(shot, delivery, file, Progress.NONE);
    FileScene s =
        GltfFormat.binary().read(file, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
    assertThat(s.cameras().get(0).camera().frames()).isEqualTo(sent.frames().recipientFrames());
    assertThat(sent.notes()).extracting(Note::text).anyMatch(t -> t.contains("32-bit"));
    assertThat(s.cameras().get(0).offGridKeys()).isZero();
  }
}
