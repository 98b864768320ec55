package flarvo.cli;

import flarvo.work.Progress;
import java.util.function.Function;
import me.tongfei.progressbar.ConsoleProgressBarConsumer;
import me.tongfei.progressbar.ProgressBar;
import me.tongfei.progressbar.ProgressBarBuilder;
import me.tongfei.progressbar.ProgressBarStyle;
import picocli.CommandLine.Option;

/** Progress with the time that is left, on standard error where that is a terminal. */
final class ProgressOption {

  /** Set by the launcher, which knows where standard error goes. */
  static final String TERMINAL = "flarvo.terminal";

  private static final int INTERVAL_MS = 200;

  @Option(
      names = {"-q", "--quiet"},
      description = "show no progress")
  private boolean quiet;

  /** Runs something that may take long; Ctrl+C ends it. */
  <T> T run(String title, Function<Progress, T> work) {
    if (quiet || !Boolean.getBoolean(TERMINAL)) {
      return work.apply(new Interruptible());
    }
    try (ProgressBar bar =
        new ProgressBarBuilder()
            .setTaskName(title)
            .setStyle(ProgressBarStyle.ASCII)
            .setUpdateIntervalMillis(INTERVAL_MS)
            .setConsumer(new ConsoleProgressBarConsumer(System.err))
            .clearDisplayOnFinish()
            .build()) {
      return work.apply(new Shown(bar));
    }
  }

  private static class Interruptible implements Progress {
    @Override
    public void at(long done, long total) {}

    @Override
    public boolean isCancelled() {
      return Interrupt.isAsked();
    }
  }

  private static final class Shown extends Interruptible {
    private final ProgressBar bar;

    Shown(ProgressBar bar) {
      this.bar = bar;
    }

    @Override
    public void at(long done, long total) {
      bar.maxHint(total > 0 ? total : -1);
      bar.stepTo(done);
    }
  }
}
