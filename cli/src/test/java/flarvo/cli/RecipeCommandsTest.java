package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.recipe.Recipe;
import flarvo.recipe.ShotResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.OptionalDouble;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A recipe made of the demo's first shot, and the whole demo through it. */
class RecipeCommandsTest {

  private static final Path MERIDIAN = Path.of("../demo/meridian");

  @TempDir private Path dir;

  private Path recipe() {
    Path r = dir.resolve("show.json");
    Said s =
        run(
            "recipe",
            MERIDIAN.resolve("project.json"),
            "--shot",
            "mer_010_terrace",
            "--proposals",
            "--out",
            r);
    assertThat(s.code()).as(s.err()).isZero();
    assertThat(s.out()).contains("3 deliveries").contains("kept: level by hand");
    return r;
  }

  @Test
  void theDemoGoesThroughARecipe() throws Exception {
    Path recipe = recipe();
    Path out = dir.resolve("out");
    Path page = dir.resolve("report.html");
    Path data = dir.resolve("report.json");
    Said s =
        run(
            "run",
            recipe,
            "--shots",
            MERIDIAN + "/mer_0[23]*",
            "--within",
            "incoming",
            "--within",
            "plates",
            "--out",
            out,
            "--report",
            page,
            "--report",
            data);
    assertThat(s.code()).as(s.out() + s.err()).isZero();
    assertThat(s.out())
        .contains("mer_020_dome", "mer_030_cart", "3 of 3 sent and proven", "2 shots: 2 hold")
        .doesNotContain("terrace");
    assertThat(out.resolve("mer_020_dome_engine.fbx")).exists();
    assertThat(Files.readString(page))
        .doesNotContain("Needs attention")
        .contains("<h1>Meridian</h1>", "mer_030_cart_comp.csv", "holds: 0.00")
        .doesNotContain("<script", "http:", "https:", "class=\"bad\"");
    JsonNode n = new ObjectMapper().readTree(data.toFile());
    assertThat(n.path("shots")).hasSize(2);
    assertThat(n.path("shots").get(0).path("deliveries").get(0).path("driftPx").asDouble())
        .isLessThan(0.01);
    // What was decided is said, and what was lost.
    assertThat(n.path("shots").get(0).path("decisions").get(0).path("title").asText())
        .isEqualTo("accept all proposals");
    assertThat(n.path("shots").get(0).path("losses")).isNotEmpty();
    Said again =
        run(
            "run",
            recipe,
            "--shots",
            MERIDIAN + "/mer_0[23]*",
            "--within",
            "incoming",
            "--within",
            "plates",
            "--out",
            out,
            "--json");
    assertThat(again.json().path("shots")).hasSize(2);
    for (JsonNode shot : again.json().path("shots")) {
      assertThat(shot.path("deliveries")).allMatch(d -> d.path("fresh").asBoolean());
    }
  }

  /** The worst shot makes the exit code, and the others are done. */
  @Test
  void theWorstShotMakesTheExitCode() throws Exception {
    Path recipe = recipe();
    Files.createDirectories(dir.resolve("shots/empty"));
    Said s =
        run(
            "run",
            recipe,
            "--shots",
            dir.resolve("shots/*"),
            MERIDIAN.resolve("mer_030_cart/incoming"),
            "--out",
            dir.resolve("out"));
    assertThat(s.code()).as(s.err()).isEqualTo(ExitCode.BAD_INPUT);
    assertThat(s.out()).contains("1 holds, 1 failed").contains("nothing in this folder");
    String text = Files.readString(recipe);
    Files.writeString(
        recipe,
        text.replace("\"accept-proposals\"", "\"rule\", \"fact\": \"unit\", \"text\": \"m\""));
    Said open =
        run(
            "run",
            recipe,
            "--shots",
            MERIDIAN.resolve("mer_030_cart/incoming"),
            "--out",
            dir.resolve("out2"));
    assertThat(open.code()).as(open.out()).isEqualTo(ExitCode.DOES_NOT_HOLD);
    assertThat(open.out()).contains("open question").contains("Proposed:");
  }

  @Test
  void whatCannotBeRunIsSaidAtOnce() {
    Path recipe = recipe();
    Path out = dir.resolve("o");
    assertThat(run("run", recipe, "--shots", dir.resolve("none*"), "--out", out).err())
        .contains("matches no folder");
    assertThat(run("run", dir.resolve("x.json"), "--shots", dir, "--out", out).code())
        .isEqualTo(ExitCode.BAD_INPUT);
    Said report = run("run", recipe, "--shots", dir, "--out", out, "--report", "r.txt");
    assertThat(report.err()).contains(".html or .json");
    assertThat(run("run", recipe, "--shots", dir, "--out", out, "--jobs", "0").err())
        .contains("--jobs");
    assertThat(out).doesNotExist();
    assertThat(run("recipe", MERIDIAN.resolve("project.json"), "--shot", "no", "--out", out).err())
        .contains("no shot 'no'", "mer_010_terrace");
  }

