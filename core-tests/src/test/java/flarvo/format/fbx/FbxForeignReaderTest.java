package flarvo.format.fbx;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.SceneFormat;
import flarvo.scene.Pinhole;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.lwjgl.assimp.AIAnimation;
import org.lwjgl.assimp.AICamera;
import org.lwjgl.assimp.AIMatrix4x4;
import org.lwjgl.assimp.AINode;
import org.lwjgl.assimp.AINodeAnim;
import org.lwjgl.assimp.AIPropertyStore;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.AIVector3D;
import org.lwjgl.assimp.Assimp;

/**
 * What we write, read by a library that we did not write: its camera must put its points onto the
 * same pixels.
 */
class FbxForeignReaderTest {

  /** That library stores everything in 32-bit floats. */
  private static final double LIMIT_PX = 0.01;

  @TempDir private Path dir;

  @Test
  void theAssetImportLibrarySeesTheSamePixelsInEveryDialect() {
    Shot shot = TestShots.walk(24, 40, 11);
    for (Dialect d : Dialects.shipped().all()) {
      for (SceneFormat f : new SceneFormat[] {new FbxTextFormat(), new FbxBinaryFormat()}) {
        assertThat(worst(shot, d, f)).as("foreign reader, %s, %s", f.id(), d).isLessThan(LIMIT_PX);
      }
    }
  }

  private double worst(Shot shot, Dialect d, SceneFormat format) {
    Path file = dir.resolve(d.name() + "." + format.id() + ".fbx");
    Dispatcher.send(
        shot,
        new Delivery("x", d, format, Contents.CAMERA_AND_TRACKERS, "x.fbx"),
        file,
        Progress.NONE);
    AIPropertyStore options = Assimp.aiCreatePropertyStore();
    Assimp.aiSetImportPropertyInteger(options, Assimp.AI_CONFIG_IMPORT_FBX_PRESERVE_PIVOTS, 0);
    AIScene scene = Assimp.aiImportFileExWithProperties(file.toString(), 0, null, options);
    assertThat(scene).as(Assimp.aiGetErrorString()).isNotNull();
    try {
      return compare(shot, scene);
    } finally {
      Assimp.aiReleaseImport(scene);
      Assimp.aiReleasePropertyStore(options);
    }
  }

  private static double compare(Shot shot, AIScene scene) {
    assertThat(scene.mNumCameras()).isEqualTo(1);
    AICamera camera = AICamera.create(scene.mCameras().get(0));
    Map<String, AINode> nodes = new HashMap<>();
    collect(scene.mRootNode(), nodes);
    AIAnimation animation = AIAnimation.create(scene.mAnimations().get(0));
    AINodeAnim channel = null;
    for (int i = 0; i < animation.mNumChannels(); i++) {
      AINodeAnim c = AINodeAnim.create(animation.mChannels().get(i));
      if (c.mNodeName().dataString().equals(camera.mName().dataString())) {
        channel = c;
      }
    }
    assertThat(channel).as("the camera is animated").isNotNull();
    assertThat(channel.mNumPositionKeys()).isEqualTo(shot.frames().count());
    // That library's angle runs from the middle of the picture to its side.
    double tan = Math.tan(camera.mHorizontalFOV());
    double focalPx = shot.picture().width() / 2.0 / tan;
    Vector3d view = vector(camera.mLookAt()).normalize();
    Vector3d up = vector(camera.mUp()).normalize();
    Vector3d right = new Vector3d(view).cross(up);
    Matrix4d parent = world(nodes.get(camera.mName().dataString()).mParent());
    Pinhole truth = new Pinhole(shot.cameras().get(0), shot.picture());
    TrackerSet points = shot.trackers().get(0);
    double[] px = new double[3];
    double worst = 0;
    for (int k = 0; k < shot.frames().count(); k++) {
      Matrix4d toLocal = new Matrix4d(parent).mul(key(channel, k)).invert();
      truth.at(shot.frames().first() + k);
      for (int i = 0; i < points.size(); i++) {
        AINode node = nodes.get(points.names().get(i));
        assertThat(node).as(points.names().get(i)).isNotNull();
        Vector3d p = world(node).getTranslation(new Vector3d());
        toLocal.transformPosition(p);
        double depth = p.dot(view);
        double x = shot.picture().width() / 2.0 + focalPx * p.dot(right) / depth;
        double y = shot.picture().height() / 2.0 - focalPx * p.dot(up) / depth;
        truth.project(points.x(i), points.y(i), points.z(i), px);
        worst = Math.max(worst, Math.hypot(x - px[0], y - px[1]));
      }
    }
    return worst;
  }

  private static Matrix4d key(AINodeAnim c, int k) {
    AIVector3D p = c.mPositionKeys().get(k).mValue();
    var q = c.mRotationKeys().get(k).mValue();
    return new Matrix4d()
        .translation(p.x(), p.y(), p.z())
        .rotate(new Quaterniond(q.x(), q.y(), q.z(), q.w()).normalize());
  }

  private static void collect(AINode n, Map<String, AINode> into) {
    into.put(n.mName().dataString(), n);
    for (int i = 0; i < n.mNumChildren(); i++) {
      collect(AINode.create(n.mChildren().get(i)), into);
    }
  }

  private static Matrix4d world(AINode n) {
    Matrix4d m = new Matrix4d();
    for (AINode x = n; x != null; x = x.mParent()) {
      m = matrix(x.mTransformation()).mul(m);
    }
    return m;
  }

  /** That library's rows are a1…a4, b1…b4; JOML takes columns. */
  private static Matrix4d matrix(AIMatrix4x4 t) {
    return new Matrix4d(
        t.a1(), t.b1(), t.c1(), t.d1(), t.a2(), t.b2(), t.c2(), t.d2(), t.a3(), t.b3(), t.c3(),
        t.d3(), t.a4(), t.b4(), t.c4(), t.d4());
  }

  private static Vector3d vector(AIVector3D v) {
    return new Vector3d(v.x(), v.y(), v.z());
  }
}
