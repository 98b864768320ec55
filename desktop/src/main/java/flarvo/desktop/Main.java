package flarvo.desktop;

import flarvo.convention.Dialects;
import flarvo.decision.DecisionJson;
import flarvo.project.UserFolder;
import java.nio.file.Path;
import javafx.application.Application;

/**
 * Starts the window. Not an Application itself, so that the libraries may lie on the class path.
 */
public final class Main {

  private Main() {}

  public static void main(String[] args) {
    // What needs no window is made ready while the toolkit starts.
    Thread early = new Thread(() -> new DecisionJson(Path.of(""), Dialects.shipped()), "early");
    early.setDaemon(true);
    early.start();
    System.setProperty("flarvo.logs", UserFolder.logs().toString());
    Application.launch(FlarvoApp.class, args);
  }
}