  @Test
  void thePageSpellsNamesAsText() {
    ShotResult r =
        new ShotResult(
            "<b>&\"",
            ShotResult.State.FAILED,
            "<script>",
            List.of(),
            List.of(
                new ShotResult.Sent("<i>", "a<b", false, false, "x & y", OptionalDouble.empty())),
            List.of("<u>"),
            1);
    String page = RunPage.of(new Recipe("A <P>", List.of(), List.of(), 0.01), List.of(r));
    assertThat(page)
        .contains("<h2>Needs attention</h2>", "<a href=\"#s0\">", "id=\"s0\"")
        .contains("&lt;b&gt;&amp;&quot;", "&lt;script&gt;", "A &lt;P&gt;", "&lt;u&gt;", "a&lt;b")
        .doesNotContain("<script>", "<b>", "<u>", "<i>");
  }

  /**
   * The job's own scripts, started as a scheduler would, with names that a shell would trip over.
   */
  @Test
  void aJobIsOneTaskAShotAndGathersWhatBecameOfThem() throws Exception {
    Path launcher = dir.resolve("start it");
    Files.writeString(
        launcher,
        "#!/bin/sh\nexec java -cp "
            + BatchJob.quoted(System.getProperty("java.class.path"))
            + " flarvo.cli.Main \"$@\"\n");
    assertThat(launcher.toFile().setExecutable(true)).isTrue();
    Path shots = dir.resolve("it's a [show]");
    for (String name : List.of("sh 010", "sh020", "sh030")) {
      Files.createDirectories(shots.resolve(name));
    }
    try (Stream<Path> cart = Files.list(MERIDIAN.resolve("mer_030_cart/incoming"))) {
      for (Path f : cart.toList()) {
        Files.copy(f, shots.resolve("sh 010").resolve(f.getFileName()));
      }
    }
    Path out = dir.resolve("out put");
    Path page = dir.resolve("all.html");
    System.setProperty("flarvo.launcher", launcher.toString());
    Said s;
    try {
      s =
          run(
              "run",
              recipe(),
              "--shots",
              shots.resolve("sh 010"),
              shots.resolve("sh020"),
              shots.resolve("sh030"),
              "--out",
              out,
              "--report",
              page,
              "--submit",
              "none");
    } finally {
      System.clearProperty("flarvo.launcher");
    }
    assertThat(s.code()).as(s.err()).isZero();
    Path job = out.resolve(".flarvo-run/jobs/1");
    assertThat(s.out()).contains(job.toString(), "submit.sh");
    assertThat(Files.readString(job.resolve("task.sh"))).contains("#SBATCH --array=1-3");
    // The third is never started: its task was killed.
    assertThat(shell(job.resolve("task.sh"), "1")).isZero();
    assertThat(shell(job.resolve("task.sh"), "2")).isEqualTo(ExitCode.BAD_INPUT);
    assertThat(shell(job.resolve("gather.sh"), "")).isEqualTo(ExitCode.BAD_INPUT);
    Said gathered = run("gather", job);
    assertThat(gathered.out())
        .contains("sh 010", "3 of 3 sent and proven", "nothing in this folder")
        .contains("left no report", "3 shots: 1 holds, 2 failed");
    assertThat(Files.readString(page)).contains("sh 010", "left no report");
    assertThat(out.resolve("sh_010_engine.fbx")).exists();
    // A report that was cut off is one that is not there.
    Files.writeString(job.resolve("results/1.json"), "{\"shots\": [");
    assertThat(run("gather", job).out()).contains("cannot be read", "3 failed");
    assertThat(run("gather", dir).err()).contains("no folder of a job");
  }

  private static int shell(Path script, String task) throws Exception {
    ProcessBuilder b = new ProcessBuilder("sh", script.toString());
    b.environment().put("SLURM_ARRAY_TASK_ID", task);
    b.redirectErrorStream(true).redirectOutput(ProcessBuilder.Redirect.DISCARD);
    Process p = b.start();
    assertThat(p.waitFor(120, TimeUnit.SECONDS)).isTrue();
    return p.exitValue();
  }
}
