package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;

import flarvo.report.Printable;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Words that are made to stall, to hang or to change what a terminal shows. */
class HostileWordsTest {

  @TempDir private Path dir;

  @ParameterizedTest
  @ValueSource(
      strings = {"1e-9999999", "1e9999999", "0.0000000000000000000000000000000000000000001"})
  void aRateOfMillionsOfDigitsIsRefusedAtOnce(String rate) throws IOException {
    Path table = dir.resolve("c.csv");
    Files.writeString(
        table,
        "# rate: "
            + rate
            + "\n# rotation order: XYZ\nframe,tx,ty,tz,rx,ry,rz,focal_mm,film_width_mm,film_height_mm\n"
            + "1,0,0,0,0,0,0,35,36,24\n");
    Path scene = dir.resolve("s.json");
    Files.writeString(
        scene, "{\"schema\": \"flarvo-scene\", \"version\": 1, \"rate\": \"" + rate + "\"}");
    Assertions.assertTimeoutPreemptively(
        Duration.ofSeconds(20),
        () -> {
          assertThat(run("inspect", table).code()).isEqualTo(ExitCode.BAD_INPUT);
          assertThat(run("inspect", scene).code()).isEqualTo(ExitCode.BAD_INPUT);
          Said option = run("convert", table, "--out", dir.resolve("o.json"), "--rate", rate);
          assertThat(option.code()).isEqualTo(ExitCode.BAD_INPUT);
          assertThat(option.err()).contains("rate").hasSizeLessThan(300);
        });
  }

  @Test
  void aPipeIsNoFile() throws Exception {
    Path pipe = dir.resolve("p.usda");
    int made = new ProcessBuilder("mkfifo", pipe.toString()).start().waitFor();
    org.junit.jupiter.api.Assumptions.assumeTrue(made == 0);
    Assertions.assertTimeoutPreemptively(
        Duration.ofSeconds(20),
        () -> {
          Said said = run("inspect", pipe);
          assertThat(said.code()).isEqualTo(ExitCode.BAD_INPUT);
          assertThat(said.err()).contains("pipe or a device");
        });
  }

  @Test
  void controlsInNamesAreSpelledOut() {
    StringWriter shown = new StringWriter();
    PrintWriter out = new PrintWriter(new PlainText(shown), true);
    out.print("cam\u001b[2Jera\u202e \u009b31m\ttab");
    out.printf("%s%n", "\u0007");
    out.flush();
    assertThat(shown.toString())
        .isEqualTo("cam\\u001b[2Jera\\u202e \\u009b31m\ttab\\u0007" + System.lineSeparator());
    assertThat(Printable.of("Größe 日本 é")).isEqualTo("Größe 日本 é");
  }

  @Test
  void framesThatNoNumberHoldsAreRefused() throws IOException {
    Path table = dir.resolve("c.csv");
    Files.writeString(
        table,
        "# rotation order: XYZ\nframe,tx,ty,tz,rx,ry,rz,focal_mm,film_width_mm,film_height_mm\n"
            + "1,0,0,0,0,0,0,35,36,24\n2,0,0,0,0,0,0,35,36,24\n");
    Said far =
        run(
            "convert",
            table,
            "--out",
            dir.resolve("o.json"),
            "--to",
            "comp-yup",
            "--size",
            "1920x1080",
            "--first-frame",
            "2147483647");
    assertThat(far.code()).isEqualTo(ExitCode.BAD_INPUT);
    assertThat(far.err()).contains("--first-frame").doesNotContain("internal");
    Said ruled = run("ledger", table, "--rule", "firstFrame=2147483647");
    assertThat(ruled.err()).contains("too far").doesNotContain("internal");
  }

  @Test
  void aRotationThatIsNoneHasItsPlace() throws IOException {
    Path stage = dir.resolve("s.usda");
    Files.writeString(
        stage,
        "#usda 1.0\ndef Camera \"c\" { quatd xformOp:orient = (0, 0, 0, 0)\n"
            + " uniform token[] xformOpOrder = [\"xformOp:orient\"] }\n");
    assertThat(run("inspect", stage).err())
        .contains("</c.xformOp:orient>", "not a rotation")
        .doesNotContain("internal");
  }
}
