package flarvo.tools.soak;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Stream;

/**
 * {@code undistort} killed at random moments, its sources changed now and then while it is dead: no
 * picture is ever half, none that is stale passes for fresh, and a run that is let be makes exactly
 * what a run makes that was never killed.
 */
record KilledUndistort(int kills, long seed) {

  private static final int FRAMES = 24;

  Outcome run(Path folder, Path demo) throws IOException, InterruptedException {
    Path terrace = demo.resolveSibling("mer_010_terrace");
    Path lens = terrace.resolve("incoming/mer_010_terrace_lens.json");
    Path in = Files.createDirectories(folder.resolve("in"));
    for (int f = 0; f < FRAMES; f++) {
      copy(terrace, 1001 + f, in, f);
    }
    Random random = new Random(seed);
    List<String> faults = new ArrayList<>();
    Path out = folder.resolve("out");
    long from = System.nanoTime();
    undistort(in, lens, folder.resolve("usual")).waitFor();
    int usual = (int) ((System.nanoTime() - from) / 1_000_000);
    for (int i = 0; i < kills; i++) {
      Process p = undistort(in, lens, out);
      Thread.sleep(random.nextInt(usual + 50));
      p.destroyForcibly().waitFor();
      for (Map.Entry<String, byte[]> e : pictures(out).entrySet()) {
        if (!isWhole(e.getValue())) {
          faults.add("kill " + (i + 1) + ": " + e.getKey() + " is half a picture");
        }
      }
      if (random.nextInt(3) == 0) {
        // Another picture under the same name: what was made of the one before is stale.
        copy(terrace, 1025 + random.nextInt(70), in, random.nextInt(FRAMES));
      }
      if (random.nextInt(12) == 0) {
        compare(in, lens, out, folder.resolve("clean" + i), "kill " + (i + 1), faults);
      }
    }
    compare(in, lens, out, folder.resolve("clean"), "in the end", faults);
    return new Outcome("undistorting killed", kills, faults);
  }

  private static void copy(Path terrace, int from, Path in, int to) throws IOException {
    Path name = in.resolve(String.format(java.util.Locale.ROOT, "a.%04d.jpg", 1 + to));
    Files.deleteIfExists(name);
    Files.copy(terrace.resolve("plates/original/terrace." + from + ".jpg"), name);
  }

  private static void compare(
      Path in, Path lens, Path out, Path clean, String when, List<String> faults)
      throws IOException, InterruptedException {
    if (undistort(in, lens, out).waitFor() != 0 || undistort(in, lens, clean).waitFor() != 0) {
      faults.add(when + ": a run that was let be fails");
    }
    Map<String, byte[]> a = pictures(out);
    Map<String, byte[]> b = pictures(clean);
    if (!a.keySet().equals(b.keySet())) {
      faults.add(when + ": there are " + a.size() + " pictures, not " + b.size());
    }
    b.forEach(
        (name, bytes) -> {
          if (a.containsKey(name) && !Arrays.equals(bytes, a.get(name))) {
            faults.add(when + ": " + name + " is not what a clean run makes");
          }
        });
    try (Stream<Path> all = Files.list(out)) {
      all.filter(p -> p.toString().endsWith(".part"))
          .forEach(p -> faults.add(when + ", left lying: " + p));
    }
  }

  private static Map<String, byte[]> pictures(Path folder) throws IOException {
    Map<String, byte[]> out = new TreeMap<>();
    if (Files.isDirectory(folder)) {
      try (Stream<Path> all = Files.list(folder)) {
        for (Path p : all.filter(f -> f.toString().endsWith(".png")).toList()) {
          out.put(p.getFileName().toString(), Files.readAllBytes(p));
        }
      }
    }
    return out;
  }

  /** A PNG ends with its chunk IEND and that chunk's checksum. */
  private static boolean isWhole(byte[] png) {
    int n = png.length;
    return n > 20
        && png[n - 8] == 'I'
        && png[n - 7] == 'E'
        && png[n - 6] == 'N'
        && png[n - 5] == 'D';
  }

  private static Process undistort(Path in, Path lens, Path out) throws IOException {
    return new ProcessBuilder(
            Path.of(System.getProperty("java.home"), "bin", "java").toString(),
            "-XX:TieredStopAtLevel=1",
            "-XX:+UseSerialGC",
            "-cp",
            System.getProperty(KilledCommand.CLASSES),
            "flarvo.cli.Main",
            "undistort",
            in.toString(),
            "--lens",
            lens.toString(),
            "--filter",
            "bilinear",
            "--jobs",
            "2",
            "--quiet",
            "--out",
            out.resolve("u.####.png").toString())
        .redirectErrorStream(true)
        .redirectOutput(ProcessBuilder.Redirect.DISCARD)
        .start();
  }
}
