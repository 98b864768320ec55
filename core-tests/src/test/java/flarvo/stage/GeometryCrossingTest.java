package flarvo.stage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.proof.Check;
import flarvo.proof.Proof;
import flarvo.proof.ProofReport;
import flarvo.receive.InFile;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Shot;
import flarvo.scene.Vec3;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Stand-ins and locators through every format, in dialects of both hands. */
class GeometryCrossingTest {

  @TempDir private Path dir;

  /** Six times the volume; over 0 where faces are wound outwards in a right-handed space. */
  private static double volume(Mesh m) {
    double sum = 0;
    for (List<Vec3> f : Solid.of(m).faces()) {
      for (int i = 1; i + 1 < f.size(); i++) {
        sum += f.get(0).dot(f.get(i).cross(f.get(i + 1)));
      }
    }
    return sum;
  }

  /** The same file without its geometry: what was to be sent and is gone does not hold. */
  private void geometryThatIsNotThereIsNoticed(Shot staged, Dialect d, SceneFormat f, Path file) {
    assertThat(Proof.of(staged, file, d, Contents.WITH_GEOMETRY, 0.01, Progress.NONE).holds())
        .as("%s %s", f.id(), d.name())
        .isTrue();
    Path bare = file.resolveSibling("bare" + f.extensions().get(0));
    Dispatcher.send(
        staged,
        new Delivery("x", d, f, Contents.CAMERA_AND_TRACKERS, bare.getFileName().toString()),
        bare,
        Progress.NONE);
    assertThat(
            Proof.of(staged, bare, d, Contents.WITH_GEOMETRY, 0.01, Progress.NONE).checks().stream()
                .filter(c -> !c.holds())
                .map(Check::name))
        .as("%s %s", f.id(), d.name())
        .containsExactly("geometry");
  }

  @Test
  void everyFormatCarriesWhatWasBuilt() {
    Shot shot = StagedShots.tracked(StagedShots.shot());
    Shot staged = StagedShots.staging(shot).applied(shot);
    assertThat(staged.meshes()).hasSize(2);
    WorldShot world = staged.levelled();
    double inside = volume(world.meshes().get(1));
    assertThat(inside).isCloseTo(6 * 0.7 * 0.7 * 0.9, within(1e-9));
    int carried = 0;
    for (SceneFormat f : Formats.all()) {
      if (!f.writes()) {
        continue;
      }
      boolean can = !f.cannotCarry().contains("meshes");
      for (String name : List.of("anim-yup-cm", "engine-zup-left-cm", "anim-zup-m")) {
        Dialect d = Dialects.shipped().get(name);
        Path file = dir.resolve(f.id() + name + f.extensions().get(0));
        Delivery delivery =
            new Delivery("x", d, f, Contents.WITH_GEOMETRY, file.getFileName().toString());
        Dispatcher.Sent sent = Dispatcher.send(staged, delivery, file, Progress.NONE);
        assertThat(sent.notes().stream().anyMatch(n -> n.toString().contains("no meshes")))
            .isEqualTo(!can);
        if (!can) {
          assertThat(
                  Proof.of(staged, file, d, Contents.WITH_GEOMETRY, 0.01, Progress.NONE).checks())
              .as("a loss that is told beforehand is no fault of the file: %s", f.id())
              .noneMatch(c -> c.name().equals("geometry"));
          continue;
        }
        geometryThatIsNotThereIsNoticed(staged, d, f, file);
        carried++;
        ProofReport proof = Proof.of(staged, file, d, 0.01, Progress.NONE);
        assertThat(proof.checks().stream().filter(c -> c.name().equals("geometry")))
            .as("%s %s", f.id(), name)
            .hasSize(1)
            .allMatch(Check::holds);
        assertThat(proof.checks().stream().filter(c -> c.name().startsWith("tracker")))
            .as("%s %s", f.id(), name)
            .allMatch(Check::holds);
        assertThat(proof.drift().orElseThrow().maxPx()).as("%s %s", f.id(), name).isLessThan(0.01);
        Mesh box =
            ReceivedFile.read(file, Optional.of(d), Progress.NONE)
                .meshes(shot.picture(), IntakeOptions.NONE)
                .stream()
                .map(InFile::inFile)
                .filter(m -> m.points() == 8)
                .findFirst()
                .orElseThrow();
        assertThat(volume(box)).as("%s %s", f.id(), name).isCloseTo(inside, within(1e-4));
      }
    }
    assertThat(carried).isGreaterThanOrEqualTo(21); // seven formats or more, three dialects each
  }

  /** Both stand-ins lie in one group; a node of its name is their parent. */
  @Test
  void aGroupIsANodeOfTheFile() throws Exception {
    Shot shot = StagedShots.shot();
    Shot staged = StagedShots.staging(shot).applied(shot);
    assertThat(staged.meshes()).allMatch(m -> m.group().equals(Optional.of(Group.still("set"))));
    Dialect d = Dialects.shipped().get("anim-yup-m");
    Path usd = dir.resolve("g.usda");
    Dispatcher.send(
        staged,
        new Delivery("x", d, Formats.byId("usd-text"), Contents.WITH_GEOMETRY, "g.usda"),
        usd,
        Progress.NONE);
    String text = java.nio.file.Files.readString(usd);
    assertThat(text.indexOf("def Scope \"set\""))
        .isPositive()
        .isLessThan(text.indexOf("def Mesh \"plinth\""));
    Path gltf = dir.resolve("g.gltf");
    Dispatcher.send(
        staged,
        new Delivery("x", d, Formats.byId("gltf-text"), Contents.WITH_GEOMETRY, "g.gltf"),
        gltf,
        Progress.NONE);
    var nodes =
        new com.fasterxml.jackson.databind.ObjectMapper().readTree(gltf.toFile()).path("nodes");
    int found = 0;
    for (var n : nodes) {
      if (n.path("name").asText().equals("set")) {
        for (var c : n.path("children")) {
          found += nodes.get(c.asInt()).has("mesh") ? 1 : 0;
        }
      }
    }
    assertThat(found).isEqualTo(2);
  }

  @Test
  void aMovedMeshDoesNotHold() {
    Shot shot = StagedShots.shot();
    Staging s = StagedShots.staging(shot);
    Dialect d = Dialects.shipped().get("anim-yup-m");
    Path file = dir.resolve("a.usda");
    Dispatcher.send(
        s.applied(shot),
        new Delivery("x", d, Formats.byId("usd-text"), Contents.WITH_GEOMETRY, "a.usda"),
        file,
        Progress.NONE);
    Shot other =
        s.withStandIns(
                List.of(s.standIns().get(0), s.standIns().get(1).shifted(new Vec3(0.001, 0, 0))))
            .applied(shot);
    assertThat(Proof.of(other, file, d, 0.01, Progress.NONE).checks())
        .filteredOn(c -> c.name().equals("geometry"))
        .noneMatch(Check::holds);
  }
}
