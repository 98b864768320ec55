package flarvo.tools.measure;

import javafx.application.Application;

/** Measures playback in the real window: {@code PROJECT [SECONDS]}. */
public final class PlaybackMain {

  private PlaybackMain() {}

  public static void main(String[] args) {
    Application.launch(PlaybackApp.class, args);
  }
}
