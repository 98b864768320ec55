package flarvo.fuzz;

import flarvo.report.InputError;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.lang.management.ManagementFactory;
import java.lang.management.ThreadMXBean;
import java.nio.file.Files;
import java.nio.file.Path;

/** What the fuzzer calls. In a process of its own, for one reader. */
public final class ReaderTarget {

  /** A small file that takes longer is a finding, in nanoseconds of this thread's CPU time. */
  private static final long LONGEST = 2_000_000_000L;

  private static final ThreadMXBean THREADS = ManagementFactory.getThreadMXBean();

  private static Reader reader;
  private static Path file;

  private ReaderTarget() {}

  /**
   * Called once.
   *
   * @param arguments the reader's name and a folder to work in
   */
  public static void fuzzerInitialize(String[] arguments) {
    reader = Reader.of(arguments[0]);
    file = Path.of(arguments[1]).resolve("in" + reader.extension());
  }

  /** Called for each input. */
  public static void fuzzerTestOneInput(byte[] data) {
    try {
      Files.write(file, data);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    // The first time may be slow because classes are loaded.
    long spent = timed();
    if (spent > LONGEST) {
      spent = timed();
    }
    if (spent > LONGEST) {
      throw new IllegalStateException("took " + spent / 1_000_000 + " ms");
    }
  }

  private static long timed() {
    long before = THREADS.getCurrentThreadCpuTime();
    try {
      reader.read().accept(file);
    } catch (InputError e) {
      requireClear(e);
    }
    return THREADS.getCurrentThreadCpuTime() - before;
  }

  /** A clear error is one printable line, and not the words of a library. */
  private static void requireClear(InputError e) {
    if (e.getMessage().codePoints().anyMatch(Character::isISOControl)) {
      throw new IllegalStateException("control characters in: " + e.getMessage(), e);
    }
    Throwable from = e.getCause();
    boolean trusted =
        from == null
            || from instanceof IllegalArgumentException
            || from instanceof IOException
            || from instanceof InputError;
    boolean foreign =
        !trusted && from.getMessage() != null && e.reason().contains(from.getMessage());
    if (e.reason().isBlank() || e.reason().equals("null") || foreign) {
      throw new IllegalStateException("no sentence for a user: " + e.getMessage(), e);
    }
  }
}
