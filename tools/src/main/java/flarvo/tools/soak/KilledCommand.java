package flarvo.tools.soak;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeUnit;

/**
 * The command line killed at random moments while it converts: the output is whole or not there,
 * and nothing lies about after the next run.
 */
record KilledCommand(int kills, long seed) {

  /** Class path of the command line. */
  static final String CLASSES = "flarvo.cli";

  private static final List<String> ENDINGS =
      List.of(".usda", ".usdc", ".fbx", ".abc", ".glb", ".csv");

  Outcome run(Path folder, Path demo) throws IOException, InterruptedException {
    Path in = demo.resolveSibling("mer_010_terrace/incoming/mer_010_terrace_camera.fbx");
    Random random = new Random(seed);
    List<String> faults = new ArrayList<>();
    long usual = 0;
    List<byte[]> whole = new ArrayList<>();
    Files.createDirectories(folder);
    for (String e : ENDINGS) {
      Path out = folder.resolve("out" + e);
      long from = System.nanoTime();
      if (start(in, out).waitFor() != 0) {
        throw new IllegalStateException("the command fails even when it is let be");
      }
      usual = Math.max(usual, TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - from));
      whole.add(Files.readAllBytes(out));
    }
    for (int i = 0; i < kills; i++) {
      int k = random.nextInt(ENDINGS.size());
      Path out = folder.resolve("out" + ENDINGS.get(k));
      if (random.nextBoolean()) {
        Files.deleteIfExists(out);
      }
      boolean replace = Files.exists(out);
      Process p = start(in, out);
      Thread.sleep(random.nextInt((int) usual + 50));
      p.destroyForcibly().waitFor();
      boolean there = Files.exists(out);
      if (replace && !there || there && !Arrays.equals(Files.readAllBytes(out), whole.get(k))) {
        faults.add("kill " + (i + 1) + ": " + out.getFileName() + " is not whole");
      }
    }
    start(in, folder.resolve("out.usda")).waitFor();
    try (var all = Files.list(folder)) {
      all.filter(p -> p.toString().endsWith(".part")).forEach(p -> faults.add("left lying: " + p));
    }
    return new Outcome("commands killed", kills, faults);
  }

  private static Process start(Path in, Path out) throws IOException {
    return new ProcessBuilder(
            Path.of(System.getProperty("java.home"), "bin", "java").toString(),
            "-XX:TieredStopAtLevel=1",
            "-XX:+UseSerialGC",
            "-cp",
            System.getProperty(CLASSES),
            "flarvo.cli.Main",
            "convert",
            in.toString(),
            "--size",
            "960x540",
            "--to",
            "anim-yup-cm",
            "--overwrite",
            "--quiet",
            "--out",
            out.toString())
        .redirectErrorStream(true)
        .redirectOutput(ProcessBuilder.Redirect.DISCARD)
        .start();
  }
}
