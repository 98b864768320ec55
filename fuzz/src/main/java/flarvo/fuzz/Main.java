package flarvo.fuzz;

import flarvo.report.InputError;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;

/** The command {@code ./flarvo fuzz [--minutes N] [--out DIR] [READER...]}. */
public final class Main {

  private static final String USAGE =
      "usage: flarvo fuzz [--minutes N] [--out DIR] [READER...]\n"
          + "Feeds readers with mutated files, N minutes in all (10).\n"
          + "Exit code 1 where one failed; what made it fail is in DIR (target/fuzz).";

  private Main() {}

  /** Exit code 0: nothing found, 1: findings, 2: not started. */
  public static void main(String[] args) throws Exception {
    int code;
    try {
      code = run(List.of(args));
    } catch (InputError | NumberFormatException e) {
      System.err.println("error: " + e.getMessage());
      code = 2;
    }
    System.exit(code);
  }

  private static int run(List<String> args) throws Exception {
    double minutes = 10;
    Path out = Path.of("target", "fuzz");
    List<Reader> readers = new ArrayList<>();
    for (int i = 0; i < args.size(); i++) {
      switch (args.get(i)) {
        case "--help" -> {
          System.out.println(USAGE);
          return 0;
        }
        case "--minutes" -> minutes = Double.parseDouble(value(args, ++i));
        case "--out" -> out = Path.of(value(args, ++i));
        default -> readers.add(Reader.of(args.get(i)));
      }
    }
    if (readers.isEmpty()) {
      readers = new ArrayList<>(Reader.all());
      readers.addAll(Reader.decoded());
    }
    Path corpus = Path.of(System.getProperty("flarvo.corpus", "fuzz/corpus"));
    List<Session.Result> results = all(readers, corpus, minutes, out);
    boolean found = false;
    long inputs = 0;
    for (Session.Result r : results) {
      System.out.println(r.line());
      found |= !r.findings().isEmpty();
      inputs += r.inputs();
    }
    System.out.printf(Locale.ROOT, "%,d inputs over %d readers%n", inputs, results.size());
    return found ? 1 : 0;
  }

  private static String value(List<String> args, int i) {
    if (i >= args.size()) {
      throw InputError.words(args.get(i - 1) + " needs a value", USAGE);
    }
    return args.get(i);
  }

  /** As many at a time as there are processors, the minutes shared among all. */
  private static List<Session.Result> all(
      List<Reader> readers, Path corpus, double minutes, Path out) throws Exception {
    int workers = Math.min(readers.size(), Runtime.getRuntime().availableProcessors());
    long seconds = Math.max(2, Math.round(minutes * 60 * workers / readers.size()));
    ExecutorService pool = Executors.newFixedThreadPool(workers);
    try {
      List<Callable<Session.Result>> work = new ArrayList<>();
      for (Reader r : readers) {
        Path seeds = corpus.resolve(r.name());
        work.add(() -> new Session(r.name(), seeds, seconds, -1, 0, out.resolve(r.name())).run());
      }
      List<Session.Result> results = new ArrayList<>();
      for (Future<Session.Result> f : pool.invokeAll(work)) {
        results.add(f.get());
      }
      return results;
    } catch (ExecutionException e) {
      throw e.getCause() instanceof InputError wrong ? wrong : e;
    } finally {
      pool.shutdownNow();
    }
  }
}
