package flarvo.tools.measure;

import flarvo.desktop.state.Session;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.function.BooleanSupplier;
import java.util.stream.Stream;
import javafx.animation.AnimationTimer;
import javafx.application.Platform;

/** A measurement in the real window that is asked at every pulse, and cleans up after itself. */
final class TimedRun {

  private TimedRun() {}

  /**
   * @param folder with the measurement's own files, removed at the end
   * @param turn asked at every pulse; true ends the measurement and the program
   */
  static void start(Session session, Path folder, BooleanSupplier turn) {
    new AnimationTimer() {
      @Override
      public void handle(long now) {
        if (turn.getAsBoolean()) {
          stop();
          session.close();
          Platform.exit();
          remove(folder);
        }
      }
    }.start();
  }

  private static void remove(Path folder) {
    try (Stream<Path> files = Files.list(folder)) {
      for (Path p : files.toList()) {
        Files.delete(p);
      }
      Files.delete(folder);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
