package flarvo.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A shot is levelled, sent and proven without a window. */
class LevelCommandTest {

  private static final Path TERRACE = Path.of("../demo/meridian/mer_010_terrace");
  private static final Path SOLVE = TERRACE.resolve("solve/mer_010_terrace_solve.usda");
  private static final Path TRACKS = TERRACE.resolve("incoming/mer_010_terrace_tracks.csv");

  @TempDir private Path dir;

  private final StringWriter out = new StringWriter();
  private final StringWriter err = new StringWriter();

  private int run(Object... words) {
    out.getBuffer().setLength(0);
    err.getBuffer().setLength(0);
    String[] args = Arrays.stream(words).map(Object::toString).toArray(String[]::new);
    return Main.run(new PrintWriter(out), new PrintWriter(err), args);
  }

  private JsonNode json() throws Exception {
    return new ObjectMapper().readTree(out.toString());
  }

  @Test
  void statementsLevelSendAndProve() throws Exception {
    Path said = dir.resolve("said.json");
    Files.writeString(
        said,
        """
        [ {"says": "at", "trackers": ["t020"], "place": [0, 0, 0]},
          {"says": "ground", "trackers": ["t002", "t003", "t007", "t012", "t018", "t025"]},
          {"says": "along", "trackers": ["t002", "t003"], "axis": "+X"},
          {"says": "distance", "trackers": ["t002", "t003"], "metres": 0.6} ]
        """);
    Path levelled = dir.resolve("levelled.usda");
    assertThat(
            run(
                "level",
                SOLVE,
                "--tracks",
                TRACKS,
                "--size",
                "960x540",
                "--statements",
                said,
                "--out",
                levelled,
                "--json"))
        .as(err.toString())
        .isZero();
    JsonNode n = json();
    assertThat(n.path("residuals")).hasSize(4);
    assertThat(n.path("residuals").get(3).path("metres").asDouble()).isLessThan(0.001);
    assertThat(n.path("residuals").get(0).path("px").asDouble()).isLessThan(1);
    assertThat(n.path("free")).isEmpty();
    assertThat(n.path("scale").asDouble()).isCloseTo(2.6, within(0.02));
    assertThat(n.path("upError").asDouble()).isBetween(0.0, 0.5);
    Path level = dir.resolve("level.json");
    Files.writeString(level, out.toString());
    Path sent = dir.resolve("sent.fbx");
    assertThat(run("convert", SOLVE, "--to", "engine-zup-left-cm", "--level", level, "--out", sent))
        .isZero();
    assertThat(run("prove", SOLVE, sent, "--to", "engine-zup-left-cm", "--level", level, "--json"))
        .isZero();
    assertThat(json().path("maxDriftPx").asDouble()).isLessThan(0.005);
    // Proven against another level it does not hold.
    assertThat(run("prove", SOLVE, sent, "--to", "engine-zup-left-cm")).isEqualTo(1);
  }

  @Test
  void theGroundIsGuessed() throws Exception {
    assertThat(run("level", SOLVE, "--tracks", TRACKS, "--size", "960x540", "--guess", "--json"))
        .isZero();
    assertThat(json().path("wrong")).isEmpty();
    assertThat(run("level", SOLVE, "--guess")).isZero();
    assertThat(out.toString()).contains("lie on a plane under the camera");
  }

  @Test
  void whatCannotBeSaysWhy() throws Exception {
    Path said = dir.resolve("said.json");
    assertThat(run("level", SOLVE)).isEqualTo(2);
    assertThat(err.toString()).contains("either --statements or --guess");
    for (String bad :
        new String[] {
          "[]",
          "{",
          "[{\"says\": \"sideways\"}]",
          "[{\"says\": \"along\", \"trackers\": [\"a\"], \"axis\": \"+X\"}]",
          "[{\"says\": \"along\", \"trackers\": [\"a\", \"b\"], \"axis\": \"up\"}]",
          "[{\"says\": \"at\", \"trackers\": [\"a\"], \"place\": [1, 2]}]"
        }) {
      Files.writeString(said, bad);
      assertThat(run("level", SOLVE, "--statements", said)).as(bad).isEqualTo(2);
      assertThat(err.toString()).contains("said.json");
    }
    Files.writeString(
        said, "[{\"says\": \"distance\", \"trackers\": [\"t001\", \"t001\"], \"metres\": 1}]");
    assertThat(run("level", SOLVE, "--statements", said)).isEqualTo(1);
    assertThat(out.toString()).contains("both ends");
  }
}
