package flarvo.tools.soak;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A few kills of the real window; {@code ./flarvo soak} makes as many as it is told. */
class SoakTest {

  private static final Path DEMO =
      Path.of("..", "demo", "meridian", "project.json").toAbsolutePath().normalize();

  @TempDir Path dir;

  @Test
  void killsWhileSavingAndSendingLoseNothing() throws Exception {
    assertThat(new KilledWindow(true, 2, 11).run(dir, DEMO).faults()).isEmpty();
  }

  @Test
  void losesAreNoticed() throws Exception {
    Site site = Site.in(Files.createDirectories(dir.resolve("shot")), dir.resolve("home"), DEMO);
    assertThat(site.faults(List.of())).isEmpty();
    assertThat(site.faults(List.of("k000007"))).containsExactly("edit k000007 is lost");

    Path sent = Files.createDirectories(site.folder().resolve("deliveries"));
    Files.writeString(sent.resolve("cut.usda"), "#usda 1.0\ndef Xform \"a\" {\n");
    assertThat(site.faults(List.of())).hasSize(1).first().asString().contains("not whole");

    Files.writeString(sent.resolve(".flarvo-1-2-3.part"), "");
    assertThat(site.litter()).hasSize(1);

    Files.writeString(site.project(), "{", StandardCharsets.UTF_8);
    assertThat(site.faults(List.of())).anyMatch(f -> f.contains("does not open"));
  }
}
