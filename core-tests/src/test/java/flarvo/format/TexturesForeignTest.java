package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.TestShots;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.dispatch.Part;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.nio.IntBuffer;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.lwjgl.assimp.AIMaterial;
import org.lwjgl.assimp.AIMesh;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.AIString;
import org.lwjgl.assimp.AIVector3D;
import org.lwjgl.assimp.Assimp;

/** A picture card, read by a library that we did not write. */
class TexturesForeignTest {

  @TempDir private Path dir;

  @ParameterizedTest
  @ValueSource(strings = {"fbx-binary", "fbx-text", "gltf-binary", "gltf-text"})
  void theAssetImportLibraryFindsThePictureOnTheCard(String format) {
    PlateSequence plates =
        new PlateSequence(
            dir.resolve("my plates"),
            "p+#.",
            4,
            ".png",
            TestShots.walkFrom(1001, 3, 9, 2).frames(),
            List.of(),
            TestShots.HD,
            PlateRole.UNDISTORTED);
    Shot shot = TestShots.walkFrom(1001, 3, 9, 2).withPlates(List.of(plates));
    SceneFormat f = Formats.byId(format);
    Path file = dir.resolve("out").resolve("c" + f.extensions().get(0));
    assertThat(file.getParent().toFile().mkdirs()).isTrue();
    Dispatcher.send(
        shot,
        new Delivery(
            "c",
            Dialects.shipped().get("anim-yup-cm"),
            f,
            Contents.of(Part.CAMERA, Part.CARD),
            "c"),
        file,
        Progress.NONE);

    AIScene scene = Assimp.aiImportFile(file.toString(), 0);
    assertThat(scene).as(Assimp.aiGetErrorString()).isNotNull();
    try {
      AIMesh card = AIMesh.create(scene.mMeshes().get(0));
      AIMaterial material = AIMaterial.create(scene.mMaterials().get(card.mMaterialIndex()));
      AIString path = AIString.calloc();
      int found =
          Assimp.aiGetMaterialTexture(
              material,
              Assimp.aiTextureType_DIFFUSE,
              0,
              path,
              (IntBuffer) null,
              null,
              null,
              null,
              null,
              null);
      assertThat(found).isEqualTo(Assimp.aiReturn_SUCCESS);
      assertThat(path.dataString().replace("%20", " ").replace("%23", "#").replace('\\', '/'))
          .isEqualTo("../my plates/p+#.1001.png");
      path.free();
      assertThat(card.mNumVertices()).isGreaterThanOrEqualTo(4);
      AIVector3D.Buffer uvs = card.mTextureCoords(0);
      assertThat(uvs).isNotNull();
    } finally {
      Assimp.aiReleaseImport(scene);
    }
  }
}
