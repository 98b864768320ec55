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
import flarvo.scene.FrameRange;
import flarvo.scene.Pinhole;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.lwjgl.assimp.AIAnimation;
import org.lwjgl.assimp.AICamera;
import org.lwjgl.assimp.AINode;
import org.lwjgl.assimp.AINodeAnim;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.Assimp;

/** Interpolation, guards, and what a library that we did not write makes of our files. */
class GltfSceneTest {

  @TempDir private Path dir;

  private static String floats(double... v) {
    ByteBuffer b = ByteBuffer.allocate(4 * v.length).order(ByteOrder.LITTLE_ENDIAN);
    for (double d : v) {
      b.putFloat((float) d);
    }
    return "data:application/octet-stream;base64," + Base64.getEncoder().encodeToString(b.array());
  }

  /** A camera moved by one channel: times, then values. */
  private static String animated(String way, String path, String type, double[] t, double[] v) {
    double[] all = new double[t.length + v.length];
    System.arraycopy(t, 0, all, 0, t.length);
    System.arraycopy(v, 0, all, t.length, v.length);
    int width = type.equals("VEC3") ? 3 : 4;
    return """
        {"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],
         "nodes":[{"name":"cam","camera":0}],
         "cameras":[{"type":"perspective","perspective":{"yfov":0.8,"znear":0.1}}],
         "buffers":[{"byteLength":%d,"uri":"%s"}],
         "bufferViews":[{"buffer":0,"byteOffset":0,"byteLength":%d},
                        {"buffer":0,"byteOffset":%d,"byteLength":%d}],
         "accessors":[{"bufferView":0,"componentType":5126,"count":%d,"type":"SCALAR",
                       "min":[%s],"max":[%s]},
                      {"bufferView":1,"componentType":5126,"count":%d,"type":"%s"}],
         "animations":[{"name":"a","samplers":[{"input":0,"output":1,"interpolation":"%s"}],
           "channels":[{"sampler":0,"target":{"node":0,"path":"%s"}}]}]}
        """
        .formatted(
            4 * all.length,
            floats(all),
            4 * t.length,
            4 * t.length,
            4 * v.length,
            t.length,
            t[0],
            t[t.length - 1],
            v.length / width,
            type,
            way,
            path);
  }

  private FileScene read(String json) throws IOException {
    Path f = Files.writeString(dir.resolve("a.gltf"), json);
    return GltfFormat.text()
        .read(f, Dialect.CANONICAL, ReadLimits.USUAL, Optional.empty(), Progress.NONE);
  }

  private static Vec3 at(FileScene s, int frame) {
    return s.cameras().get(0).camera().poses().at(frame).position();
  }

  @Test
  void stepAndLinearKeys() throws IOException {
    double[] t = {0, 0.5, 1};
    double[] v = {0, 0, 0, 12, 0, 0, 0, 24, 0};
    FileScene step = read(animated("STEP", "translation", "VEC3", t, v));
    assertThat(step.rate().orElseThrow().value()).isEqualTo(new Rate(2, 1));
    assertThat(at(step, 1)).isEqualTo(new Vec3(12, 0, 0));
    double[] four = {0, 0.25, 0.5, 0.75};
    double[] w = {0, 0, 0, 4, 0, 0, 8, 0, 0, 8, 2, 0};
    FileScene line = read(animated("LINEAR", "translation", "VEC3", four, w));
    assertThat(line.rate().orElseThrow().value()).isEqualTo(new Rate(4, 1));
    assertThat(at(line, 3)).isEqualTo(new Vec3(8, 2, 0));
  }

  /** With the slopes of a parabola the cubic is the parabola. */
  @Test
  void aCubicSplineFollowsItsTangents() throws IOException {
    // x = s²; sparse keys at 0, 10 and 25 frames of the fallback rate
    double[] t = {0, 10 / 24.0, 25 / 24.0};
    double[] v = new double[27];
    for (int i = 0; i < 3; i++) {
      v[9 * i] = 2 * t[i];
      v[9 * i + 3] = t[i] * t[i];
      v[9 * i + 6] = 2 * t[i];
    }
    FileScene s = read(animated("CUBICSPLINE", "translation", "VEC3", t, v));
    assertThat(s.rate().orElseThrow().assumed()).isTrue();
    assertThat(s.cameras().get(0).camera().frames()).isEqualTo(new FrameRange(0, 25));
    for (int f = 0; f <= 25; f++) {
      assertThat(at(s, f).x()).isCloseTo(f * f / 576.0, within(1e-6));
    }
  }

  @Test
  void rotationsTakeTheShorterWay() throws IOException {
    double h = Math.sqrt(0.5);
    double[] t = {0, 4 / 24.0, 12 / 24.0};
    double[] v = {0, 0, 0, 1, 0, -h, 0, -h, 0, -h, 0, -h};
    FileScene s = read(animated("LINEAR", "rotation", "VEC4", t, v));
    Rotation half = s.cameras().get(0).camera().poses().at(2).rotation();
    assertThat(half.angleTo(Rotation.about(new Vec3(0, 1, 0), Math.PI / 4))).isLessThan(1e-6);
  }

