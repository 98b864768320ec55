package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import flarvo.project.UserFolder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A table that says nothing of its sender. */
class SenderCommandTest {

  private static final Path SOLVE =
      Path.of("../demo/meridian/mer_010_terrace/solve/mer_010_terrace_solve.usda");

  @TempDir private Path dir;

  private String before;

  @BeforeEach
  void ownHome() {
    before = System.getProperty(UserFolder.PROPERTY);
    System.setProperty(UserFolder.PROPERTY, dir.resolve("home").toString());
  }

  @AfterEach
  void home() {
    if (before == null) {
      System.clearProperty(UserFolder.PROPERTY);
    } else {
      System.setProperty(UserFolder.PROPERTY, before);
    }
  }

  private Path unknown() throws IOException {
    Path table = dir.resolve("camera.csv");
    assertThat(run("convert", SOLVE, "--to", "engine-zup-left-cm", "--out", table).code()).isZero();
    for (Path p : new Path[] {table, dir.resolve("camera.trackers.csv")}) {
      Files.write(p, Files.readAllLines(p).stream().filter(l -> !l.startsWith("#")).toList());
    }
    return table;
  }

  @Test
  void theWholeDialectIsFoundAgainstASolveKeptAndUsed() throws IOException {
    Path table = unknown();
    String[] ask = {
      "sender", table.toString(), "--evidence", SOLVE.toString(), "--size", "960x540"
    };
    Said s = run(with(ask, "--save", "layout-left", "--json"));
    assertThat(s.code()).as(s.err()).isZero();
    JsonNode d = s.json().get("dialect");
    assertThat(s.json().get("errorPx").asDouble()).isLessThan(0.01);
    assertThat(s.json().get("plainErrorPx").asDouble()).isGreaterThan(50);
    assertThat(d.at("/world/right").asText()).isEqualTo("+Y");
    assertThat(d.at("/world/up").asText()).isEqualTo("+Z");
    assertThat(d.at("/world/away").asText()).isEqualTo("+X");
    assertThat(d.at("/unit").asText()).isEqualTo("cm");
    assertThat(s.json().get("alike").toString()).as(s.out()).contains("engine-zup-left-cm");
    assertThat(dir.resolve("home/dialects/layout-left.json")).exists();

    // From now on its name is as good as a shipped one.
    assertThat(run("dialects").out()).contains("layout-left");
    Path back = dir.resolve("back.usda");
    Said c =
        run(
            "convert",
            table,
            "--from",
            "layout-left",
            "--to",
            "comp-yup",
            "--size",
            "960x540",
            "--out",
            back);
    assertThat(c.code()).as(c.err()).isZero();
    Said same = run("suspects", back, "--evidence", SOLVE, "--size", "960x540", "--json");
    assertThat(same.json().get("errorPx").asDouble()).isLessThan(0.01);

    assertThat(run(with(ask, "--save", "layout-left")).err()).contains("--overwrite");
    assertThat(run(with(ask, "--save", "comp-yup")).err()).contains("shipped dialect");
    assertThat(run(with(ask, "--save", "../x")).err()).contains("no name for a dialect");
    Files.writeString(dir.resolve("home/dialects/broken.json"), "{");
    assertThat(run("dialects").out()).contains("left out").contains("broken.json");
    assertThat(run("convert", table, "--from", "broken", "--to", "comp-yup", "--out", back).err())
        .contains("broken.json");
  }

  private static Object[] with(String[] some, String... more) {
    Object[] all = new Object[some.length + more.length];
    System.arraycopy(some, 0, all, 0, some.length);
    System.arraycopy(more, 0, all, some.length, more.length);
    return all;
  }
}
