package flarvo.tools.measure;

import javafx.application.Application;

/** Starts the measurement of Vet with a large shot. */
public final class PulseMain {

  private PulseMain() {}

  public static void main(String[] args) {
    Application.launch(PulseApp.class, args);
  }
}
