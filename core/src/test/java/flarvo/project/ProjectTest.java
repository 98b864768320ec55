package flarvo.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.TestShots;
import flarvo.convention.Dialects;
import flarvo.dispatch.Delivery;
import flarvo.format.Formats;
import flarvo.receive.Fact;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.PlateRole;
import flarvo.scene.Rotation;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ProjectTest {

  @TempDir private Path dir;

  private static Delivery delivery(String name) {
    return new Delivery(
        name,
        Dialects.shipped().get("anim-yup-cm"),
        Formats.byId("usd-text"),
        Delivery.Contents.CAMERA_AND_TRACKERS,
        name + ".usda");
  }

  private static ShotEdit randomEdit(Random r, ShotState s) {
    int n = s.deliveries().size();
    return switch (r.nextInt(n == 0 ? 4 : 6)) {
      case 0 -> new ShotEdit.AddDelivery(delivery("d" + r.nextInt(1000)));
      case 1 -> new ShotEdit.Rule(Fact.FIRST_FRAME, "" + (r.nextInt(2000) - 500));
      case 2 -> new ShotEdit.Rule(Fact.RATE, "" + (1 + r.nextInt(120)));
      case 3 ->
          new ShotEdit.SetLevel(
              new Similarity(1 + r.nextDouble(), Rotation.IDENTITY, new Vec3(r.nextInt(9), 0, 0)));
      case 4 -> new ShotEdit.RemoveDelivery(r.nextInt(n), "some");
      default ->
          new ShotEdit.ChangeDelivery(
              r.nextInt(n), delivery("x").withFormat(Formats.byId("fbx-text")), "format");
    };
  }

  /** Any run of edits, undone and redone at random, passes through the same states again. */
  @Test
  void undoAndRedoWalkTheSameStates() {
    for (int seed = 0; seed < 30; seed++) {
      Random r = new Random(seed);
      EditHistory h = new EditHistory(new ShotState(TestShots.walk(3, 3, seed), List.of()));
      List<ShotState> states = new java.util.ArrayList<>(List.of(h.present()));
      for (int i = 0; i < 25; i++) {
        states.add(h.apply(randomEdit(r, h.present())));
      }
      int at = 25;
      for (int i = 0; i < 100; i++) {
        if (r.nextBoolean()) {
          h.undo();
          at = Math.max(0, at - 1);
        } else {
          h.redo();
          at = Math.min(25, at + 1);
        }
        assertThat(h.present()).isEqualTo(states.get(at));
      }
    }
  }

  @Test
  void editsHaveNamesAndANewOneForgetsWhatWasUndone() {
    EditHistory h = new EditHistory(new ShotState(TestShots.walk(3, 3, 1), List.of()));
    assertThat(h.undoTitle()).isEmpty();
    h.apply(new ShotEdit.Rule(Fact.FIRST_FRAME, "5"));
    assertThat(h.undoTitle()).contains("first frame is 5");
    assertThat(h.present().shot().frames()).isEqualTo(new FrameRange(5, 7));
    h.undo();
    assertThat(h.redoTitle()).contains("first frame is 5");
    h.apply(new ShotEdit.Rule(Fact.RATE, "25"));
    assertThat(h.redoTitle()).isEmpty();
  }

  private ProjectFile project() {
    return new ProjectFile(
        dir.resolve("p.json"),
        "P",
        List.of(
            new ProjectShot(
                "s1",
                List.of("in/a.usda"),
                List.of(new ProjectShot.PlateFolder("plates", PlateRole.UNDISTORTED)),
                Optional.of("track-zup"),
                Map.of("firstFrame", "1001", "rate", "24000/1001", "filmBack", "36x20.25"),
                new Similarity(2.5, Rotation.about(new Vec3(1, 2, 3), 1), new Vec3(1, 2, 3)),
                List.of(
                    new ProjectShot.PlannedDelivery(
                        "A",
                        "anim-yup-cm",
                        OptionalInt.of(7),
                        Optional.empty(),
                        "usd-text",
                        "camera",
                        "a.usda")),
                List.of(
                    new DiaryEntry(Instant.parse("2026-01-02T03:04:05Z"), "Sent", false),
                    new DiaryEntry(Instant.parse("2026-01-02T03:05:05Z"), "ask \"Ada\"", true)))));
  }

  @Test
  void comesBackFromDisk() {
    ProjectFile p = project();
    p.save();
    ProjectFile back = ProjectFile.read(p.file());
    assertThat(back.name()).isEqualTo("P");
    ProjectShot a = p.shots().get(0);
    ProjectShot b = back.shots().get(0);
    assertThat(b.level().rotation().angleTo(a.level().rotation())).isLessThan(1e-12);
    assertThat(b.level().scale()).isEqualTo(a.level().scale());
    assertThat(b.deliveries()).isEqualTo(a.deliveries());
    assertThat(b.plates()).isEqualTo(a.plates());
    assertThat(b.rulings()).isEqualTo(a.rulings());
    assertThat(b.diary()).isEqualTo(a.diary());
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{|line 1",
        "{}|no project",
        "{\"schema\":\"flarvo-project\",\"version\":9}|version 9",
        "{\"schema\":\"flarvo-project\",\"version\":1,\"shots\":[{}]}|'name'",
        "{\"schema\":\"flarvo-project\",\"version\":1,\"shots\":[{\"name\":\"a\","
            + "\"rate\":\"0/0\"}]}|rate",
        "{\"schema\":\"flarvo-project\",\"version\":1,\"shots\":[{\"name\":\"a\","
            + "\"level\":{\"scale\":0}}]}|shots",
      })
  void badProjectsAreRefused(String json, String cause) throws Exception {
    Path f = dir.resolve("bad.json");
    Files.writeString(f, json);
    assertThatThrownBy(() -> ProjectFile.read(f))
        .isInstanceOf(InputError.class)
        .hasMessageContaining(cause);
  }

  @Test
  void projectsOfTheFirstVersionKeepTheirRulings() throws Exception {
    Path f = dir.resolve("old.json");
    Files.writeString(
        f,
        "{\"schema\":\"flarvo-project\",\"version\":1,\"name\":\"old\",\"shots\":[{\"name\":\"a\","
            + "\"files\":[\"x.usda\"],\"plateFirst\":1001,\"rate\":\"24000/1001\"}]}");
    ProjectFile p = ProjectFile.read(f);
    assertThat(p.shots().get(0).rulings())
        .isEqualTo(Map.of("firstFrame", "1001", "rate", "24000/1001"));
    p.save();
    assertThat(Files.readString(f)).contains("\"version\" : 5").contains("\"rulings\"");
    assertThat(ProjectFile.read(f).shots().get(0)).isEqualTo(p.shots().get(0));
  }

  @ParameterizedTest
  @CsvSource({"colour,red,no fact", "rate,soon,no rate", "filmBack,wide,no film back"})
  void rulingsThatMeanNothingAreRefused(String fact, String value, String why) throws Exception {
    Path f = dir.resolve("bad.json");
    Files.writeString(
        f,
        "{\"schema\":\"flarvo-project\",\"version\":2,\"shots\":[{\"name\":\"a\",\"rulings\":{\""
            + fact
            + "\":\""
            + value
            + "\"}}]}");
    assertThatThrownBy(() -> ProjectFile.read(f))
        .isInstanceOf(InputError.class)
        .hasMessageContaining(why);
  }
}
