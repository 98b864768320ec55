package flarvo.desktop;

import static flarvo.desktop.WindowHarness.HOME;
import static flarvo.desktop.WindowHarness.await;
import static org.assertj.core.api.Assertions.assertThat;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.receive.ReceiveStop;
import flarvo.desktop.stop.receive.TableImport;
import flarvo.desktop.window.MainWindow;
import flarvo.format.table.ColumnRole;
import flarvo.format.table.TableColumn;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.framework.junit5.Stop;
import org.testfx.util.WaitForAsyncUtils;

/** Tables without a header, named column by column in a real window. */
@ExtendWith(SettledExtension.class)
class ColumnsTest {

  private static final Path SHOT =
      Path.of("../demo/meridian/mer_030_cart").toAbsolutePath().normalize();

  private Session session;
  private MainWindow window;

  @Start
  void start(Stage stage) throws IOException {
    WindowHarness.forgetOtherTests();
    session = new Session();
    SettledRobot.drives(session);
    window = FlarvoApp.open(stage, session);
    session.project().open(List.of(SHOT.resolve("incoming"), SHOT.resolve("plates")));
  }

  @Stop
  void stop() {
    SettledRobot.drives(null);
    window.close();
    session.close();
  }

  private TableImport tableImport() {
    return window.stop(ReceiveStop.class).tableImport();
  }

  private TableImport.Outcome outcome() {
    return tableImport().outcome().get();
  }

  private boolean settled() {
    return outcome() != null && outcome().mapping().equals(tableImport().draft().get());
  }

  private void openTracks(FxRobot robot) throws Exception {
    await(() -> session.ledger().get() != null);
    WaitForAsyncUtils.waitForFxEvents();
    robot.clickOn("#columns-of-mer_030_cart_tracks-txt");
    await(this::settled);
  }

  @Test
  void aGuessIsCorrectedMeasuredTakenAndUndone(FxRobot robot) throws Exception {
    openTracks(robot);
    assertThat(outcome().errorPx()).isLessThan(0.5);
    assertThat(outcome().ways()).hasSize(4);
    assertThat(outcome().ways().get(0).words()).isEqualTo("from the top left, y down");
    // The other way round the picture stands on its head, and the figure says so at once.
    robot.clickOn("#columns-up");
    await(() -> settled() && outcome().errorPx() > 20);
    robot.clickOn("from the top left, y down");
    await(() -> settled() && outcome().errorPx() < 0.5);
    robot.interact(
        () -> robot.lookup("#role-2").<ComboBox<ColumnRole>>query().setValue(ColumnRole.NONE));
    await(() -> settled() && outcome().file().isEmpty());
    assertThat(outcome().why()).isEqualTo("no column holds the 2D x");
    assertThat(robot.lookup("#columns-use").queryAs(Button.class).isDisabled()).isTrue();
    robot.interact(
        () -> robot.lookup("#role-2").<ComboBox<ColumnRole>>query().setValue(ColumnRole.PIXEL_X));
    await(() -> settled() && outcome().file().isPresent());
    robot.clickOn("#sign-2");
    await(() -> settled() && outcome().errorPx() > 100);
    robot.clickOn("#columns-use");
    await(() -> tableImport().table().get() == null);
    assertThat(session.state().get().shot().observations().x(0)).isNegative();
    assertThat(session.undoTitle()).contains("map columns of mer_030_cart_tracks.txt");
    robot.press(KeyCode.CONTROL).type(KeyCode.Z).release(KeyCode.CONTROL);
    await(() -> session.state().get().shot().observations().x(0) > 0);
  }

  @Test
  void aMappingIsKeptByNameAndEscapeLeavesTheShotAsItWas(FxRobot robot) throws Exception {
    openTracks(robot);
    TextField shift = robot.lookup("#columns-shift").queryAs(TextField.class);
    robot.interact(shift::requestFocus);
    robot.press(KeyCode.CONTROL).type(KeyCode.A).release(KeyCode.CONTROL);
    robot.write("soon").type(KeyCode.ENTER);
    assertThat(shift.getStyleClass()).contains("bad");
    robot.press(KeyCode.CONTROL).type(KeyCode.A).release(KeyCode.CONTROL);
    robot.write("7").type(KeyCode.ENTER);
    await(() -> settled() && outcome().mapping().frameShift() == 7);
    assertThat(outcome().errorPx()).as("seven frames late").isGreaterThan(5);
    robot.clickOn("#columns-name").write("cart tracks").type(KeyCode.ENTER);
    await(() -> Files.exists(HOME.resolve("mappings.json")));
    assertThat(tableImport().saved()).extracting(m -> m.name()).contains("cart tracks");
    int first = session.state().get().shot().observations().frame(0);
    robot.clickOn("#columns-leave");
    await(() -> tableImport().table().get() == null);
    assertThat(session.state().get().shot().observations().frame(0)).isEqualTo(first);
    // The next shot of that sender is read by what was kept.
    WaitForAsyncUtils.asyncFx(
        () -> session.project().open(List.of(SHOT.resolve("incoming"), SHOT.resolve("plates"))));
    await(() -> session.state().get().shot().observations().frame(0) == first + 7);
    Files.delete(HOME.resolve("mappings.json"));
  }

  @Test
  void pastedTextBecomesATableOfTheShot(FxRobot robot) throws Exception {
    await(() -> session.ledger().get() != null);
    robot.interact(
        () -> {
          ClipboardContent c = new ClipboardContent();
          c.putString("marker;0,5;1,5;2,5\nother;3,5;4,5;5,5\n");
          Clipboard.getSystemClipboard().setContent(c);
        });
    robot.press(KeyCode.CONTROL).type(KeyCode.V).release(KeyCode.CONTROL);
    await(() -> tableImport().table().get() != null && settled());
    assertThat(tableImport().draft().get().columns())
        .containsExactly(
            TableColumn.of(ColumnRole.TRACKER),
            TableColumn.of(ColumnRole.X),
            TableColumn.of(ColumnRole.Y),
            TableColumn.of(ColumnRole.Z));
    int before = session.state().get().shot().trackerCount();
    robot.clickOn("#columns-use");
    await(() -> session.state().get().shot().trackerCount() == before + 2);
    assertThat(session.tables().get(1).getParent()).isEqualTo(HOME.resolve("pasted"));
  }

  @Test
  void aCameraTableThatSaysNothingOpensByItsColumnsAlone(FxRobot robot) throws Exception {
    await(() -> session.ledger().get() != null);
    Path bare = HOME.resolve("bare.txt");
    Files.writeString(bare, "1 0.0 1.5 4.0 0.5 0 0 35.0\n2 0.1 1.5 4.0 0.5 0 0 35.0\n");
    Files.writeString(HOME.resolve("shot.txt"), "Plates 1920x1080, frames 1-2\n");
    WaitForAsyncUtils.asyncFx(
        () -> session.project().open(List.of(bare, HOME.resolve("shot.txt"))));
    await(() -> tableImport().table().get() != null && settled());
    assertThat(outcome().why()).contains("film back");
    robot.clickOn("#columns-film").write("24x13.5").type(KeyCode.ENTER);
    await(() -> settled() && outcome().file().isPresent());
    robot.clickOn("#columns-use");
    await(() -> session.state().get().shot().frames().count() == 2);
    assertThat(session.state().get().shot().picture().toString()).isEqualTo("1920x1080");
  }
}
