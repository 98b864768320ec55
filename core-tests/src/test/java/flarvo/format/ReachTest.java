package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What scenes refer to is read only in the folder that was opened, unless the user allows more. */
class ReachTest {

  @TempDir private Path dir;

  private Path shot;

  @BeforeEach
  void write() throws IOException {
    Files.writeString(
        dir.resolve("secret.usda"),
        "#usda 1.0\ndef Xform \"Set\"\n{\n    def Points \"p\"\n    {\n"
            + "        point3f[] points = [(0, 0, 1)]\n    }\n}\n");
    shot = Files.createDirectories(dir.resolve("shot/layers"));
  }

  private static String layer(String asset) {
    return "#usda 1.0\ndef Xform \"w\" (\n    references = @" + asset + "@</Set>\n)\n{\n}\n";
  }

  private static List<String> notes(FileScene s) {
    return s.notes().stream().map(n -> n.where() + " " + n.text()).toList();
  }

  private static FileScene read(Path file, Reach reach) {
    return ReceivedFile.read(
            file,
            Optional.empty(),
            Optional.empty(),
            ReadLimits.USUAL.withReach(reach),
            Progress.NONE)
        .scene();
  }

  @Test
  void whatLiesOutsideIsSaidTheSameWhetherItIsThereOrNot() throws IOException {
    Path scene = shot.resolve("scene.usda");
    for (String asset :
        List.of(
            "../../secret.usda",
            dir.resolve("secret.usda").toString(),
            "../../gone.usda",
            dir.resolve("gone.usda").toString())) {
      Files.writeString(scene, layer(asset));
      FileScene s = read(scene, Reach.BESIDE);
      assertThat(s.trackers()).isEmpty();
      assertThat(notes(s))
          .hasSize(1)
          .first()
          .asString()
          .endsWith("'" + asset + "' " + Reach.REFUSED);
    }
  }

  @Test
  void whoAllowsItReadsIt() throws IOException {
    Path scene = shot.resolve("scene.usda");
    Files.writeString(scene, layer("../../secret.usda"));
    assertThat(read(scene, Reach.ANYWHERE).trackers()).hasSize(1);
  }

  @Test
  void theFolderThatWasOpenedIsInReach() throws IOException {
    Files.copy(dir.resolve("secret.usda"), dir.resolve("shot/set.usda"));
    Path scene = shot.resolve("scene.usda");
    Files.writeString(scene, layer("../set.usda"));
    assertThat(read(scene, Reach.BESIDE).trackers()).isEmpty();
    ReceivedSet all =
        new ShotIntake()
            .add(dir.resolve("shot"), IntakeOptions.NONE, Progress.NONE)
            .received(IntakeOptions.NONE);
    assertThat(
            all.files().stream()
                .filter(f -> f.path().endsWith("scene.usda"))
                .flatMap(f -> f.scene().trackers().stream())
                .toList())
        .hasSize(1);
  }

  @Test
  void aLinkThatLeadsOutIsNotFollowed() throws IOException {
    Files.createSymbolicLink(shot.resolve("link.usda"), dir.resolve("secret.usda"));
    Path scene = shot.resolve("scene.usda");
    Files.writeString(scene, layer("./link.usda"));
    FileScene s = read(scene, Reach.BESIDE);
    assertThat(s.trackers()).isEmpty();
    assertThat(notes(s).get(0)).endsWith(Reach.REFUSED);
    assertThat(read(scene, Reach.ANYWHERE).trackers()).hasSize(1);

    Path part = Files.write(dir.resolve("part.bin"), new byte[12]);
    Files.createSymbolicLink(shot.resolve("part.bin"), part);
    Path gltf = shot.resolve("a.gltf");
    Files.writeString(
        gltf,
        "{\"asset\":{\"version\":\"2.0\"},\"buffers\":[{\"byteLength\":12,\"uri\":\"part.bin\"}],"
            + "\"nodes\":[{\"name\":\"n\"}],\"scenes\":[{\"nodes\":[0]}]}");
    assertThatThrownBy(() -> read(gltf, Reach.BESIDE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining(Reach.REFUSED);
    assertThatCode(() -> read(gltf, Reach.ANYWHERE)).doesNotThrowAnyException();
  }
}
