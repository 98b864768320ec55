package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.dispatch.Extract;
import flarvo.format.Formats;
import flarvo.motion.Parent;
import flarvo.motion.Parents;
import flarvo.motion.Recast;
import flarvo.scene.Mesh;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.lwjgl.assimp.AIAnimation;
import org.lwjgl.assimp.AIMatrix4x4;
import org.lwjgl.assimp.AIMesh;
import org.lwjgl.assimp.AINode;
import org.lwjgl.assimp.AINodeAnim;
import org.lwjgl.assimp.AIPropertyStore;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.AIVector3D;
import org.lwjgl.assimp.Assimp;

/** Groups that move, in files of ours, evaluated by a library that we did not write. */
class MovingGroupForeignReaderTest {

  /** That library keeps everything in 32-bit floats. */
  private static final double METRES = 2e-5;

  @TempDir private Path dir;
  private final Map<String, AINode> nodes = new HashMap<>();
  private final Map<String, AINodeAnim> channels = new HashMap<>();

  @ParameterizedTest
  @ValueSource(
      strings = {
        "fbx-binary",
        "fbx-text",
        "gltf-binary",
        "gltf-text",
        "fbx-binary under rig,10,1,0,-2,30,10,5",
        "gltf-binary under rig,10,1,0,-2,30,10,5"
      })
  void trackersAndMeshesAreWhereTheyShouldBeOnEveryFrame(String what) {
    Shot shot = CartShot.shot();
    String[] under = what.split(" under ");
    Parents parents =
        under.length == 1
            ? Parents.NONE
            : Parents.NONE
                .withCameraIn(Optional.of("cart"))
                .under(Optional.of(Parent.parse(under[1])));
    var f = Formats.byId(under[0]);
    Path file = dir.resolve("cart" + f.extensions().get(0));
    Dispatcher.send(
        shot,
        new Delivery(
            "x",
            Dialects.shipped().get("anim-yup-m"),
            f,
            Contents.WITH_GEOMETRY,
            Extract.WHOLE.recast(Recast.NONE.withParents(parents)),
            file.getFileName().toString()),
        file,
        Progress.NONE);
    AIPropertyStore options = Assimp.aiCreatePropertyStore();
    Assimp.aiSetImportPropertyInteger(options, Assimp.AI_CONFIG_IMPORT_FBX_PRESERVE_PIVOTS, 0);
    AIScene scene = Assimp.aiImportFileExWithProperties(file.toString(), 0, null, options);
    assertThat(scene).as(Assimp.aiGetErrorString()).isNotNull();
    try {
      collect(scene.mRootNode());
      AIAnimation animation = AIAnimation.create(scene.mAnimations().get(0));
      for (int i = 0; i < animation.mNumChannels(); i++) {
        AINodeAnim c = AINodeAnim.create(animation.mChannels().get(i));
        channels.put(c.mNodeName().dataString(), c);
      }
      compare(shot.levelled());
      surfaces(scene, shot.levelled());
    } finally {
      Assimp.aiReleaseImport(scene);
      Assimp.aiReleasePropertyStore(options);
    }
  }

  private void compare(WorldShot world) {
    int compared = 0;
    for (TrackerSet t : world.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        AINode node = nodes.get(t.names().get(i));
        assertThat(node).as(t.names().get(i)).isNotNull();
        for (int k = 0; k < 60; k++) {
          Vector3d p = worldAt(node, k).getTranslation(new Vector3d());
          Vec3 truth = t.position(i, 1001 + k);
          assertThat(p.distance(truth.x(), truth.y(), truth.z()))
              .as("%s at frame %d", t.names().get(i), 1001 + k)
              .isLessThan(METRES);
          compared++;
        }
      }
    }
    assertThat(compared).isEqualTo(27 * 60);
  }

  /** Each corner of each mesh on three frames, with its normal and texture coordinates. */
  private void surfaces(AIScene scene, WorldShot world) {
    for (Mesh m : world.meshes()) {
      AINode node = nodes.get(m.name());
      AIMesh mesh = AIMesh.create(scene.mMeshes().get(node.mMeshes().get(0)));
      assertThat(mesh.mNormals()).as(m.name()).isNotNull();
      assertThat(mesh.mTextureCoords(0)).as(m.name()).isNotNull();
      for (int frame : new int[] {1001, 1030, 1060}) {
        List<double[]> ours = corners(m, frame);
        Matrix4d to = worldAt(node, frame - 1001);
        int met = 0;
        for (int i = 0; i < mesh.mNumVertices(); i++) {
          Vector3d p = to.transformPosition(vector(mesh.mVertices().get(i)));
          Vector3d n = to.transformDirection(vector(mesh.mNormals().get(i))).normalize();
          AIVector3D uv = mesh.mTextureCoords(0).get(i);
          met +=
              ours.stream()
                      .anyMatch(
                          c ->
                              p.distance(c[0], c[1], c[2]) < METRES
                                  && n.distance(c[3], c[4], c[5]) < 1e-4
                                  && Math.abs(uv.x() - c[6]) < 1e-5
                                  && Math.abs(uv.y() - c[7]) < 1e-5)
                  ? 1
                  : 0;
        }
        assertThat(met).as("%s at frame %d", m.name(), frame).isEqualTo(mesh.mNumVertices());
        assertThat(met).isGreaterThanOrEqualTo(24);
      }
    }
  }

  /** Place, normal and texture coordinates of every corner in the world. */
  private static List<double[]> corners(Mesh m, int frame) {
    List<double[]> out = new ArrayList<>();
    int[] points = m.faceIndices();
    double[] n = m.normals();
    double[] uv = m.uvs();
    for (int c = 0; c < points.length; c++) {
      Vec3 at = m.position(points[c], frame);
      Vec3 normal = new Vec3(n[3 * c], n[3 * c + 1], n[3 * c + 2]);
      Vec3 turned = m.moves() ? m.group().orElseThrow().at(frame).rotation().apply(normal) : normal;
      out.add(
          new double[] {
            at.x(), at.y(), at.z(), turned.x(), turned.y(), turned.z(), uv[2 * c], uv[2 * c + 1]
          });
    }
    return out;
  }

  private Matrix4d worldAt(AINode n, int k) {
    Matrix4d m = new Matrix4d();
    for (AINode x = n; x != null; x = x.mParent()) {
      AINodeAnim c = channels.get(x.mName().dataString());
      m = (c == null ? matrix(x.mTransformation()) : key(c, k)).mul(m);
    }
    return m;
  }

  private static Matrix4d key(AINodeAnim c, int k) {
    AIVector3D p = c.mPositionKeys().get(k).mValue();
    var q = c.mRotationKeys().get(k).mValue();
    return new Matrix4d()
        .translation(p.x(), p.y(), p.z())
        .rotate(new Quaterniond(q.x(), q.y(), q.z(), q.w()).normalize());
  }

  private void collect(AINode n) {
    nodes.put(n.mName().dataString(), n);
    for (int i = 0; i < n.mNumChildren(); i++) {
      collect(AINode.create(n.mChildren().get(i)));
    }
  }

  private static Matrix4d matrix(AIMatrix4x4 t) {
    return new Matrix4d(
        t.a1(), t.b1(), t.c1(), t.d1(), t.a2(), t.b2(), t.c2(), t.d2(), t.a3(), t.b3(), t.c3(),
        t.d3(), t.a4(), t.b4(), t.c4(), t.d4());
  }

  private static Vector3d vector(AIVector3D v) {
    return new Vector3d(v.x(), v.y(), v.z());
  }
}
