package flarvo.trace;

import flarvo.plate.PlateFinder;
import flarvo.plate.PlateLuma;
import flarvo.scene.Luma;
import flarvo.scene.PlateSequence;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;

/**
 * Features followed through a plate in memory on two threads, beside another library's pyramidal
 * Lucas-Kanade, there and back, from the same places of the first frame; in turns, so that a busy
 * machine slows both. Both make a pyramid of each frame; ours also recognises each feature by its
 * first pattern, and is timed once more with the correction of all places that comes after.
 */
public final class FollowBench {

  private static final int TURNS = 25;
  private static final int FIRST = 1001;
  private static final int FRAMES = 40;

  private FollowBench() {}

  public static void run(Path peers) throws IOException {
    Path python = peers.resolve("../.peers/bin/python").normalize();
    if (!Files.isExecutable(python)) {
      System.out.println("OpenCV is not here; './flarvo peers' fetches it");
      return;
    }
    Path folder = Files.createTempDirectory("bench-follow");
    Process other =
        new ProcessBuilder(
                python.toString(), peers.resolve("time_follow.py").toString(), folder.toString())
            .redirectError(ProcessBuilder.Redirect.DISCARD)
            .start();
    ExecutorService reader = Executors.newSingleThreadExecutor();
    try (Writer ask = other.outputWriter(StandardCharsets.UTF_8);
        BufferedReader answers =
            new BufferedReader(
                new InputStreamReader(other.getInputStream(), StandardCharsets.UTF_8))) {
      answer(answers);
      measure(folder, ask, answers, reader);
    } finally {
      reader.shutdown();
      other.destroy();
      clear(folder);
    }
  }

  private static void measure(Path folder, Writer ask, BufferedReader answers, Executor reader)
      throws IOException {
    PlateSequence found = PlateFinder.find(folder).get(0);
    List<Luma> plates = new ArrayList<>();
    for (int i = 0; i < FRAMES; i++) {
      plates.add(PlateLuma.of(found, FIRST + i).orElseThrow());
    }
    for (int features : List.of(200, 1000)) {
      TraceOptions options = TraceOptions.USUAL.withFeatures(features);
      Path table = folder.resolve("starts.csv");
      starts(found(plates.get(0), options), table);
      double ours = Double.MAX_VALUE;
      double corrected = Double.MAX_VALUE;
      double theirs = Double.MAX_VALUE;
      for (int t = 0; t < TURNS; t++) {
        ours = Math.min(ours, time(plates, options, false, reader));
        corrected = Math.min(corrected, time(plates, options, true, reader));
        ask.write(table + "\n");
        ask.flush();
        String[] a = answer(answers).split(" ");
        theirs = Math.min(theirs, 1e3 * Double.parseDouble(a[0]) / Long.parseLong(a[1]));
      }
      System.out.printf(
          Locale.ROOT,
          "following %d features: %.1f µs a feature and frame, corrected %.1f; OpenCV %.1f µs;"
              + " ratio %.2f, corrected %.2f%n",
          features,
          ours,
          corrected,
          theirs,
          ours / theirs,
          corrected / theirs);
    }
  }

  private static List<Feature> found(Luma first, TraceOptions options) {
    return new Corners(options, Mask.NONE).beside(Levels.of(FIRST, first), List.of());
  }

  /**
   * Microseconds a feature and frame; the next pyramid is made meanwhile, as {@link Tracer} does.
   */
  private static double time(
      List<Luma> plates, TraceOptions options, boolean correct, Executor reader) {
    List<Feature> live = found(plates.get(0), options);
    List<Feature> all = live;
    ThreadLocal<Follower> followers = ThreadLocal.withInitial(() -> new Follower(options));
    ThreadLocal<JointAlignment> aligners =
        ThreadLocal.withInitial(() -> new JointAlignment(options.radius()));
    long followed = 0;
    long start = System.nanoTime();
    Levels from = Levels.of(FIRST, plates.get(0));
    CompletableFuture<Levels> ahead = levels(plates, 1, reader);
    for (int i = 1; i < plates.size(); i++) {
      Levels to = ahead.join();
      ahead = i + 1 < plates.size() ? levels(plates, i + 1, reader) : null;
      List<Feature> now = live;
      Levels before = from;
      boolean[] seen = new boolean[now.size()];
      IntStream.range(0, seen.length)
          .parallel()
          .forEach(
              k -> {
                seen[k] = follow(followers.get(), now.get(k), before, to);
                if (correct && seen[k]) {
                  now.get(k).keep(to.frame(), to.whole(), options.radius());
                }
              });
      followed += seen.length;
      live = IntStream.range(0, seen.length).filter(k -> seen[k]).mapToObj(now::get).toList();
      from = to;
    }
    if (correct) {
      all.parallelStream().forEach(f -> aligners.get().align(f));
    }
    return (System.nanoTime() - start) / 1e3 / followed;
  }

  private static CompletableFuture<Levels> levels(List<Luma> plates, int i, Executor reader) {
    return CompletableFuture.supplyAsync(() -> Levels.of(FIRST + i, plates.get(i)), reader);
  }

  private static boolean follow(Follower w, Feature f, Levels from, Levels to) {
    double px = f.x() + f.vx;
    double py = f.y() + f.vy;
    return w.follow(f, from, to, px, py, false) != Follower.Step.LOST
        || w.follow(f, from, to, px, py, true) != Follower.Step.LOST;
  }

  /** Where each feature is on the first frame, pixels counted from their centres. */
  private static void starts(List<Feature> features, Path table) throws IOException {
    List<String> lines = new ArrayList<>(List.of("x,y"));
    for (Feature f : features) {
      lines.add(String.format(Locale.ROOT, "%.4f,%.4f", f.x(), f.y()));
    }
    Files.write(table, lines);
  }

  private static String answer(BufferedReader answers) throws IOException {
    String line = answers.readLine();
    if (line == null) {
      throw new IOException("OpenCV's process ended; 'python peers/time_follow.py' says why");
    }
    return line;
  }

  private static void clear(Path folder) throws IOException {
    try (DirectoryStream<Path> all = Files.newDirectoryStream(folder)) {
      for (Path p : all) {
        Files.delete(p);
      }
    }
    Files.delete(folder);
  }
}
