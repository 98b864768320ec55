package flarvo.stage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.scene.Mesh;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.lwjgl.assimp.AIFace;
import org.lwjgl.assimp.AIMatrix4x4;
import org.lwjgl.assimp.AIMesh;
import org.lwjgl.assimp.AINode;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.AIVector3D;
import org.lwjgl.assimp.Assimp;

/** Stand-ins that we write, read by a library that we did not write. */
class GeometryForeignReaderTest {

  @TempDir private Path dir;

  @ParameterizedTest
  @ValueSource(strings = {"fbx-binary", "fbx-text", "gltf-binary"})
  void placesAndWindingAreTheSame(String format) {
    Shot shot = StagedShots.tracked(StagedShots.shot());
    Shot staged = StagedShots.staging(shot).applied(shot);
    var f = Formats.byId(format);
    Path file = dir.resolve("g" + f.extensions().get(0));
    Dispatcher.send(
        staged,
        new Delivery(
            "x",
            Dialects.shipped().get("anim-yup-m"),
            f,
            Contents.WITH_GEOMETRY,
            file.getFileName().toString()),
        file,
        Progress.NONE);
    AIScene scene = Assimp.aiImportFile(file.toString(), Assimp.aiProcess_JoinIdenticalVertices);
    assertThat(scene).as(Assimp.aiGetErrorString()).isNotNull();
    try {
      assertThat(scene.mNumMeshes()).isEqualTo(2);
      List<Vector3d> corners = new ArrayList<>();
      double volume = visit(scene, scene.mRootNode(), new Matrix4d(), corners);
      Mesh box = staged.levelled().meshes().get(1);
      for (int i = 0; i < box.points(); i++) {
        Vector3d p = new Vector3d(box.x(i), box.y(i), box.z(i));
        assertThat(corners).anyMatch(c -> c.distance(p) < 1e-4);
      }
      // Outwards: the six pyramids of each face add up to the box, and a card has no volume.
      assertThat(volume / 6).isCloseTo(0.7 * 0.7 * 0.9 + card(staged), within(1e-3));
    } finally {
      Assimp.aiReleaseImport(scene);
    }
  }

  /** What the card's two triangles add, seen from the origin. */
  private static double card(Shot staged) {
    double sum = 0;
    for (var f : Solid.of(staged.levelled().meshes().get(0)).faces()) {
      for (int i = 1; i + 1 < f.size(); i++) {
        sum += f.get(0).dot(f.get(i).cross(f.get(i + 1))) / 6;
      }
    }
    return sum;
  }

  private static double visit(AIScene scene, AINode n, Matrix4d above, List<Vector3d> corners) {
    AIMatrix4x4 t = n.mTransformation();
    Matrix4d m =
        new Matrix4d(above)
            .mul(
                new Matrix4d(
                    t.a1(), t.b1(), t.c1(), t.d1(), t.a2(), t.b2(), t.c2(), t.d2(), t.a3(), t.b3(),
                    t.c3(), t.d3(), t.a4(), t.b4(), t.c4(), t.d4()));
    double volume = 0;
    for (int i = 0; i < n.mNumMeshes(); i++) {
      AIMesh mesh = AIMesh.create(scene.mMeshes().get(n.mMeshes().get(i)));
      AIVector3D.Buffer all = mesh.mVertices();
      List<Vector3d> at = new ArrayList<>();
      for (int k = 0; k < mesh.mNumVertices(); k++) {
        at.add(m.transformPosition(new Vector3d(all.get(k).x(), all.get(k).y(), all.get(k).z())));
      }
      corners.addAll(at);
      for (int k = 0; k < mesh.mNumFaces(); k++) {
        AIFace face = mesh.mFaces().get(k);
        for (int c = 1; c + 1 < face.mNumIndices(); c++) {
          Vector3d cross =
              new Vector3d(at.get(face.mIndices().get(c)))
                  .cross(at.get(face.mIndices().get(c + 1)));
          volume += at.get(face.mIndices().get(0)).dot(cross);
        }
      }
    }
    for (int i = 0; i < n.mNumChildren(); i++) {
      volume += visit(scene, AINode.create(n.mChildren().get(i)), m, corners);
    }
    return volume;
  }
}
