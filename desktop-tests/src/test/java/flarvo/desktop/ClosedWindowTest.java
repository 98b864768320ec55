package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.desktop.state.Session;
import flarvo.desktop.window.MainWindow;
import java.lang.ref.WeakReference;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import javafx.scene.Scene;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.Pane;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.testfx.api.FxRobot;
import org.testfx.api.FxToolkit;
import org.testfx.util.WaitForAsyncUtils;

/** What listens goes with the window: a closed one is let go, with its session and its stops. */
@ExtendWith(SettledExtension.class)
class ClosedWindowTest {

  private static final Path DEMO = Path.of("../demo/meridian/project.json");

  private Stage stage;
  private Session session;
  private MainWindow window;

  @Test
  void aClosedWindowIsLetGo(FxRobot robot) throws Exception {
    WindowHarness.forgetOtherTests();
    FxToolkit.setupStage(
        s -> {
          stage = s;
          session = new Session();
          SettledRobot.drives(session);
          window = FlarvoApp.open(s, session);
        });
    WindowHarness.onWindow(() -> session.project().open(List.of(DEMO)));
    WindowHarness.await(() -> session.isOpen());
    int stops = window.stops().size();
    Set<String> shown = new HashSet<>();
    for (int digit = 0; digit < stops; digit++) {
      robot.type(KeyCode.values()[KeyCode.DIGIT1.ordinal() + digit]).type(KeyCode.TAB);
      WaitForAsyncUtils.waitForFxEvents();
      shown.add(window.current().id());
    }
    assertThat(shown).as("stops").hasSize(stops);
    WeakReference<MainWindow> wasWindow = new WeakReference<>(window);
    WeakReference<Session> wasSession = new WeakReference<>(session);
    WindowHarness.onWindow(
        () -> {
          window.close();
          session.close();
          stage.setOnShown(null);
          stage.setScene(new Scene(new Pane()));
        });
    FxToolkit.toolkitContext().setRegisteredStage(stage); // TestFX keeps every event until then
    SettledRobot.drives(null);
    window = null;
    session = null;
    for (int i = 0; i < 600 && (wasWindow.get() != null || wasSession.get() != null); i++) {
      WaitForAsyncUtils.waitForFxEvents();
      System.gc();
      TimeUnit.MILLISECONDS.sleep(100);
    }
    assertThat(wasSession.get()).as("session").isNull();
    assertThat(wasWindow.get()).as("window").isNull();
  }
}
