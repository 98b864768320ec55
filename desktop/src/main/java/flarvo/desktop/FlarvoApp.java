package flarvo.desktop;

import flarvo.desktop.state.Session;
import flarvo.desktop.theme.Theme;
import flarvo.desktop.window.MainWindow;
import java.nio.file.Path;
import java.util.List;
import javafx.application.Application;
import javafx.geometry.Rectangle2D;
import javafx.scene.Scene;
import javafx.stage.Screen;
import javafx.stage.Stage;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** The application: one window on one project. */
public final class FlarvoApp extends Application {

  private static final Logger LOG = LoggerFactory.getLogger(FlarvoApp.class);

  /** The least that shows every control; contents are made for it. */
  static final double MIN_WIDTH = 960;

  static final double MIN_HEIGHT = 620;
  private static final double WIDTH = 1280;
  private static final double HEIGHT = 800;
  private static final double TITLE_BAR = 40;

  private Session session;

  @Override
  public void start(Stage stage) {
    session = new Session();
    session.jobs().hearUncaught(session.message()::set);
    MainWindow window = open(stage, session);
    stage.setOnHidden(e -> window.close());
    stage.setOnCloseRequest(
        e -> {
          if (!window.mayClose(stage::hide)) {
            e.consume();
          }
        });
    List<String> files = getParameters().getUnnamed();
    if (!files.isEmpty()) {
      session.project().open(files.stream().map(Path::of).toList());
    }
  }

  /** Shows the window for a session; also how tests and the screenshots start it. */
  public static MainWindow open(Stage stage, Session session) {
    Theme.loadFonts();
    session.view().theme().get().applyBase();
    MainWindow window = new MainWindow(session, Stops.all(session), DemoCopy.opener(session));
    Scene scene = new Scene(window.root(), WIDTH, HEIGHT);
    session.view().theme().addListener((o, a, b) -> b.applyTo(scene));
    session.view().theme().get().applyTo(scene);
    window.installKeys(scene);
    stage.setTitle("Flarvo");
    stage.setMinWidth(MIN_WIDTH);
    stage.setMinHeight(MIN_HEIGHT);
    stage.setScene(scene);
    // With its title bar the usual size would not fit: a window manager would cut it to the least.
    Rectangle2D screen = Screen.getPrimary().getVisualBounds();
    stage.setMaximized(screen.getWidth() < WIDTH || screen.getHeight() < HEIGHT + TITLE_BAR);
    stage.setOnShown(
        e ->
            LOG.info(
                "first window after {} ms",
                java.lang.management.ManagementFactory.getRuntimeMXBean().getUptime()));
    stage.show();
    window.picture().requestFocus();
    return window;
  }

  @Override
  public void stop() {
    if (session != null) {
      session.close();
    }
  }
}
