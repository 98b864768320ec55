package flarvo.bench;

import flarvo.convention.Dialect;
import flarvo.format.FileScene;
import flarvo.format.Formats;
import flarvo.format.ReadLimits;
import flarvo.format.SceneFormat;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.Locale;

/**
 * Reads files a few times each and prints the best time: {@code ReadOnce FILE…}. The peer check
 * sets it beside what another reader takes for the same file in the same run.
 */
public final class ReadOnce {

  private static final int TIMES = 5;

  private ReadOnce() {}

  public static void main(String[] args) {
    for (String a : args) {
      Path file = Path.of(a);
      double best = Double.MAX_VALUE;
      FileScene scene = null;
      for (int i = 0; i < TIMES; i++) {
        long start = System.nanoTime();
        SceneFormat format = Formats.recognise(file);
        scene = format.read(file, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
        best = Math.min(best, (System.nanoTime() - start) / 1e6);
      }
      System.out.printf(
          Locale.ROOT,
          "%s %.1f ms: %d cameras, %d points, %d meshes, %d observations%n",
          file.getFileName(),
          best,
          scene.cameras().size(),
          scene.trackerCount(),
          scene.meshes().size(),
          scene.observations().size());
    }
  }
}
