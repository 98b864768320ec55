package flarvo.tools.measure;

import javafx.application.Application;

/** Measures the window while plates are followed: {@code [FRAMES [FEATURES]]}. */
public final class TracingMain {

  private TracingMain() {}

  public static void main(String[] args) {
    Application.launch(TracingApp.class, args);
  }
}
