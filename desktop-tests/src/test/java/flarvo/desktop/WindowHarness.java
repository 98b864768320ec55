package flarvo.desktop;

import flarvo.desktop.state.SendState;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.level.BuildWork;
import flarvo.desktop.stop.level.LevelStop;
import flarvo.desktop.stop.level.LevelWork;
import flarvo.desktop.stop.receive.ReceiveStop;
import flarvo.desktop.stop.receive.TableImport;
import flarvo.desktop.stop.vet.VetStop;
import flarvo.desktop.stop.vet.VetWork;
import flarvo.desktop.window.MainWindow;
import flarvo.dispatch.Delivery;
import flarvo.project.UserFolder;
import flarvo.proof.ProofReport;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import javafx.scene.control.Label;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.api.FxToolkit;
import org.testfx.util.WaitForAsyncUtils;

/** The real window with the demo open; each test class inherits it. */
@ExtendWith(SettledExtension.class)
abstract class WindowHarness {

  /** Generous: a test waits for what it needs, also on a machine that does much else. */
  private static final int LIMIT_SECONDS = 240;

  /** What the user keeps, a folder of this process. */
  static final Path HOME = Path.of(System.getProperty(UserFolder.PROPERTY));

  @TempDir Path dir;

  Session session;
  MainWindow window;

  @BeforeEach
  void openTheDemo() throws Exception {
    forgetOtherTests();
    FxToolkit.setupStage(
        stage -> {
          session = new Session();
          SettledRobot.drives(session);
          window = FlarvoApp.open(stage, session);
        });
    Path project = DemoProject.in(dir);
    onWindow(() -> session.project().open(List.of(project)));
    await(() -> session.ledger().get() != null);
  }

  /** Every window reads what others left unsaved: hundreds of tests' work would be read. */
  static void forgetOtherTests() throws IOException {
    if (!Files.exists(HOME)) {
      return;
    }
    try (Stream<Path> all = Files.walk(HOME)) {
      for (Path p : (Iterable<Path>) all.sorted(Comparator.reverseOrder())::iterator) {
        if (Files.isRegularFile(p)) {
          Files.deleteIfExists(p);
        }
      }
    }
  }

  @AfterEach
  void close() throws Exception {
    SettledRobot.drives(null); // what a closed window began is never done
    onWindow(
        () -> {
          window.close();
          session.close();
        });
  }

  /** Runs on the window's thread, and waits until everything that follows from it is done. */
  static void onWindow(Runnable work) throws Exception {
    WaitForAsyncUtils.asyncFx(work).get(LIMIT_SECONDS, TimeUnit.SECONDS);
    WaitForAsyncUtils.waitForFxEvents();
    SettledRobot.settle();
  }

  /** The condition is asked on the window's thread, where everything that it may look at lives. */
  static void await(Callable<Boolean> condition) throws Exception {
    WaitForAsyncUtils.waitFor(
        LIMIT_SECONDS, TimeUnit.SECONDS, () -> WaitForAsyncUtils.asyncFx(condition).get());
    WaitForAsyncUtils.waitForFxEvents();
  }

  VetWork vet() {
    return window.stop(VetStop.class).work();
  }

  LevelWork level() {
    return window.stop(LevelStop.class).work();
  }

  BuildWork build() {
    return window.stop(LevelStop.class).build();
  }

  TableImport tableImport() {
    return window.stop(ReceiveStop.class).tableImport();
  }

  int frame() {
    return session.playhead().frame().get();
  }

  static String message(FxRobot robot) {
    return robot.lookup("#message").queryAs(Label.class).getText();
  }

  /** Sends a delivery and waits for its proof. */
  ProofReport sent(Delivery d) throws Exception {
    onWindow(() -> session.sending().send(d));
    await(
        () -> {
          SendState s = session.sending().states().get(d);
          return s != null && s.stage() == SendState.Stage.SENT;
        });
    return session.sending().states().get(d).proof().orElseThrow();
  }

  boolean allSent() {
    return session.state().get().deliveries().stream()
        .map(d -> session.sending().states().get(d))
        .allMatch(s -> s != null && s.stage() == SendState.Stage.SENT);
  }
}
