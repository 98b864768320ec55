package flarvo.tools.soak;

import javafx.application.Application;

/** Starts a window that is to be killed. */
public final class SoakedMain {

  private SoakedMain() {}

  public static void main(String[] args) {
    Application.launch(SoakedApp.class, args);
  }
}
