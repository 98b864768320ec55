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
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The commands that vet a solve and make one, on the demo's shots. */
class VetCommandTest {

  private static final Path TERRACE = Path.of("../demo/meridian/mer_010_terrace");
  private static final Path SOLVE = TERRACE.resolve("solve/mer_010_terrace_solve.usda");
  private static final Path TRACKS = TERRACE.resolve("incoming/mer_010_terrace_tracks.csv");
  private static final Path DOME = Path.of("../demo/meridian/mer_020_dome/incoming");

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
  void aSolveIsMeasuredAndItsFirstFrameFound() throws Exception {
    assertThat(run("vet", SOLVE, "--tracks", TRACKS, "--size", "960x540", "--json")).isZero();
    assertThat(err.toString()).contains("assumed firstFrame=1001");
    JsonNode n = json();
    assertThat(n.path("kind").asText()).isEqualTo("free");
    assertThat(n.path("rmsPx").asDouble())
        .isGreaterThan(1)
        .isEqualTo(n.path("rmsPxBefore").asDouble());
    assertThat(n.path("maxPx").asDouble()).isGreaterThan(n.path("rmsPx").asDouble());
    assertThat(n.path("culled")).isEmpty();
    assertThat(n.path("perFrame")).hasSize(96);
    assertThat(n.path("perFrame").get(0).path("frame").asInt()).isEqualTo(1001);
    assertThat(n.path("perFrame").get(0).path("live").asInt()).isGreaterThan(8);
    assertThat(n.path("perTracker")).hasSize(113);
    assertThat(n.path("perTracker").get(0).fieldNames())
        .toIterable()
        .contains("name", "rmsPx", "maxPx", "live");
  }

  @Test
  void theBoundedActionReachesItsTargetAndWritesWhatItMade() throws Exception {
    Path made = dir.resolve("refined.usda");
    assertThat(
            run(
                "vet",
                SOLVE,
                "--tracks",
                TRACKS,
                "--size",
                "960x540",
                "--target",
                "0.35",
                "--out",
                made,
                "--json"))
        .isZero();
    assertThat(json().path("rmsPx").asDouble()).isLessThanOrEqualTo(0.35);
    assertThat(json().path("culled")).hasSize(12);
    assertThat(err.toString()).contains("round 1");
    assertThat(run("vet", made, "--tracks", TRACKS, "--size", "960x540", "--json")).isZero();
    assertThat(json().path("rmsPx").asDouble()).isLessThanOrEqualTo(0.35);
    assertThat(json().path("perTracker")).hasSize(101);
  }

  @Test
  void aLimitCullsAndWhatDoesNotHoldIsOne() throws Exception {
    assertThat(run("vet", SOLVE, "--tracks", TRACKS, "--size", "960x540", "--limit", "3", "--json"))
        .isZero();
    int gone = json().path("culled").size();
    assertThat(gone).isBetween(3, 11);
    assertThat(run("vet", SOLVE, "--tracks", TRACKS, "--size", "960x540", "--target", "0.01"))
        .isEqualTo(1);
    assertThat(err.toString()).contains("not reached");
  }

  @Test
  void aPanIsATripod() throws Exception {
    assertThat(
            run(
                "vet",
                DOME.resolve("mer_020_dome_camera.abc"),
                DOME.resolve("mer_020_dome_points.csv"),
                DOME.resolve("mer_020_dome_log.txt"),
                "--tracks",
                DOME.resolve("mer_020_dome_tracks.tsv"),
                "--refine",
                "--json"))
        .as(err.toString())
        .isZero();
    assertThat(json().path("kind").asText()).isEqualTo("tripod");
    assertThat(json().path("rmsPx").asDouble()).isLessThan(0.35);
  }

  @Test
  void aSolveComesFromTracksAloneWithItsFocalLength() throws Exception {
    Path made = dir.resolve("made.fbx");
    assertThat(
            run(
                "solve",
                "--tracks",
                TRACKS,
                "--size",
                "960x540",
                "--film-back",
                "23.76x13.365",
                "--out",
                made,
                "--json"))
        .isZero();
    assertThat(json().path("kind").asText()).isEqualTo("free");
    assertThat(json().path("rmsPx").asDouble()).isLessThan(0.35);
    assertThat(json().path("focalLengthMm").asDouble()).isCloseTo(17.5, within(0.35));
    assertThat(json().path("culled").size()).isBetween(10, 14);
    assertThat(run("vet", made, "--tracks", TRACKS, "--size", "960x540", "--json")).isZero();
    assertThat(json().path("rmsPx").asDouble()).isLessThan(0.4);
  }

  /** Where nothing was seen a camera is interpolated, which no one should take for solved. */
  @Test
  void interpolatedFramesAreNamedAndDoNotHold() throws Exception {
    Path gap = dir.resolve("gap.csv");
    List<String> lines = Files.readAllLines(TRACKS);
    Files.write(gap, lines.stream().filter(l -> !l.matches("[^,]*,104[0-3],.*")).toList());
    assertThat(Files.readAllLines(gap)).hasSizeLessThan(lines.size() - 100);
    Object[] words = {
      "solve",
      "--tracks",
      gap,
      "--size",
      "960x540",
      "--film-back",
      "23.76x13.365",
      "--focal",
      "17.5",
      "--out",
      dir.resolve("gap.usda")
    };
    assertThat(run(words)).isEqualTo(1);
    assertThat(out.toString()).contains("frames 1040–1043.");
    assertThat(dir.resolve("gap.usda")).exists();
    Object[] asJson = Arrays.copyOf(words, words.length + 1);
    asJson[words.length] = "--json";
    asJson[words.length - 1] = dir.resolve("again.usda");
    assertThat(run(asJson)).as(err.toString()).isEqualTo(1);
    assertThat(json().path("interpolatedFrames").toString()).isEqualTo("[[1040,1043]]");
    assertThat(json().path("rmsPx").asDouble()).isLessThan(0.4);
  }

  @Test
  void wrongWordsAndEmptyTracksAreOneLine() throws Exception {
    Path few = dir.resolve("few.csv");
    Files.writeString(few, "tracker,frame,x,y\na,1,10,10\na,2,12,10\nb,1,30,30\nb,2,31,33\n");
    Object[][] bad = {
      {"vet", SOLVE, "--size", "960x540"},
      {"vet", SOLVE, "--tracks", TRACKS, "--size", "960x540", "--limit", "-1"},
      {"vet", SOLVE, "--tracks", TRACKS, "--size", "960x540", "--rule", "nothing=1"},
      {
        "solve",
        "--tracks",
        few,
        "--size",
        "960x540",
        "--film-back",
        "24x13",
        "--out",
        dir.resolve("out.usda")
      },
      {
        "solve",
        "--tracks",
        few,
        "--size",
        "960x540",
        "--film-back",
        "24x13",
        "--focal",
        "0",
        "--out",
        dir.resolve("out.usda")
      },
    };
    for (Object[] words : bad) {
      assertThat(run(words)).as(Arrays.toString(words)).isEqualTo(2);
      assertThat(err.toString().strip().lines()).hasSize(1);
      assertThat(err.toString()).startsWith("flarvo: ").doesNotContain("Exception");
    }
    assertThat(dir.resolve("out.usda")).doesNotExist();
  }
}
