package flarvo.desktop.measure;

import javafx.application.Application;

/** Starts the measurement of Vet with a large shot. */
public final class VetPulseMain {

  private VetPulseMain() {}

  public static void main(String[] args) {
    Application.launch(VetPulseApp.class, args);
  }
}
