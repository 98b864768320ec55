package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A Java machine of its own, from its start to the first window. */
class StartupTest {

  private static final Pattern SAID = Pattern.compile("first window after (\\d+) ms");

  private static final long LIMIT_MILLIS = 3000;

  @TempDir private Path dir;

  /** The best of a few: the machines that run this are shared, and only ever add time. */
  @Test
  void theFirstWindowIsThereWithinThreeSeconds() throws IOException {
    Path project = DemoProject.in(dir);
    long best = Long.MAX_VALUE;
    for (int i = 0; i < 6 && best > LIMIT_MILLIS; i++) {
      best = Math.min(best, start(project));
    }
    assertThat(best).isLessThanOrEqualTo(LIMIT_MILLIS);
  }

  private static long start(Path project) throws IOException {
    Process p =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:+UseZGC",
                "-cp",
                System.getProperty("java.class.path"),
                "flarvo.desktop.Main",
                project.toString())
            .redirectErrorStream(true)
            .start();
    try (BufferedReader in =
        new BufferedReader(new InputStreamReader(p.getInputStream(), StandardCharsets.UTF_8))) {
      for (String line = in.readLine(); line != null; line = in.readLine()) {
        Matcher m = SAID.matcher(line);
        if (m.find()) {
          return Long.parseLong(m.group(1));
        }
      }
      throw new IOException("the window never came");
    } finally {
      p.destroy();
    }
  }
}
