package flarvo.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectShot;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Path;
import java.util.Arrays;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A shot's decisions made again, without a window. */
class ReplayCommandTest {

  private static final Path MERIDIAN = Path.of("../demo/meridian");
  private static final Path PROJECT = MERIDIAN.resolve("project.json");
  private static final Path SECOND =
      MERIDIAN.resolve("mer_010_terrace/second/mer_010_terrace_v2.usdc");

  @TempDir private Path dir;

  private final StringWriter out = new StringWriter();
  private final StringWriter err = new StringWriter();

  private int run(Object... words) {
    out.getBuffer().setLength(0);
    err.getBuffer().setLength(0);
    String[] args = Arrays.stream(words).map(Object::toString).toArray(String[]::new);
    return Main.run(new PrintWriter(out), new PrintWriter(err), args);
  }

  @Test
  void theSameFilesGiveWhatIsStored() throws Exception {
    assertThat(run("replay", PROJECT, "--shot", "mer_020_dome", "--json"))
        .as("%s", err)
        .isEqualTo(ExitCode.HOLDS);
    JsonNode n = new ObjectMapper().readTree(out.toString());
    assertThat(n.path("sameAsStored").asBoolean()).isTrue();
    assertThat(n.path("complete").asBoolean()).isTrue();
    assertThat(n.path("decisions")).hasSizeGreaterThan(5);
    assertThat(n.path("decisions").get(0).path("decision").asText()).isEqualTo("rule");
  }

  /** Written into another folder, the project keeps its other shots and finds all its files. */
  @Test
  void ontoAnotherSolveIntoAProjectOfItsOwn() {
    Path to = dir.resolve("v2/project.json");
    assertThat(run("replay", PROJECT, "--shot", "mer_010_terrace", "--onto", SECOND, "--out", to))
        .as("%s %s", out, err)
        .isEqualTo(ExitCode.HOLDS);
    assertThat(out.toString()).contains("aligned by", "px RMS", "wrote ");
    ProjectFile written = ProjectFile.read(to);
    assertThat(written.shots())
        .extracting(ProjectShot::name)
        .containsExactly("mer_010_terrace", "mer_020_dome", "mer_030_cart", "mer_050_carts");
    assertThat(written.shots().get(0).files()).anyMatch(f -> f.endsWith("_v2.usdc"));
    assertThat(run("replay", to)).as("%s %s", out, err).isEqualTo(ExitCode.HOLDS);
    assertThat(out.toString()).contains("same as stored");
    assertThat(run("replay", to, "--shot", "mer_020_dome")).isEqualTo(ExitCode.HOLDS);
  }

  @Test
  void badWordsAreOneLine() {
    assertThat(run("replay", PROJECT, "--shot", "mer_999")).isEqualTo(2);
    assertThat(err.toString().lines()).hasSize(1);
    assertThat(err.toString()).contains("no shot 'mer_999'", "mer_020_dome");
    assertThat(run("replay", dir.resolve("none.json"))).isEqualTo(2);
  }
}
