package flarvo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.report.InputError;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Random;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Consumer;
import java.util.function.IntPredicate;

/** What every reader must bear: its file cut off at 200 places, and garbled 10,000 times. */
public final class HostileFiles {

  private static final long LONGEST_NANOS = 10_000_000_000L;

  private HostileFiles() {}

  /**
   * @param file is written over and over
   * @param harmless whether cutting there loses nothing
   */
  public static void cutOff(byte[] whole, Path file, IntPredicate harmless, Consumer<Path> reader)
      throws IOException {
    int last = whole.length;
    while (Character.isWhitespace(whole[last - 1])) {
      last--; // only line ends may be missing
    }
    for (int i = 1; i <= 200; i++) {
      int cut = (int) ((long) (last - 1) * i / 200);
      write(file, Arrays.copyOf(whole, cut));
      if (harmless.test(cut)) {
        continue;
      }
      assertThatThrownBy(() -> reader.accept(file))
          .as("cut at %d of %d", cut, whole.length)
          .isInstanceOf(InputError.class)
          .hasMessageContaining(file.toString());
    }
  }

  /** Each ends in one error of one line, or in something read; none takes long. */
  public static void garbled(byte[] whole, Path file, Consumer<Path> reader) throws IOException {
    AtomicInteger at = new AtomicInteger();
    AtomicReference<Throwable> failed = new AtomicReference<>();
    Thread sweep =
        new Thread(
            () -> {
              try {
                sweep(whole, file, reader, at);
              } catch (Throwable t) {
                failed.set(t);
              }
            },
            "sweep");
    sweep.setDaemon(true);
    sweep.start();
    watch(sweep, at);
    if (failed.get() != null) {
      throw new AssertionError("mutation " + at.get(), failed.get());
    }
  }

  private static void sweep(byte[] whole, Path file, Consumer<Path> reader, AtomicInteger at)
      throws IOException {
    Random random = new Random(7);
    for (int i = 0; i < 10_000; i++) {
      at.set(i);
      byte[] bad = whole.clone();
      for (int k = 0; k < 1 + random.nextInt(6); k++) {
        bad[random.nextInt(bad.length)] = mutation(random);
      }
      write(file, bad);
      try {
        reader.accept(file);
      } catch (InputError expected) {
        assertThat(expected.getMessage()).doesNotContain("\n");
      }
    }
  }

  /** As a new file: cutting an old one short makes some file systems wait for the disk. */
  public static void write(Path file, byte[] bytes) throws IOException {
    Files.deleteIfExists(file);
    Files.write(file, bytes);
  }

  /** One reading that does not end fails the test; a machine that is busy does not. */
  private static void watch(Thread sweep, AtomicInteger at) {
    int last = -1;
    long since = System.nanoTime();
    try {
      while (sweep.isAlive()) {
        sweep.join(100);
        if (at.get() != last) {
          last = at.get();
          since = System.nanoTime();
        } else if (sweep.isAlive() && System.nanoTime() - since > LONGEST_NANOS) {
          throw new AssertionError("mutation " + last + " is read for over 10 s");
        }
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new AssertionError(e);
    }
  }

  private static byte mutation(Random r) {
    byte[] likely = "{}[]()\":,*#=0-9eN\n\0\u007f".getBytes(StandardCharsets.UTF_8);
    return r.nextBoolean() ? likely[r.nextInt(likely.length)] : (byte) r.nextInt(256);
  }
}
