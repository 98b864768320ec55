package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.desktop.window.ProblemReport;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Supplier;
import org.junit.jupiter.api.Test;

/** A problem report says what helps, and nothing of whose machine it is. */
class ProblemReportTest extends WindowHarness {

  @Test
  void theReportHasTheShotAndNoPaths() throws Exception {
    AtomicReference<Supplier<String>> report = new AtomicReference<>();
    onWindow(
        () -> {
          session.message().set("Cannot read " + dir.resolve("sub/secret.usda"));
          report.set(new ProblemReport(session).text());
        });
    String text = report.get().get();
    assertThat(text)
        .contains("Java " + System.getProperty("java.version"))
        .contains("Shot: frames " + session.solved().frames())
        .contains("Preferences[")
        .contains("Cannot read <project>/sub/secret.usda")
        .contains("Rule")
        .doesNotContain(dir.toString())
        .doesNotContain(System.getProperty("user.home") + "/");
  }
}