  @Test
  void aCameraWithoutAspectIsKnownByItsVerticalAngle() throws IOException {
    FileScene s =
        read(animated("LINEAR", "translation", "VEC3", new double[] {0, 1}, new double[6]));
    assertThat(s.cameras().get(0).verticalAngleOnly()).isTrue();
    assertThat(s.notes().toString()).contains("no aspect");
    var o = s.cameras().get(0).camera().optics().at(0);
    assertThat(2 * Math.atan(o.filmHeightMm() / 2 / o.focalLengthMm()))
        .isCloseTo(0.8, within(1e-6));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "\"nodes\":[{\"children\":[1]},{\"children\":[0]}]|circle",
        "\"nodes\":[{\"children\":[1]},{\"children\":[2]},{\"children\":[1]}]|two parents",
        "\"nodes\":[{\"children\":[7]}]|does not exist",
        "\"buffers\":[{\"byteLength\":4,\"uri\":\"../../secret.bin\"}]|outside the folder",
        "\"buffers\":[{\"byteLength\":4,\"uri\":\"http://example.invalid/a.bin\"}]|on a network",
        "\"buffers\":[{\"byteLength\":4,\"uri\":\"gone.bin\"}]|not beside the file",
        "\"buffers\":[{\"byteLength\":-4}]|below 0",
        "\"accessors\":[{\"componentType\":5126,\"count\":2000000000,\"type\":\"VEC3\"}]|claimed"
      })
  void whatWouldHarmIsRefused(String part, String why) {
    String json = "{\"asset\":{\"version\":\"2.0\"}," + part + "}";
    assertThatThrownBy(() -> read(json)).isInstanceOf(InputError.class).hasMessageContaining(why);
  }

  /** The asset import library reads our file and puts its points onto the same pixels. */
  @Test
  void aForeignReaderSeesTheSamePixels() {
    Shot shot = TestShots.walk(24, 40, 11);
    Path file = dir.resolve("x.glb");
    Dispatcher.send(
        shot,
        new Delivery(
            "x",
            Dialects.shipped().get("comp-yup"),
            GltfFormat.binary(),
            Contents.CAMERA_AND_TRACKERS,
            "x.glb"),
        file,
        Progress.NONE);
    AIScene scene = Assimp.aiImportFile(file.toString(), 0);
    assertThat(scene).as(Assimp.aiGetErrorString()).isNotNull();
    try {
      assertThat(worst(shot, scene)).isLessThan(0.01);
    } finally {
      Assimp.aiReleaseImport(scene);
    }
  }

  private static double worst(Shot shot, AIScene scene) {
    AICamera camera = AICamera.create(scene.mCameras().get(0));
    Map<String, AINode> nodes = new HashMap<>();
    collect(scene.mRootNode(), nodes);
    AINodeAnim channel =
        AINodeAnim.create(AIAnimation.create(scene.mAnimations().get(0)).mChannels().get(0));
    // Angle and aspect of this format's cameras: that library turns them into half a width.
    double focalPx = shot.picture().width() / 2.0 / Math.tan(camera.mHorizontalFOV() / 2);
    Pinhole truth = new Pinhole(shot.cameras().get(0), shot.picture());
    TrackerSet points = shot.trackers().get(0);
    double[] px = new double[3];
    double worst = 0;
    for (int k = 0; k < shot.frames().count(); k++) {
      var p = channel.mPositionKeys().get(k).mValue();
      var q = channel.mRotationKeys().get(k).mValue();
      Matrix4d toLocal =
          new Matrix4d()
              .translation(p.x(), p.y(), p.z())
              .rotate(new Quaterniond(q.x(), q.y(), q.z(), q.w()).normalize())
              .invert();
      truth.at(shot.frames().first() + k);
      for (int i = 0; i < points.size(); i++) {
        var m = nodes.get(points.names().get(i)).mTransformation();
        Vector3d v = toLocal.transformPosition(new Vector3d(m.a4(), m.b4(), m.c4()));
        truth.project(points.x(i), points.y(i), points.z(i), px);
        double x = shot.picture().width() / 2.0 - focalPx * v.x / v.z;
        double y = shot.picture().height() / 2.0 + focalPx * v.y / v.z;
        worst = Math.max(worst, Math.hypot(x - px[0], y - px[1]));
      }
    }
    return worst;
  }

  private static void collect(AINode n, Map<String, AINode> into) {
    into.put(n.mName().dataString(), n);
    for (int i = 0; i < n.mNumChildren(); i++) {
      collect(AINode.create(n.mChildren().get(i)), into);
    }
  }

  /** Stiff, with a shape to become, and hung from a joint. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {"|false", ",\"targets\":[{\"POSITION\":0}]|true", "skin|true"})
  void aMeshThatIsDeformedIsReadAsModelledAndSaid(String more, boolean said) throws IOException {
    boolean skin = "skin".equals(more);
    String file =
        """
        {"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0,1]}],
         "nodes":[{"name":"body","mesh":0%s},{"name":"joint"}],%s
         "meshes":[{"primitives":[{"attributes":{"POSITION":0}%s}]}],
         "buffers":[{"byteLength":36,"uri":"%s"}],
         "bufferViews":[{"buffer":0,"byteLength":36}],
         "accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3",
                       "min":[0,0,0],"max":[1,1,0]}]}
        """
            .formatted(
                skin ? ",\"skin\":0" : "",
                skin ? "\"skins\":[{\"joints\":[1]}]," : "",
                skin || more == null ? "" : more,
                floats(0, 0, 0, 1, 0, 0, 0, 1, 0));
    Path f = Files.writeString(dir.resolve("d.gltf"), file);
    FileScene s =
        GltfFormat.text()
            .read(f, Dialect.CANONICAL, ReadLimits.USUAL, Optional.empty(), Progress.NONE);
    assertThat(s.meshes()).hasSize(1);
    assertThat(s.notes().stream().anyMatch(n -> n.toString().contains("deform"))).isEqualTo(said);
  }
}
