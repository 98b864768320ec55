package flarvo.bench;

import flarvo.trace.FollowBench;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Set;
import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.RunnerException;
import org.openjdk.jmh.runner.options.ChainedOptionsBuilder;
import org.openjdk.jmh.runner.options.OptionsBuilder;
import org.openjdk.jmh.runner.options.TimeValue;

/**
 * Runs all measurements, or those whose names match the words given; {@code reading} alone reads
 * large files beside other libraries, {@code writing} writes them, {@code adjusting} refines solves
 * beside other solvers, {@code plates} takes pictures through a lens beside another library, {@code
 * following} follows features beside another library, {@code sending} sends a large shot to six
 * recipients, {@code suspects} looks for what is wrong with files.
 */
public final class Main {

  private static final Set<String> ALONE =
      Set.of("reading", "writing", "adjusting", "plates", "following", "sending", "suspects");

  private Main() {}

  public static void main(String[] args) throws RunnerException, IOException {
    if (args.length == 0 || args[0].equals("reading")) {
      ReadingBench.run(
          Path.of(System.getProperty("flarvo.files", ".")),
          Path.of(System.getProperty("flarvo.peers", "peers")));
    }
    if (args.length == 0 || args[0].equals("writing")) {
      WritingBench.run(
          Path.of(System.getProperty("flarvo.files", ".")),
          Path.of(System.getProperty("flarvo.peers", "peers")));
    }
    if (args.length == 0 || args[0].equals("adjusting")) {
      boolean agreed =
          AdjustBench.run(
              Path.of(System.getProperty("flarvo.files", ".")),
              Path.of(System.getProperty("flarvo.peers", "peers")));
      if (!agreed) {
        throw new IllegalStateException("another solver found a lower cost");
      }
    }
    if (args.length == 0 || args[0].equals("plates")) {
      RemapBench.run(Path.of(System.getProperty("flarvo.peers", "peers")));
    }
    if (args.length == 0 || args[0].equals("following")) {
      FollowBench.run(Path.of(System.getProperty("flarvo.peers", "peers")));
    }
    if (args.length == 0 || args[0].equals("sending")) {
      SendingBench.run();
    }
    if (args.length == 0 || args[0].equals("suspects")) {
      SuspectBench.run();
    }
    if (args.length > 0 && ALONE.contains(args[0])) {
      return;
    }
    ChainedOptionsBuilder o =
        new OptionsBuilder()
            .forks(1)
            .warmupIterations(3)
            .warmupTime(TimeValue.seconds(1))
            .measurementIterations(5)
            .measurementTime(TimeValue.seconds(1));
    if (args.length == 0) {
      o = o.include("flarvo.bench");
    }
    for (String a : args) {
      o = o.include(a);
    }
    new Runner(o.build()).run();
  }
}
