package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.desktop.state.NewShots;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectShot;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;

/** A folder of many shots, from the drop to a project. */
class NewShotsInWindowTest extends WindowHarness {

  private NewShots.Offer offer() {
    return session.newShots().offer().get();
  }

  private static String title(FxRobot robot) {
    return robot.lookup("#new-shots-title").queryAs(Label.class).getText();
  }

  private static List<String> lines(FxRobot robot) {
    ListView<?> list = robot.lookup("#new-shots-list").queryAs(ListView.class);
    return list.getItems().stream().map(Object::toString).toList();
  }

  private static boolean isShown(FxRobot robot) {
    return robot.lookup("#new-shots").queryAll().stream().anyMatch(Node::isVisible);
  }

  @Test
  void aFolderOfShotsBecomesAProject(FxRobot robot) throws Exception {
    onWindow(() -> session.project().open(List.of(DemoProject.MERIDIAN)));
    await(() -> isShown(robot));
    assertThat(title(robot)).isEqualTo("4 shots found in meridian");
    assertThat(lines(robot))
        .anyMatch(l -> l.contains("mer_020_dome"))
        .anyMatch(l -> l.contains("returns"));
    assertThat(session.isOpen()).as("the open shot stays").isTrue();
    Path list = dir.resolve("list.csv");
    Files.writeString(
        list,
        "shot,first,last,handles,fps\nmer_010_terrace,1009,1088,8,24000/1001\nmer_030_cart,1,60,,\n");
    onWindow(() -> session.newShots().search(offer().folders(), Optional.of(list)));
    await(() -> title(robot).equals("2 shots found in meridian"));
    Path project = dir.resolve("show/project.json");
    Files.createDirectories(project.getParent());
    onWindow(
        () ->
            robot
                .lookup("#new-shots-project")
                .queryAs(TextField.class)
                .setText(project.toString()));
    assertThat(robot.lookup("#new-shots-receive").queryAs(Button.class).getText())
        .isEqualTo("Receive 2 shots");
    robot.clickOn("#new-shots-receive");
    await(() -> offer() != null && offer().isReceived());
    assertThat(title(robot)).isEqualTo("Received into project.json");
    assertThat(lines(robot))
        .anyMatch(l -> l.contains("mer_010_terrace") && l.contains("open questions"));
    await(
        () ->
            session.project().file().map(ProjectFile::file).equals(Optional.of(project))
                && session.ledger().get() != null);
    robot.clickOn("#new-shots-cancel");
    assertThat(isShown(robot)).isFalse();
    ProjectFile made = ProjectFile.read(project);
    assertThat(made.shots())
        .extracting(ProjectShot::name)
        .containsExactly("mer_010_terrace", "mer_030_cart");
    assertThat(made.shots().get(0).deliveries()).isNotEmpty();
    assertThat(session.hasOpenClaims()).as("each has its ledger").isTrue();
  }

  @Test
  void shotsAreAddedToTheOpenProjectWhichStaysOpen(FxRobot robot) throws Exception {
    Path project = session.project().file().orElseThrow().file();
    Path more = Files.createDirectories(dir.resolve("more"));
    DemoProject.copyTerrace(more);
    Files.move(more.resolve("mer_010_terrace"), more.resolve("mer_080_terrace"));
    String before = session.state().get().name();
    int shots = ProjectFile.read(project).shots().size();
    onWindow(() -> session.newShots().search(List.of(more), Optional.empty()));
    await(() -> isShown(robot));
    assertThat(robot.lookup("#new-shots-project").queryAs(TextField.class).getText())
        .isEqualTo(project.toString());
    robot.clickOn("#new-shots-receive");
    await(() -> offer() != null && offer().isReceived());
    assertThat(session.state().get().name()).isEqualTo(before);
    assertThat(ProjectFile.read(project).shots()).hasSize(shots + 1);
    assertThat(session.project().file().orElseThrow().shots()).hasSize(shots + 1);
    // Once more, nothing is left to add.
    onWindow(() -> session.newShots().search(List.of(more), Optional.empty()));
    await(() -> offer() != null && !offer().isReceived());
    robot.clickOn("#new-shots-receive");
    await(() -> offer() != null && offer().isReceived());
    assertThat(lines(robot)).anyMatch(l -> l.contains("in the project already"));
    robot.press(KeyCode.ESCAPE).release(KeyCode.ESCAPE);
    await(() -> offer() == null);
  }

  @Test
  void aFolderCanBeOpenedAsOneShotAndErrorsAreSaid(FxRobot robot) throws Exception {
    onWindow(() -> session.newShots().search(List.of(dir.resolve("gone")), Optional.empty()));
    await(() -> !session.newShots().problem().get().isEmpty());
    assertThat(message(robot)).contains("gone");
    onWindow(() -> session.project().open(List.of(DemoProject.MERIDIAN)));
    await(() -> isShown(robot));
    Path bad = Files.writeString(dir.resolve("bad.json"), "{\"schema\":\"something\"}");
    onWindow(
        () -> robot.lookup("#new-shots-project").queryAs(TextField.class).setText(bad.toString()));
    robot.clickOn("#new-shots-receive");
    await(() -> !session.newShots().problem().get().isEmpty());
    assertThat(session.newShots().problem().get()).contains("bad.json");
    assertThat(Files.readString(bad)).isEqualTo("{\"schema\":\"something\"}");
    assertThat(offer().isReceived()).isFalse();
    robot.clickOn("#new-shots-one");
    await(() -> offer() == null && !session.project().loading().get());
    assertThat(session.state().get().name()).isEqualTo("meridian");
    // Folders of two shots at once are two shots; those of one shot's parts are one, see
    // ReceiveTest.
    List<Path> two =
        List.of(
            DemoProject.MERIDIAN.resolve("mer_020_dome"),
            DemoProject.MERIDIAN.resolve("mer_030_cart"));
    onWindow(() -> session.project().open(two));
    await(() -> isShown(robot));
    assertThat(title(robot)).isEqualTo("2 shots found in mer_020_dome and 1 more");
  }

  @Test
  void whatIsDismissedOrOvertakenStopsAndLeavesTheCardUsable(FxRobot robot) throws Exception {
    Path project = dir.resolve("project.json");
    onWindow(() -> session.project().open(List.of(DemoProject.MERIDIAN)));
    await(() -> isShown(robot));
    onWindow(
        () -> {
          session.newShots().receive(dir.resolve("other.json"), "");
          session.newShots().dismiss();
        });
    await(() -> session.jobs().running().isEmpty());
    assertThat(offer()).isNull();
    assertThat(session.newShots().working().get()).isFalse();
    onWindow(() -> session.newShots().search(List.of(DemoProject.MERIDIAN), Optional.empty()));
    await(() -> isShown(robot));
    onWindow(
        () -> {
          session.newShots().receive(dir.resolve("third.json"), "");
          session.project().open(List.of(project));
        });
    await(() -> !session.project().loading().get() && session.jobs().running().isEmpty());
    assertThat(session.newShots().working().get()).isFalse();
    assertThat(session.newShots().problem().get()).contains("opened meanwhile");
    assertThat(offer().isReceived()).isFalse();
    assertThat(robot.lookup("#new-shots-receive").queryAs(Button.class).isDisabled()).isFalse();
  }
}
