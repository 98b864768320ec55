package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.project.StudioDialects;
import flarvo.receive.ReceivedFile;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.vet.Reprojection;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;

/** A shot from a sender whom nobody knows is read as it was meant. */
class SenderInWindowTest extends WindowHarness {

  /** The open shot as a left-handed table that says nothing of itself, and its 2D tracks. */
  private List<Path> unknown(Dialect d) throws IOException {
    Shot shot = session.state().get().shot().levelled().contents();
    Path folder = Files.createDirectories(dir.resolve("unknown"));
    Path table = folder.resolve("camera.csv");
    Delivery to =
        new Delivery("d", d, Formats.byId("table"), Contents.CAMERA_AND_TRACKERS, "camera.csv");
    Dispatcher.send(shot, to, table, Progress.NONE);
    List<Path> all = new ArrayList<>(List.of(table));
    for (Path p : new ArrayList<>(Dispatcher.companions(shot, to, table))) {
      all.add(p);
    }
    for (Path p : all) {
      Files.write(
          p,
          Files.readAllLines(p).stream()
              .filter(l -> !l.startsWith("#") || l.contains("picture") || l.contains("rate"))
              .toList());
    }
    Observations o = shot.observations();
    StringBuilder text = new StringBuilder("tracker,frame,x,y\n");
    for (String n : o.names()) {
      for (int row = o.firstRow(n); row < o.endRow(n); row++) {
        text.append(
            String.format(Locale.ROOT, "%s,%d,%.3f,%.3f%n", n, o.frame(row), o.x(row), o.y(row)));
      }
    }
    Path tracks = folder.resolve("tracks.csv");
    Files.writeString(tracks, text);
    return List.of(table, tracks, shot.plates().get(0).folder());
  }

  private double medianPx() {
    return Reprojection.of(session.state().get().shot())
        .map(Reprojection::medianPx)
        .orElse(Double.NaN);
  }

  private static boolean says(FxRobot robot, String text) {
    return robot.lookup("#sender-findings .label").queryAllAs(Label.class).stream()
        .anyMatch(l -> l.getText().contains(text));
  }

  @Test
  void theDialectOfAnUnknownSenderIsFoundUsedUndoneAndKept(FxRobot robot) throws Exception {
    Dialect d = Dialects.shipped().get("engine-zup-left-cm");
    List<Path> files = unknown(d);
    robot.interact(() -> session.project().open(files));
    await(
        () ->
            session.state().get().received().isPresent()
                && session.state().get().received().get().files().stream()
                    .anyMatch(f -> f.path().equals(files.get(0))));
    robot.type(KeyCode.DIGIT1);
    await(() -> medianPx() > 20);
    ComboBox<String> dialect = robot.lookup("#sender-dialect").query();
    assertThat(dialect.getValue()).isEqualTo("as the files state");

    robot.interact(robot.lookup("#find-sender").queryButton()::fire);
    await(() -> says(robot, "hand: left (measured"));
    assertThat(says(robot, "unit: ")).isTrue();
    robot.interact(robot.lookup("#use-sender").queryButton()::fire);
    await(() -> medianPx() < 1);
    assertThat(session.undoTitle()).contains("read files as found");

    // By hand it is the same decision.
    robot.interact(() -> dialect.setValue("engine-zup-left-cm"));
    await(
        () ->
            session.state().get().received().orElseThrow().files().stream()
                .filter(ReceivedFile::isSolve)
                .allMatch(f -> f.from().map(Dialect::name).orElse("").equals(d.name())));
    assertThat(medianPx()).isLessThan(1);

    String name = "layout-left";
    robot.interact(() -> robot.lookup("#sender-name").<TextField>query().setText(name));
    robot.interact(robot.lookup("#keep-sender").queryButton()::fire);
    await(() -> StudioDialects.isKept(name));
    await(() -> session.dialects().find(name).isPresent());
    assertThat(session.dialects().get(name).handedness()).isEqualTo(d.handedness());
    assertThat(dialect.getItems()).contains(name);

    for (int i = 0; i < 2; i++) {
      robot.press(KeyCode.CONTROL).type(KeyCode.Z).release(KeyCode.CONTROL);
    }
    await(() -> medianPx() > 20);
    assertThat(dialect.getValue()).isEqualTo("as the files state");
  }
}
