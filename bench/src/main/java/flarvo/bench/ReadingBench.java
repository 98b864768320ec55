package flarvo.bench;

import flarvo.convention.Dialect;
import flarvo.format.Formats;
import flarvo.format.ReadLimits;
import flarvo.work.Progress;
import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.OptionalDouble;
import java.util.concurrent.Callable;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.Assimp;

/**
 * Large files, each read by us and by a library that we did not write, in turns in one run: a crate
 * of 20,000 points and 1,000 frames, a binary FBX of 50 MB, a table of 2 million 2D observations.
 */
final class ReadingBench {

  private static final int TURNS = 4;
  private static final int ROUNDS = 3;
  private static final long FBX_BYTES = 50_000_000;

  private ReadingBench() {}

  /**
   * @param folder that the files are left in, for whoever measures them further
   */
  static void run(Path folder, Path peers) throws IOException {
    crate(folder.resolve("large.usdc"), peers);
    fbx(folder.resolve("large.fbx"), peers);
    table(folder.resolve("large.csv"), peers);
  }

  private static Object ours(Path file) {
    return Formats.recognise(file).read(file, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
  }

  private static double millis(Callable<?> work) throws IOException {
    long start = System.nanoTime();
    try {
      if (work.call() == null) {
        throw new IOException("nothing was read");
      }
    } catch (IOException | RuntimeException e) {
      throw e;
    } catch (Exception e) {
      throw new IOException(e);
    }
    return (System.nanoTime() - start) / 1e6;
  }

  private static void compare(String what, Path file, String peer, Callable<?> theirs)
      throws IOException {
    double ours = Double.MAX_VALUE;
    double other = Double.MAX_VALUE;
    for (int i = 0; i < TURNS; i++) {
      ours = Math.min(ours, millis(() -> ours(file)));
      other = Math.min(other, millis(theirs));
    }
    say(what, file, ours, peer, OptionalDouble.of(other));
  }

  private static void say(String what, Path file, double ours, String peer, OptionalDouble theirs)
      throws IOException {
    System.out.printf(
        Locale.ROOT,
        "reading %s (%.1f MB): %.0f ms; %s%n",
        what,
        Files.size(file) / 1e6,
        ours,
        Peer.words(peer, ours, theirs));
  }

  private static void crate(Path file, Path peers) throws IOException {
    BenchShot.write(BenchShot.of(1000, 20_000), "usd-crate", file);
    beside(
        "a crate of 20,000 points and 1,000 camera frames",
        file,
        "the reference library, through Python,",
        () -> Peer.python(peers, "time_usd.py", file.toString()));
  }

  /** A program of its own that says its best time. */
  private interface Timed {
    OptionalDouble millis() throws IOException;
  }

  /** Our best time beside that of a program of its own, in turns, for machines are not even. */
  private static void beside(String what, Path file, String peer, Timed program)
      throws IOException {
    double ours = Double.MAX_VALUE;
    OptionalDouble theirs = OptionalDouble.empty();
    for (int round = 0; round < ROUNDS; round++) {
      for (int i = 0; i < TURNS; i++) {
        ours = Math.min(ours, millis(() -> ours(file)));
      }
      OptionalDouble now = program.millis();
      double before = theirs.orElse(Double.MAX_VALUE);
      theirs = now.isPresent() ? OptionalDouble.of(Math.min(before, now.getAsDouble())) : theirs;
    }
    say(what, file, ours, peer, theirs);
  }

  private static void fbx(Path file, Path peers) throws IOException {
    int trackers = 100_000;
    BenchShot.write(BenchShot.of(1000, trackers), "fbx-binary", file);
    while (Files.size(file) < FBX_BYTES) {
      trackers = (int) (trackers * 1.1 * FBX_BYTES / Files.size(file));
      BenchShot.write(BenchShot.of(1000, trackers), "fbx-binary", file);
    }
    compare(
        "a binary FBX of " + trackers + " points",
        file,
        "the asset import library",
        () -> {
          AIScene s = Assimp.aiImportFile(file.toString(), 0);
          if (s == null) {
            throw new IOException(Assimp.aiGetErrorString());
          }
          int meshes = s.mNumMeshes();
          Assimp.aiReleaseImport(s);
          return meshes;
        });
    beside(
        "the same",
        file,
        "a reader written in C",
        () ->
            Peer.time(
                peers.resolve("../.peers/fbx/release/fbx-dump").normalize(),
                "--time",
                file.toString()));
  }

  private static void table(Path file, Path peers) throws IOException {
    try (BufferedWriter w = Files.newBufferedWriter(file)) {
      w.write("tracker,frame,x,y\n");
      for (int t = 0; t < 2000; t++) {
        for (int f = 1; f <= 1000; f++) {
          w.write(
              String.format(
                  Locale.ROOT, "t%04d,%d,%.4f,%.4f%n", t, f, 900 + 0.37 * t, 300 + 0.2 * f));
        }
      }
    }
    compare(
        "a table of 2,000,000 observations",
        file,
        "Commons CSV, splitting and parsing alone,",
        () -> {
          double sum = 0;
          CSVFormat format =
              CSVFormat.RFC4180.builder().setHeader().setSkipHeaderRecord(true).get();
          try (CSVParser p = CSVParser.parse(file, StandardCharsets.UTF_8, format)) {
            for (CSVRecord r : p) {
              sum +=
                  r.get(0).length()
                      + Integer.parseInt(r.get(1))
                      + Double.parseDouble(r.get(2))
                      + Double.parseDouble(r.get(3));
            }
          }
          return sum;
        });
    beside(
        "the same",
        file,
        "Arrow, on two threads,",
        () -> Peer.python(peers, "time_csv.py", file.toString()));
  }
}
