package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialects;
import flarvo.desktop.stop.proof.SuspectPart;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.Pane;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;

/** A file comes back, slides, is checked on Proof and mended. */
class SuspectsInWindowTest extends WindowHarness {

  /** The open shot with its points a hundred times too large, as a file without a unit is read. */
  private Path returned() {
    Shot shot = session.state().get().shot().levelled().contents();
    List<TrackerSet> large = shot.trackers().stream().map(t -> t.map(p -> p.times(100))).toList();
    Path file = dir.resolve("returned.usda");
    Delivery d =
        new Delivery(
            "d",
            Dialects.shipped().get("comp-yup"),
            Formats.byId("usd-text"),
            Contents.CAMERA_AND_TRACKERS,
            "d");
    Dispatcher.send(shot.withTrackers(large), d, file, Progress.NONE);
    return file;
  }

  private static List<String> checks(FxRobot robot) {
    return robot.lookup("#checks").<Pane>query().getChildren().stream()
        .map(Node::getAccessibleText)
        .toList();
  }

  private static boolean says(FxRobot robot, String text) {
    return robot.lookup("#suspects .label").queryAllAs(Label.class).stream()
        .anyMatch(l -> l.getText().contains(text));
  }

  @Test
  void whatIsWrongWithAReturnedFileIsNamedAndMended(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT7);
    SuspectPart part = robot.lookup("#returned").query();
    Button mend = robot.lookup("#mend-file").query();
    assertThat(mend.isDisabled()).isTrue();
    Path file = returned();
    robot.interact(() -> part.check(List.of(file)));
    await(() -> says(robot, "Points and camera are in different units"));
    assertThat(says(robot, "with the points times 0.01, the error falls from")).isTrue();
    assertThat(session.message().get()).isEqualTo("returned.usda checked: unit-scale 0.01");
    // What drift does not show is checked too: a known distance is a hundred times as long.
    assertThat(checks(robot)).anyMatch(l -> l.startsWith("known distance does not hold"));
    assertThat(checks(robot)).anyMatch(l -> l.startsWith("rate holds"));
    robot.clickOn("Copy as text");
    robot.interact(
        () ->
            assertThat(Clipboard.getSystemClipboard().getString())
                .startsWith("returned.usda\n")
                .contains("FAIL\tknownDistance\t"));
    robot.interact(robot.lookup("#copy-suspect").<Button>query()::fire);
    robot.interact(
        () ->
            assertThat(Clipboard.getSystemClipboard().getString())
                .startsWith("returned.usda: Points and camera"));

    // One action that can be undone: the mended camera is the solve.
    assertThat(session.state().get().vetting().solve()).isEmpty();
    robot.interact(robot.lookup("#use-mended").<Button>query()::fire);
    await(() -> session.state().get().vetting().solve().isPresent());
    await(() -> session.message().get().startsWith("returned.usda checked: "));
    assertThat(session.undoTitle().orElseThrow()).contains("use returned.usda, mended");
    robot.interact(session::undo);
    await(() -> session.state().get().vetting().solve().isEmpty());
    robot.interact(() -> part.check(List.of(file)));
    await(() -> session.message().get().startsWith("returned.usda checked: "));

    Path mended = dir.resolve("mended.usda");
    robot.interact(() -> part.mend(mended));
    await(() -> session.message().get().startsWith("Wrote mended.usda"));
    assertThat(mended).exists();
    robot.interact(() -> part.check(List.of(mended)));
    await(() -> says(robot, "Nothing is wrong that the tracks show."));
    assertThat(mend.isDisabled()).isTrue();
  }

  /** What other departments sent back of the demo's terrace. */
  @Test
  void theDemosReturnedFilesAreNamedAndMended(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT7);
    SuspectPart part = robot.lookup("#returned").query();
    Path returns = Path.of("../demo/meridian/returns").toAbsolutePath();
    Map<String, String> causes =
        Map.of(
            "terrace_anim_v03.fbx", "frame-shift -1",
            "terrace_anim_v04.fbx", "frame-shift +2, unit-scale 0.01",
            "terrace_layout_v02.usda", "unit-scale 100",
            "terrace_lighting_v01.usdc", "focal-length 1.515",
            "terrace_comp_v04.usdc", "world-axes +X +Z -Y",
            "terrace_roto_v01.usdc", "camera-axes +X -Z +Y",
            "terrace_previs_v02.abc", "rotation-order XYZ>ZXY",
            "terrace_fx_v01.abc", "handedness points +X +Y -Z",
            "terrace_env_v05.usdc", "missing-parent",
            "terrace_edit_v01.usdc", "frozen-frame 1040");
    for (Map.Entry<String, String> e : causes.entrySet()) {
      robot.interact(() -> part.check(List.of(returns.resolve(e.getKey()))));
      await(() -> session.message().get().startsWith(e.getKey() + " checked: "));
      assertThat(session.message().get()).contains(e.getValue());
      Path mended = dir.resolve("mended_" + e.getKey() + ".usda");
      robot.interact(() -> part.mend(mended));
      if (e.getValue().startsWith("frozen")) {
        await(() -> session.message().get().contains("nothing in the file tells"));
      } else {
        await(() -> session.message().get().matches("Wrote mended_.*: 0\\.\\d+ px.*"));
      }
    }
  }

  @Test
  void anotherShotHasNoneOfIt(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT7);
    SuspectPart part = robot.lookup("#returned").query();
    Path file = returned();
    robot.interact(() -> part.check(List.of(file)));
    await(() -> says(robot, "Points and camera are in different units"));
    onWindow(() -> session.project().openShot("mer_020_dome"));
    await(() -> session.state().get().name().equals("mer_020_dome"));
    assertThat(says(robot, "Points and camera are in different units")).isFalse();
    assertThat(robot.lookup("#mend-file").<Button>query().isDisabled()).isTrue();
  }

  @Test
  void aFileThatCannotBeMeasuredIsSaid(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT7);
    SuspectPart part = robot.lookup("#returned").query();
    Path file = Files.writeString(dir.resolve("broken.usda"), "#usda 1.0\n(");
    robot.interact(() -> part.check(List.of(file)));
    await(() -> session.message().get().contains("broken.usda"));
    assertThat(robot.lookup("#mend-file").<Button>query().isDisabled()).isTrue();
  }
}
