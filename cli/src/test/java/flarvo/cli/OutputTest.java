package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What commands write and do not write over; a camera alone and points alone are proven too. */
class OutputTest {

  private static final String HEAD =
      "#usda 1.0\n(\n startTimeCode = 1\n endTimeCode = 9\n framesPerSecond = 24\n"
          + " timeCodesPerSecond = 24\n metersPerUnit = 1\n upAxis = \"Y\"\n)\n";

  @TempDir private Path dir;
  private Path camera;
  private Path points;

  @BeforeEach
  void files() throws IOException {
    camera =
        Files.writeString(
            dir.resolve("camera.usda"),
            HEAD
                + """
                def Camera "cam" {
                    double3 xformOp:translate.timeSamples = { 1: (0, 1, 5), 9: (4, 2, 5) }
                    double xformOp:rotateY.timeSamples = { 1: 0, 9: 40 }
                    uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:rotateY"]
                    float focalLength = 0.3
                    float horizontalAperture = 0.36
                    float verticalAperture = 0.2025
                }
                """);
    points =
        Files.writeString(
            dir.resolve("points.usda"),
            HEAD
                + """
                def Xform "a" {
                    double3 xformOp:translate = (0, 1, 5)
                    uniform token[] xformOpOrder = ["xformOp:translate"]
                }
                def Xform "b" {
                    double3 xformOp:translate = (2, -1, 3)
                    uniform token[] xformOpOrder = ["xformOp:translate"]
                }
                """);
  }

  private Said convert(Path from, Path to, Object... more) {
    Object[] words = {"convert", from, "--out", to, "--to", "comp-yup", "--size", "1920x1080"};
    Object[] all = Arrays.copyOf(words, words.length + more.length);
    System.arraycopy(more, 0, all, words.length, more.length);
    return run(all);
  }

  private Said prove(Path from, Path to, String size) {
    return run("prove", from, to, "--to", "comp-yup", "--size", size);
  }

  @Test
  void whatExistsIsKeptUnlessItIsToBeReplaced() throws IOException {
    Path out = Files.writeString(dir.resolve("out.fbx"), "mine");
    Said refused = convert(camera, out);
    assertThat(refused.code()).isEqualTo(ExitCode.BAD_INPUT);
    assertThat(refused.err()).contains("out.fbx", "exists", "--overwrite");
    assertThat(out).hasContent("mine");
    assertThat(convert(camera, out, "--overwrite").code()).isZero();
    assertThat(Files.size(out)).isGreaterThan(1000);
    assertThat(convert(camera, camera, "--overwrite").err()).contains("one of the inputs");
  }

  /** A table of a camera brings a table of trackers along. */
  @Test
  void theNeighbourOfATableIsKeptToo() throws IOException {
    Path beside = Files.writeString(dir.resolve("t.trackers.csv"), "mine");
    Said said =
        run(
            "convert",
            camera,
            points,
            "--out",
            dir.resolve("t.csv"),
            "--to",
            "comp-yup",
            "--size",
            "1920x1080");
    assertThat(said.code()).as(said.out()).isEqualTo(ExitCode.BAD_INPUT);
    assertThat(said.err()).contains("t.trackers.csv", "exists");
    assertThat(beside).hasContent("mine");
    assertThat(dir.resolve("t.csv")).doesNotExist();
  }

  @Test
  void missingFoldersAreMadeAndSaid() {
    Path out = dir.resolve("new/deep/out.usda");
    Said said = convert(camera, out);
    assertThat(said.code()).as(said.err()).isZero();
    assertThat(said.out()).contains("made folder " + out.getParent());
    assertThat(out).exists();
  }

  @Test
  void jsonSaysWhatWasWrittenAndLost() throws IOException {
    Said said = convert(camera, dir.resolve("c.glb"), "--json");
    JsonNode n = said.json();
    assertThat(n.get("format").asText()).isEqualTo("gltf-binary");
    assertThat(n.get("cameras").get(0).asText()).isEqualTo("cam");
    assertThat(n.get("lastFrame").asInt() - n.get("firstFrame").asInt()).isEqualTo(8);
    assertThat(n.get("losses").isArray()).isTrue();
  }

