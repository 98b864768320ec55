package flarvo.bench;

import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.RunnerException;
import org.openjdk.jmh.runner.options.ChainedOptionsBuilder;
import org.openjdk.jmh.runner.options.OptionsBuilder;
import org.openjdk.jmh.runner.options.TimeValue;

/** Runs all measurements, or those whose names match the words given. */
public final class Main {

  private Main() {}

  public static void main(String[] args) throws RunnerException {
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
