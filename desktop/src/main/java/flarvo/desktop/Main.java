package flarvo.desktop;

import javafx.application.Application;

/**
 * Starts the window. Not an Application itself, so that the libraries may lie on the class path.
 */
public final class Main {

  /** When the Java machine began, for the measured time to the first window. */
  public static final long STARTED_NANOS = System.nanoTime();

  private Main() {}

  public static void main(String[] args) {
    Application.launch(FlarvoApp.class, args);
  }
}
