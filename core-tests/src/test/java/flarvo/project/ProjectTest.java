package flarvo.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.TestShots;
import flarvo.convention.Dialects;
import flarvo.decision.Decision;
import flarvo.decision.DecisionHistory;
import flarvo.decision.DecisionLog;
import flarvo.decision.DispatchDecision;
import flarvo.decision.LevelDecision;
import flarvo.decision.ReceiveDecision;
import flarvo.decision.ShotState;
import flarvo.dispatch.Contents;
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
        Contents.CAMERA_AND_TRACKERS,
        name + ".usda");
  }

  private static Decision randomEdit(Random r, ShotState s) {
    int n = s.deliveries().size();
    return switch (r.nextInt(n == 0 ? 4 : 6)) {
      case 0 -> new DispatchDecision.AddDelivery(delivery("d" + r.nextInt(1000)));
      case 1 -> new ReceiveDecision.Rule(Fact.FIRST_FRAME, "" + (r.nextInt(2000) - 500));
      case 2 -> new ReceiveDecision.Rule(Fact.RATE, "" + (1 + r.nextInt(120)));
      case 3 ->
          new LevelDecision.MoveLevel(
              new Similarity(1 + r.nextDouble(), Rotation.IDENTITY, new Vec3(r.nextInt(9), 0, 0)),
              "move");
      case 4 -> remove(r.nextInt(n), s);
      default -> change(r.nextInt(n), s, delivery("x").withFormat(Formats.byId("fbx-text")));
    };
  }

  private static Decision remove(int i, ShotState s) {
    return new DispatchDecision.RemoveDelivery(i, s.deliveries().get(i).name());
  }

  private static Decision change(int i, ShotState s, Delivery to) {
    return new DispatchDecision.ChangeDelivery(i, s.deliveries().get(i).name(), to, "format");
  }

  /** Any run of edits, undone and redone at random, passes through the same states again. */
  @Test
  void undoAndRedoWalkTheSameStates() {
    for (int seed = 0; seed < 30; seed++) {
      Random r = new Random(seed);
      DecisionHistory h = new DecisionHistory(ShotState.of(TestShots.walk(3, 3, seed)));
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
    DecisionHistory h = new DecisionHistory(ShotState.of(TestShots.walk(3, 3, 1)));
    assertThat(h.undoTitle()).isEmpty();
    h.apply(new ReceiveDecision.Rule(Fact.FIRST_FRAME, "5"));
    assertThat(h.undoTitle()).contains("set first frame to 5");
    assertThat(h.present().shot().frames()).isEqualTo(new FrameRange(5, 7));
    h.undo();
    assertThat(h.redoTitle()).contains("set first frame to 5");
    h.apply(new ReceiveDecision.Rule(Fact.RATE, "25"));
    assertThat(h.redoTitle()).isEmpty();
  }

  private ProjectFile project() {
    Similarity level = new Similarity(2.5, Rotation.about(new Vec3(1, 2, 3), 1), new Vec3(1, 2, 3));
    DecisionLog log =
        DecisionLog.of(
            List.of(
                new ReceiveDecision.Rule(Fact.FIRST_FRAME, "1001"),
                new ReceiveDecision.Rule(Fact.RATE, "24000/1001"),
                new ReceiveDecision.Rule(Fact.FILM_BACK, "36x20.25"),
                new LevelDecision.MoveLevel(level, "level by hand"),
                new DispatchDecision.AddDelivery(delivery("A"))));
    return new ProjectFile(
        dir.resolve("p.json"),
        "P",
        List.of(
            new ProjectShot(
                    "s1",
                    List.of("in/a.usda"),
                    List.of(new ProjectShot.PlateFolder("plates", PlateRole.UNDISTORTED)),
                    Optional.of("track-zup"),
                    log)
                .withDiary(
                    List.of(
                        new DiaryEntry(Instant.parse("2026-01-02T03:04:05Z"), "Sent", false),
                        new DiaryEntry(
                            Instant.parse("2026-01-02T03:05:05Z"), "ask \"Ada\"", true)))));
  }

  @Test
  void comesBackFromDisk() {
    ProjectFile p = project();
    p.save();
    ProjectFile back = ProjectFile.read(p.file());
    assertThat(back.name()).isEqualTo("P");
    assertThat(back.shots()).isEqualTo(p.shots());
    assertThat(back.shots().get(0).rulings())
        .isEqualTo(Map.of("firstFrame", "1001", "rate", "24000/1001", "filmBack", "36x20.25"));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{|line 1",
        "{}|not a project",
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
    assertThat(Files.readString(f)).contains("\"version\" : 6").contains("\"as-it-stood\"");
    assertThat(ProjectFile.read(f).shots().get(0)).isEqualTo(p.shots().get(0));
  }

  @ParameterizedTest
  @CsvSource({"colour,red,no fact", "rate,soon,rate", "filmBack,wide,not a film back"})
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
