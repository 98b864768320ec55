package flarvo.recipe;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.TestShots;
import flarvo.convention.Dialects;
import flarvo.decision.Decision;
import flarvo.decision.ReceiveDecision;
import flarvo.decision.VetDecision;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Many shots through a recipe, some of them broken on purpose. */
class RecipeRunTest {

  private static final Dialects DIALECTS = Dialects.shipped();
  private static final String VERSIONED = "{shot}/v{version}/{shot}_{recipient}.{ext}";

  @TempDir private Path dir;

  private Path shot(String name, long seed) {
    Path file = dir.resolve("shots").resolve(name).resolve("solve.usda");
    try {
      Files.createDirectories(file.getParent());
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
    Shot s = TestShots.walk(12, 9, seed);
    Dispatcher.send(s, delivery("in", "usd-text", "solve.usda"), file, Progress.NONE);
    return file.getParent();
  }

  private static Delivery delivery(String name, String format, String file) {
    return new Delivery(
        name,
        DIALECTS.get("anim-yup-cm"),
        Formats.byId(format),
        Contents.CAMERA_AND_TRACKERS,
        file);
  }

  private static Recipe recipe(String pattern, Decision... more) {
    List<Decision> d = new ArrayList<>(List.of(new ReceiveDecision.AcceptProposals()));
    d.addAll(List.of(more));
    List<Delivery> board =
        List.of(
            delivery("Animation", "usd-crate", pattern),
            delivery("Game engine", "fbx-binary", pattern)
                .withDialect(DIALECTS.get("engine-zup-left-cm")));
    return new Recipe("Show", d, board, 0.01);
  }

  private List<ShotResult> run(Recipe r, List<Path> shots) {
    return run(r, shots, new RunOptions(dir.resolve("out"), 2));
  }

  private static List<ShotResult> run(Recipe r, List<Path> shots, RunOptions o) {
    return RecipeRun.run(r, shots, o, x -> {}, Progress.NONE);
  }

  private Map<String, FileTime> written() throws IOException {
    Map<String, FileTime> all = new TreeMap<>();
    try (Stream<Path> files = Files.walk(dir.resolve("out"))) {
      for (Path f : files.filter(Files::isRegularFile).toList()) {
        String name = dir.resolve("out").relativize(f).toString();
        if (!name.startsWith(".")) {
          all.put(name, Files.getLastModifiedTime(f));
        }
      }
    }
    return all;
  }

  @Test
  void brokenShotsAreNamedAndTheOthersAreSentAndProven() throws Exception {
    List<Path> shots = new ArrayList<>();
    for (int i = 0; i < 9; i++) {
      shots.add(shot("sh" + (i + 1) + "0", i));
    }
    // One is cut off, one holds nothing, one is not there.
    Path cut = shots.get(2).resolve("solve.usda");
    String text = Files.readString(cut);
    Files.writeString(cut, text.substring(0, text.length() / 2));
    Files.delete(shots.get(4).resolve("solve.usda"));
    shots.add(dir.resolve("shots/sh_gone"));
    List<ShotResult> all = run(recipe(VERSIONED), shots);
    assertThat(all).extracting(ShotResult::shot).startsWith("sh10", "sh20").endsWith("sh_gone");
    for (ShotResult r : all) {
      boolean broken = List.of("sh30", "sh50", "sh_gone").contains(r.shot());
      assertThat(r.state())
          .as("%s %s", r.shot(), r.said())
          .isEqualTo(broken ? ShotResult.State.FAILED : ShotResult.State.HOLDS);
      assertThat(r.holding()).isEqualTo(broken ? 0 : 2);
      assertThat(r.said().isEmpty()).isNotEqualTo(broken);
    }
    assertThat(all.get(2).said()).contains("solve.usda");
    assertThat(all.get(9).said()).contains("no such folder");
    Map<String, FileTime> first = written();
    assertThat(first).hasSize(14).containsKey("sh10/v001/sh10_game_engine.fbx");
    // Mended, a second run does what is missing, and touches nothing else.
    shot("sh30", 2);
    shots.remove(9);
    shots.remove(4);
    List<ShotResult> again = run(recipe(VERSIONED), shots);
    assertThat(again).allMatch(r -> r.state() == ShotResult.State.HOLDS);
    assertThat(again).filteredOn(r -> !r.isFresh()).extracting(ShotResult::shot).contains("sh30");
    assertThat(again).filteredOn(ShotResult::isFresh).hasSize(7);
    Map<String, FileTime> second = written();
    assertThat(second).hasSize(16).containsAllEntriesOf(first);
  }

  /** Next week's solve is another version; the one before stays as it was. */
  @Test
  void anotherSolveIsAnotherVersion() throws Exception {
    List<Path> shots = List.of(shot("a", 1), shot("b", 2));
    run(recipe(VERSIONED), shots);
    Map<String, FileTime> first = written();
    shot("b", 77);
    List<ShotResult> again = run(recipe(VERSIONED), shots);
    assertThat(again.get(0).isFresh()).isTrue();
    assertThat(again.get(1).isFresh()).isFalse();
    Map<String, FileTime> second = written();
    assertThat(second).containsAllEntriesOf(first).hasSize(first.size() + 2);
    assertThat(second).containsKeys("b/v002/b_animation.usdc", "b/v002/b_game_engine.fbx");
    // A file that is gone is made again, of the version that it was of.
    Files.delete(dir.resolve("out/b/v002/b_animation.usdc"));
    List<ShotResult> third = run(recipe(VERSIONED), shots);
    assertThat(third.get(1).state()).isEqualTo(ShotResult.State.HOLDS);
    assertThat(third.get(1).deliveries())
        .extracting(ShotResult.Sent::fresh)
        .containsExactly(false, true);
    assertThat(written().keySet()).isEqualTo(second.keySet());
  }

  @Test
  void whatOthersWroteIsNotReplacedUnlessAsked() throws Exception {
    List<Path> shots = List.of(shot("a", 1));
    Recipe plain = recipe("{shot}_{recipient}.{ext}");
    assertThat(run(plain, shots).get(0).state()).isEqualTo(ShotResult.State.HOLDS);
    // Its own file may be replaced by the next solve.
    shot("a", 5);
    assertThat(run(plain, shots).get(0).state()).isEqualTo(ShotResult.State.HOLDS);
    Path changed = dir.resolve("out/a_animation.usdc");
    Files.writeString(changed, "changed by hand");
    ShotResult r = run(plain, shots).get(0);
    assertThat(r.state()).isEqualTo(ShotResult.State.FAILED);
    assertThat(r.said()).contains("a_animation.usdc").contains("--overwrite");
    assertThat(r.deliveries()).extracting(ShotResult.Sent::holds).containsExactly(false, true);
    assertThat(Files.readString(changed)).isEqualTo("changed by hand");
    RunOptions over = new RunOptions(dir.resolve("out"), 1, true, false, List.of(), false);
    assertThat(run(plain, shots, over).get(0).state()).isEqualTo(ShotResult.State.HOLDS);
    assertThat(Files.size(changed)).isGreaterThan(1000);
  }

  @Test
  void aPlaceThatCannotBeWrittenCostsOneDelivery() throws Exception {
    List<Path> shots = List.of(shot("a", 1), shot("b", 2));
    Recipe r = recipe("{recipient}/{shot}.{ext}");
    Files.createDirectories(dir.resolve("out"));
    Path blocked = dir.resolve("out/game_engine");
    Files.writeString(blocked, "a file where a folder should be");
    List<ShotResult> all = run(r, shots);
    assertThat(all).allMatch(x -> x.state() == ShotResult.State.FAILED && x.holding() == 1);
    assertThat(all.get(0).said()).contains("Game engine").contains("game_engine");
    Files.delete(blocked);
    List<ShotResult> again = run(r, shots);
    assertThat(again).allMatch(x -> x.state() == ShotResult.State.HOLDS);
    assertThat(again.get(0).deliveries())
        .extracting(ShotResult.Sent::fresh)
        .containsExactly(true, false);
  }

  /** A shot of which a decision could not be applied is not what was decided. */
  @Test
  void aDecisionThatFindsNothingStopsTheShot() {
    List<Path> shots = List.of(shot("a", 1));
    Recipe r = recipe(VERSIONED, new VetDecision.Weigh(Set.of("no such tracker"), false));
    ShotResult stopped = run(r, shots).get(0);
    assertThat(stopped.state()).isEqualTo(ShotResult.State.NOT_APPLIED);
    assertThat(stopped.said()).contains("no such tracker");
    assertThat(stopped.deliveries()).isEmpty();
    ShotResult sent =
        run(r, shots, new RunOptions(dir.resolve("out"), 1, false, true, List.of(), false)).get(0);
    assertThat(sent.state()).isEqualTo(ShotResult.State.NOT_APPLIED);
    assertThat(sent.holding()).isEqualTo(2);
  }

  @Test
  void anOpenQuestionStopsTheShotWithItsWords() throws Exception {
    Path a = shot("a", 1);
    Files.writeString(a.resolve("log.txt"), "frame rate: 25 fps\nframes: 1001-1012\n");
    Recipe silent = new Recipe("Show", List.of(), recipe(VERSIONED).deliveries(), 0.01);
    ShotResult r = run(silent, List.of(a)).get(0);
    assertThat(r.state()).isEqualTo(ShotResult.State.OPEN_QUESTION);
    assertThat(r.said()).contains("rate: ").contains("Proposed:");
    assertThat(r.deliveries()).isEmpty();
  }

  @Test
  void stoppedInTheMiddleItGoesOnWhereItWas() throws Exception {
    List<Path> shots = new ArrayList<>();
    for (int i = 0; i < 6; i++) {
      shots.add(shot("s" + i, i));
    }
    AtomicInteger done = new AtomicInteger();
    Progress stop =
        new Progress() {
          @Override
          public void at(long n, long total) {}

          @Override
          public boolean isCancelled() {
            return done.get() >= 3;
          }
        };
    RunOptions one = new RunOptions(dir.resolve("out"), 1);
    assertThatThrownBy(
            () -> RecipeRun.run(recipe(VERSIONED), shots, one, r -> done.incrementAndGet(), stop))
        .isInstanceOf(Cancelled.class);
    Map<String, FileTime> first = written();
    assertThat(first.size()).isBetween(6, 8);
    List<ShotResult> all = run(recipe(VERSIONED), shots);
    assertThat(all).allMatch(r -> r.state() == ShotResult.State.HOLDS);
    assertThat(all).filteredOn(ShotResult::isFresh).hasSizeGreaterThanOrEqualTo(3);
    assertThat(written()).hasSize(12).containsAllEntriesOf(first);
  }

  @Test
  void whatCannotBeRunIsRefusedBeforeAnythingIsWritten() {
    Path a = shot("a", 1);
    Path other = dir.resolve("elsewhere/a");
    assertThatThrownBy(() -> run(recipe(VERSIONED), List.of(a, other)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("two shots are called a");
    Recipe empty = new Recipe("Show", List.of(), List.of(), 0.01);
    assertThatThrownBy(() -> run(empty, List.of(a))).hasMessageContaining("no delivery");
    // One name for two deliveries.
    ShotResult r = run(recipe("{shot}.usd"), List.of(a)).get(0);
    assertThat(r.state()).isEqualTo(ShotResult.State.FAILED);
    assertThat(r.said()).contains("two deliveries");
  }

  @Test
  void aRecipeIsWrittenAndReadAndItsMistakesHaveAPlace() throws Exception {
    Recipe r = recipe(VERSIONED, new VetDecision.Weigh(Set.of("t1"), false));
    String text = RecipeJson.text(r);
    Path file = dir.resolve("r.json");
    assertThat(RecipeJson.parse(file, text)).isEqualTo(r);
    assertThat(RecipeJson.text(RecipeJson.parse(file, text))).isEqualTo(text);
    assertThatThrownBy(() -> RecipeJson.parse(file, text.replace("{version}", "{verson}")))
        .hasMessageContaining("{verson}");
    assertThatThrownBy(() -> RecipeJson.parse(file, text.replace("accept-proposals", "accept")))
        .hasMessageContaining("decisions[0]");
    assertThatThrownBy(() -> RecipeJson.parse(file, "{}")).hasMessageContaining("no recipe");
    assertThatThrownBy(() -> RecipeJson.parse(file, "{")).hasMessageContaining("no JSON");
    assertThatThrownBy(() -> RecipeJson.parse(file, text.replace("0.01", "-1")))
        .hasMessageContaining("limit");
    Files.write(file, text.getBytes(StandardCharsets.UTF_8));
    assertThat(RecipeJson.read(file)).isEqualTo(r);
  }

  /** Shot folders hold much that is not to be received. */
  @Test
  void onlyPartsOfAFolderAreReceived() throws Exception {
    Path a = shot("a", 1);
    Files.createDirectories(a.resolve("in"));
    Files.move(a.resolve("solve.usda"), a.resolve("in/solve.usda"));
    Files.createDirectories(a.resolve("old"));
    Files.writeString(a.resolve("old/broken.usda"), "#usda 1.0\n(");
    assertThat(run(recipe(VERSIONED), List.of(a)).get(0).said()).contains("broken.usda");
    RunOptions in = new RunOptions(dir.resolve("out"), 1, false, false, List.of("in"), false);
    assertThat(run(recipe(VERSIONED), List.of(a), in).get(0).state())
        .isEqualTo(ShotResult.State.HOLDS);
    // What lies elsewhere does not make it stale.
    Files.writeString(a.resolve("old/note.txt"), "x");
    assertThat(run(recipe(VERSIONED), List.of(a), in).get(0).isFresh()).isTrue();
    RunOptions none = new RunOptions(dir.resolve("out"), 1, false, false, List.of("../b"), false);
    ShotResult out = run(recipe(VERSIONED), List.of(a), none).get(0);
    assertThat(out.said()).contains("no such part");
  }

  @Test
  void eachShotGetsANoteThatIsMadeAgainWithItsDeliveries() throws Exception {
    Path a = shot("a", 1);
    RunOptions notes = new RunOptions(dir.resolve("out"), 1, false, false, List.of(), true);
    assertThat(run(recipe(VERSIONED), List.of(a)).get(0).isFresh()).isFalse();
    // A shot that was sent without one gets it, and what was sent stays.
    Map<String, FileTime> before = written();
    assertThat(run(recipe(VERSIONED), List.of(a), notes).get(0).state())
        .isEqualTo(ShotResult.State.HOLDS);
    Map<String, FileTime> after = written();
    assertThat(after).containsAllEntriesOf(before).hasSize(before.size() + 2);
    String page =
        after.keySet().stream().filter(n -> n.endsWith("a_note.html")).findFirst().orElseThrow();
    assertThat(Files.readString(dir.resolve("out").resolve(page)))
        .contains("2 of 2 deliveries proven");
    assertThat(run(recipe(VERSIONED), List.of(a), notes).get(0).isFresh()).isTrue();
    assertThat(written()).isEqualTo(after);
    // A note that cannot be written is said, and costs no delivery.
    Path b = shot("b", 2);
    Path taken = dir.resolve("out").resolve(page.replaceAll("\\ba(?=[/_])", "b"));
    Files.createDirectories(taken.getParent());
    Files.writeString(taken, "mine");
    ShotResult r = run(recipe(VERSIONED), List.of(b), notes).get(0);
    assertThat(r.state()).isEqualTo(ShotResult.State.FAILED);
    assertThat(r.said()).contains("the hand-over note was not written").contains("b_note.html");
    assertThat(r.deliveries()).allMatch(ShotResult.Sent::holds);
    assertThat(taken).hasContent("mine");
  }

  /** A run that is killed between a file and its record has not locked itself out. */
  @Test
  void aFileWhoseRunWasKilledBeforeItSaidSoIsItsOwn() throws Exception {
    List<Path> shots = List.of(shot("a", 1));
    Recipe plain = recipe("{shot}_{recipient}.{ext}");
    run(plain, shots);
    Path record = dir.resolve("out/.flarvo-run/a.json");
    ObjectMapper json = new ObjectMapper();
    ObjectNode n = (ObjectNode) json.readTree(record.toFile());
    n.remove("whole");
    ((ObjectNode) n.get("written")).remove("Animation");
    n.putArray("begun").add("a_animation.usdc");
    Files.writeString(record, n.toString());
    assertThat(run(plain, shots).get(0).state()).isEqualTo(ShotResult.State.HOLDS);
    assertThat(json.readTree(record.toFile()).get("begun")).isEmpty();
    // Without that, it is somebody else's.
    n.putArray("begun");
    ((ObjectNode) n.get("ours")).removeAll();
    Files.writeString(record, n.toString());
    assertThat(run(plain, shots).get(0).state()).isEqualTo(ShotResult.State.FAILED);
  }

  /** Killed after the first delivery of another solve, it still knows the second's old file. */
  @Test
  void filesOfTheSolveBeforeStayItsOwnUntilTheyAreReplaced() throws Exception {
    Recipe plain = recipe("{shot}_{recipient}.{ext}");
    List<Path> shots = List.of(shot("a", 1));
    run(plain, shots);
    shot("a", 2);
    Path first = dir.resolve("out/a_animation.usdc");
    FileTime before = Files.getLastModifiedTime(first);
    Progress stop =
        new Progress() {
          @Override
          public void at(long n, long total) {}

          @Override
          public boolean isCancelled() {
            try {
              return !Files.getLastModifiedTime(first).equals(before);
            } catch (IOException e) {
              return false;
            }
          }
        };
    RunOptions one = new RunOptions(dir.resolve("out"), 1);
    assertThatThrownBy(() -> RecipeRun.run(plain, shots, one, r -> {}, stop))
        .isInstanceOf(Cancelled.class);
    assertThat(run(plain, shots).get(0).state()).isEqualTo(ShotResult.State.HOLDS);
  }
}
