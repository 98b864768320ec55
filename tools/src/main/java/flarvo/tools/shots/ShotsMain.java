package flarvo.tools.shots;

import javafx.application.Application;

/** Drives the real window through its views and saves a picture of each: {@code --out DIR}. */
public final class ShotsMain {

  private ShotsMain() {}

  public static void main(String[] args) {
    Application.launch(ShotsApp.class, args);
  }
}
