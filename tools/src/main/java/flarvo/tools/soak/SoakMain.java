package flarvo.tools.soak;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Stream;

/**
 * The command {@code ./flarvo soak [--kills N] [editing] [sending] [commands] [undistorting]
 * [running] [faults]}.
 */
public final class SoakMain {

  private static final String USAGE =
      "usage: flarvo soak [--kills N] [editing] [sending] [commands] [undistorting] [running]\n"
          + "            [faults]\n"
          + "Kills the window N times (20) while it is edited, and while it saves and sends; kills\n"
          + "commands; fills disks and takes folders away. Exit code 1 where something was lost.";

  private static final List<String> KINDS =
      List.of("editing", "sending", "commands", "undistorting", "running", "faults");

  private SoakMain() {}

  /**
   * The first argument is the demo's project.
   *
   * <p>Exit code 0: all well, 1: faults, 2: wrong arguments.
   */
  public static void main(String[] args) throws Exception {
    int kills = 20;
    List<String> kinds = new ArrayList<>();
    for (int i = 1; i < args.length; i++) {
      if (args[i].equals("--kills") && i + 1 < args.length && args[i + 1].matches("[0-9]{1,6}")) {
        kills = Integer.parseInt(args[++i]);
      } else if (KINDS.contains(args[i])) {
        kinds.add(args[i]);
      } else {
        System.err.println(USAGE);
        System.exit(args[i].equals("--help") ? 0 : 2);
      }
    }
    System.exit(run(Path.of(args[0]), kills, kinds.isEmpty() ? KINDS : kinds) ? 0 : 1);
  }

  private static boolean run(Path demo, int kills, List<String> kinds) throws Exception {
    Path folder = Files.createTempDirectory("flarvo-soak");
    ExecutorService pool = Executors.newFixedThreadPool(2);
    try {
      List<Future<Outcome>> all = new ArrayList<>();
      for (String kind : kinds) {
        all.add(pool.submit(work(kind, folder.resolve(kind), demo, kills)));
      }
      boolean well = true;
      for (Future<Outcome> f : all) {
        System.out.println(f.get().line());
        well &= f.get().faults().isEmpty();
      }
      if (well) {
        remove(folder);
      } else {
        System.out.println("what was left is in " + folder);
      }
      return well;
    } finally {
      pool.shutdownNow();
    }
  }

  private static Callable<Outcome> work(String kind, Path folder, Path demo, int kills) {
    long seed = System.nanoTime();
    return switch (kind) {
      case "editing" -> () -> new KilledWindow(false, kills, seed).run(folder, demo);
      case "sending" -> () -> new KilledWindow(true, kills, seed).run(folder, demo);
      case "commands" -> () -> new KilledCommand(kills, seed).run(folder, demo);
      case "undistorting" -> () -> new KilledUndistort(kills, seed).run(folder, demo);
      case "running" -> () -> new KilledRun(kills, seed).run(folder, demo);
      default -> () -> new Faults(folder, demo).run();
    };
  }

  /** Removes a folder with all that is in it. */
  static void remove(Path root) throws IOException {
    try (Stream<Path> all = Files.walk(root)) {
      for (Path p : all.sorted(Comparator.reverseOrder()).toList()) {
        Files.deleteIfExists(p);
      }
    }
  }
}