  @ParameterizedTest
  @ValueSource(strings = {"usd-text", "fbx-text", "gltf-text", "scene-json"})
  void standardOutputGetsTheSameBytesAsAFile(String format) throws IOException {
    String ending =
        switch (format) {
          case "usd-text" -> ".usda";
          case "fbx-text" -> ".fbx";
          case "gltf-text" -> ".gltf";
          default -> ".json";
        };
    Path file = dir.resolve("same" + ending);
    assertThat(convert(camera, file, "--format", format).code()).isZero();
    PrintStream before = System.out;
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    Said said;
    try {
      System.setOut(new PrintStream(bytes, true, StandardCharsets.UTF_8));
      said = convert(camera, Path.of("-"), "--format", format);
    } finally {
      System.setOut(before);
    }
    assertThat(said.code()).as(said.err()).isZero();
    assertThat(said.out()).isEmpty();
    assertThat(said.err()).contains("wrote standard output");
    assertThat(bytes.toByteArray()).isEqualTo(Files.readAllBytes(file));
  }

  @Test
  void standardOutputNeedsAFormatAndOneFile() {
    assertThat(convert(camera, Path.of("-")).err()).contains("--format");
    Said two =
        run(
            "convert",
            camera,
            points,
            "--out",
            "-",
            "--format",
            "table",
            "--to",
            "comp-yup",
            "--size",
            "1920x1080");
    assertThat(two.err()).contains("more than one file");
  }

  /** Without trackers the camera is measured on points in its own view, and that is said. */
  @ParameterizedTest
  @ValueSource(strings = {"usdc", "fbx", "abc", "glb", "json"})
  void aCameraAloneIsProven(String ending) throws IOException {
    Path out = dir.resolve("c." + ending);
    assertThat(convert(camera, out).code()).isZero();
    Said proof = prove(camera, out, "1920x1080");
    assertThat(proof.code()).as(proof.out()).isZero();
    assertThat(proof.out()).contains("points placed in its view").doesNotContain("NaN");
    // Turned by a hundredth of a degree from the middle on: about a third of a pixel.
    Path turned =
        Files.writeString(
            dir.resolve("turned.usda"),
            Files.readString(camera).replace("{ 1: 0, 9: 40 }", "{ 1: 0, 5: 20.01, 9: 40 }"));
    Path spoiled = dir.resolve("s." + ending);
    assertThat(convert(turned, spoiled).code()).isZero();
    assertThat(prove(camera, spoiled, "1920x1080").code()).isEqualTo(ExitCode.DOES_NOT_HOLD);
  }

  @ParameterizedTest
  @CsvSource({"usdc", "fbx", "abc", "glb", "json", "csv"})
  void pointsAloneAreProven(String ending) throws IOException {
    Path out = dir.resolve("p." + ending);
    Said made = run("convert", points, "--out", out, "--to", "comp-yup");
    assertThat(made.code()).as(made.err()).isZero();
    Said proof = run("prove", points, out, "--to", "comp-yup");
    assertThat(proof.code()).as(proof.out() + proof.err()).isZero();
    assertThat(proof.out()).contains("positions").doesNotContain("NaN");
    Path moved =
        Files.writeString(
            dir.resolve("moved.usda"),
            Files.readString(points).replace("(2, -1, 3)", "(2, -1, 3.001)"));
    Path spoiled = dir.resolve("s." + ending);
    assertThat(run("convert", moved, "--out", spoiled, "--to", "comp-yup").code()).isZero();
    Said no = run("prove", points, spoiled, "--to", "comp-yup");
    assertThat(no.code()).as(no.out()).isEqualTo(ExitCode.DOES_NOT_HOLD);
  }

  @Test
  void convertAndProveSayTheSameLosses() throws IOException {
    Path zoom =
        Files.writeString(
            dir.resolve("zoom.usda"),
            Files.readString(camera)
                .replace(
                    "float focalLength = 0.3",
                    "float focalLength.timeSamples = { 1: 0.3, 9: 0.5 }"));
    Path out = dir.resolve("zoom.glb");
    JsonNode made = convert(zoom, out, "--json").json();
    JsonNode proof =
        new ObjectMapper()
            .readTree(
                run("prove", zoom, out, "--to", "comp-yup", "--size", "1920x1080", "--json").out());
    assertThat(made.get("losses").toString()).contains("held at the first frame");
    for (JsonNode loss : made.get("losses")) {
      assertThat(proof.get("losses")).contains(loss);
    }
    assertThat(proof.get("holds").asBoolean()).isFalse();
  }

  @Test
  void theCameraThatIsTakenIsSaid() throws IOException {
    Path two =
        Files.writeString(
            dir.resolve("two.usda"),
            Files.readString(camera)
                + Files.readString(camera)
                    .substring(HEAD.length())
                    .replace("\"cam\"", "\"second\""));
    Said said = run("pixels", two, "--size", "1920x1080", "--out", dir.resolve("px.csv"));
    assertThat(said.code()).as(said.err()).isZero();
    assertThat(said.err()).contains("camera: cam, the first of 2");
  }
}
