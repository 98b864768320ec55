package flarvo.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledOnOs;
import org.junit.jupiter.api.condition.OS;
import org.junit.jupiter.api.io.TempDir;

/** Ctrl+C in a process of its own. */
class InterruptTest {

  @TempDir private Path dir;

  /** The signal is sent while work runs; on a busy machine it may take a while to get that far. */
  @Test
  @EnabledOnOs(OS.LINUX)
  void aLongCommandEndsWithinASecondAndLeavesNothingHalfWritten() throws Exception {
    Path tracks = tracks(400, 300);
    Path out = dir.resolve("solve.usda");
    Process p =
        // A build that runs in the background has the signal ignored, and its children inherit
        // that.
        new ProcessBuilder(
                "env",
                "--default-signal=INT",
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-cp",
                System.getProperty("java.class.path"),
                "flarvo.cli.Main",
                "solve",
                "--tracks",
                tracks.toString(),
                "--size",
                "1920x1080",
                "--film-back",
                "24x13.5",
                "--out",
                out.toString())
            .redirectErrorStream(true)
            .redirectOutput(dir.resolve("said.txt").toFile())
            .start();
    waitUntilItWorks(p);
    assertThat(p.isAlive()).as(Files.readString(dir.resolve("said.txt"))).isTrue();
    long began = System.nanoTime();
    new ProcessBuilder("kill", "-INT", Long.toString(p.pid())).start().waitFor();
    assertThat(p.waitFor(60, TimeUnit.SECONDS)).isTrue();
    double seconds = (System.nanoTime() - began) / 1e9;
    assertThat(p.exitValue()).isEqualTo(ExitCode.CANCELLED);
    assertThat(seconds).isLessThan(2); // 0.8 s of patience, and a process that ends
    try (var left = Files.list(dir)) {
      assertThat(left.map(f -> f.getFileName().toString()))
          .containsExactlyInAnyOrder("tracks.csv", "said.txt");
    }
  }

  /** It has used a second of processor time: it is past its start. */
  private static void waitUntilItWorks(Process p) throws InterruptedException {
    for (int i = 0; i < 600; i++) {
      if (p.info().totalCpuDuration().map(d -> d.toMillis() > 1500).orElse(false)) {
        return;
      }
      Thread.sleep(50);
    }
  }

  /** Points that are seen by a camera that walks past them: enough to work on for a while. */
  private Path tracks(int trackers, int frames) throws IOException {
    Path file = dir.resolve("tracks.csv");
    Random r = new Random(3);
    try (BufferedWriter w = Files.newBufferedWriter(file)) {
      w.write("tracker,frame,x,y\n");
      for (int i = 0; i < trackers; i++) {
        double x = 8 * r.nextDouble() - 2;
        double y = 3 * r.nextDouble() - 1.5;
        double z = 4 + 6 * r.nextDouble();
        for (int f = 1; f <= frames; f++) {
          double cx = 4.0 * f / frames;
          double cy = 0.3 * Math.sin(0.05 * f);
          double px = 960 + 1920 * (x - cx) / z + 0.3 * r.nextGaussian();
          double py = 540 - 1920 * (y - cy) / z + 0.3 * r.nextGaussian();
          if (px > 0 && px < 1920 && py > 0 && py < 1080) {
            w.write("t" + i + "," + f + "," + px + "," + py + "\n");
          }
        }
      }
    }
    return file;
  }
}
