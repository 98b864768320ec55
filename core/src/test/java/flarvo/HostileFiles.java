package flarvo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.report.InputError;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.Random;
import java.util.function.Consumer;
import java.util.function.IntPredicate;
import org.junit.jupiter.api.Assertions;

/** What every reader must bear: its file cut off at 200 places, and garbled 10,000 times. */
public final class HostileFiles {

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
      Files.write(file, Arrays.copyOf(whole, cut));
      if (harmless.test(cut)) {
        continue;
      }
      assertThatThrownBy(() -> reader.accept(file))
          .as("cut at %d of %d", cut, whole.length)
          .isInstanceOf(InputError.class)
          .hasMessageContaining(file.toString());
    }
  }

  /** Each ends in one error of one line, or in something read, within two seconds. */
  public static void garbled(byte[] whole, Path file, Consumer<Path> reader) throws IOException {
    Random random = new Random(7);
    for (int i = 0; i < 10_000; i++) {
      byte[] bad = whole.clone();
      for (int k = 0; k < 1 + random.nextInt(6); k++) {
        bad[random.nextInt(bad.length)] = mutation(random);
      }
      Files.write(file, bad);
      Assertions.assertTimeoutPreemptively(
          Duration.ofSeconds(2),
          () -> {
            try {
              reader.accept(file);
            } catch (InputError expected) {
              assertThat(expected.getMessage()).doesNotContain("\n");
            }
          });
    }
  }

  private static byte mutation(Random r) {
    byte[] likely = "{}[]()\":,*#=0-9eN\n\0\u007f".getBytes(StandardCharsets.UTF_8);
    return r.nextBoolean() ? likely[r.nextInt(likely.length)] : (byte) r.nextInt(256);
  }
}
