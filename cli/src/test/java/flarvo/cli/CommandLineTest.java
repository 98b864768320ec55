package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** The words, keys, columns and exit codes that scripts rely on. */
class CommandLineTest {

  private static final Path SOLVE =
      Path.of("../demo/meridian/mer_010_terrace/solve/mer_010_terrace_solve.usda");

  @TempDir private Path dir;

  private void refused(Said r, String... hints) throws IOException {
    assertThat(r.code()).as(r.out() + r.err()).isEqualTo(2);
    assertThat(r.err().strip().lines()).hasSize(1);
    assertThat(r.err()).startsWith("flarvo: ").contains(hints);
    assertThat(r.err()).doesNotContain("Exception", "internal error");
    try (Stream<Path> left = Files.list(dir)) {
      assertThat(left.filter(f -> f.getFileName().toString().contains("out")))
          .as("nothing is written")
          .isEmpty();
    }
  }

  @Test
  void inspectTellsWhatAFileClaims() {
    JsonNode n = run("inspect", SOLVE, "--json").json();
    assertThat(n.get("format").asText()).isEqualTo("usd-text");
    assertThat(n.get("claims").get("rate").asText()).isEqualTo("24000/1001");
    assertThat(n.get("claims").get("firstFrame").asInt()).isZero();
    assertThat(n.get("claims").get("lastFrame").asInt()).isEqualTo(95);
    assertThat(n.get("claims").get("upAxis").asText()).isEqualTo("+Z");
    assertThat(n.get("claims").get("handedness").asText()).isEqualTo("right");
    assertThat(n.get("claims").get("metresPerUnit").asDouble()).isEqualTo(1);
    assertThat(n.get("claims").get("imageWidth").asInt()).isEqualTo(960);
    JsonNode c = n.get("cameras").get(0);
    assertThat(c.get("keys").asInt()).isEqualTo(96);
    assertThat(c.get("filmBackMm").get(0).asDouble()).isCloseTo(23.76, within(1e-5));
    assertThat(c.get("focalLengthMm").get(1).asDouble()).isCloseTo(17.5, within(1e-5));
    assertThat(n.get("trackers").asInt()).isGreaterThan(100);
    assertThat(n.has("locators") && n.has("planes") && n.has("meshes")).isTrue();
    assertThat(n.get("warnings").isArray()).isTrue();
    assertThat(run("inspect", SOLVE).out()).contains("terrace_cam");
  }

  @Test
  void inspectKnowsPlates() {
    JsonNode n =
        run("inspect", "../demo/meridian/mer_010_terrace/plates/original", "--json").json();
    assertThat(n.get("plates").get(0).get("pattern").asText()).isEqualTo("terrace.####.jpg");
    assertThat(n.get("claims").get("lastFrame").asInt()).isEqualTo(1096);
  }

  @Test
  void dialectsAreListedWithTheirConventions() {
    JsonNode list = run("dialects", "--json").json();
    assertThat(list).hasSizeGreaterThan(10);
    for (JsonNode d : list) {
      assertThat(d.hasNonNull("name") && d.hasNonNull("up") && d.hasNonNull("handedness")).isTrue();
      assertThat(d.get("metresPerUnit").asDouble()).isPositive();
      assertThat(d.has("firstFrame")).isTrue();
    }
    assertThat(run("dialects").out()).contains("engine-zup-left-cm");
  }

  @ParameterizedTest
  @CsvSource({
    "usda,1e-4",
    "usdc,1e-4",
    "usdz,1e-4",
    "fbx,0.005",
    "abc,1e-6",
    "glb,0.005",
    "gltf,0.005",
    "csv,1e-6"
  })
  void whatIsConvertedProvesAndGivesTheSamePixels(String extension, double limit)
      throws IOException {
    Path out = dir.resolve("d." + extension);
    Said made = run("convert", SOLVE, "--out", out, "--to", "anim-zup-cm", "--first-frame", "101");
    assertThat(made.code()).as(made.err()).isZero();
    Said proof = run("prove", SOLVE, out, "--to", "anim-zup-cm", "--first-frame", "101", "--json");
    JsonNode n = proof.json();
    assertThat(proof.code()).as(proof.out()).isZero();
    assertThat(n.get("holds").asBoolean()).isTrue();
    assertThat(n.get("maxDriftPx").asDouble()).isLessThan(limit);
    assertThat(n.has("rmsDriftPx") && n.has("worstFrame") && n.has("worstTracker")).isTrue();
    assertThat(n.get("checks").get(0).has("expected")).isTrue();
    assertThat(n.get("losses").isArray()).isTrue();
    Map<String, double[]> before = pixels(SOLVE, 0, "track-zup");
    Map<String, double[]> after = pixels(out, 101, "anim-zup-cm");
    assertThat(after.keySet()).isEqualTo(before.keySet());
    for (Map.Entry<String, double[]> e : before.entrySet()) {
      double[] p = after.get(e.getKey());
      assertThat(Math.hypot(p[0] - e.getValue()[0], p[1] - e.getValue()[1])).isLessThan(limit);
      assertThat(p[2]).isCloseTo(e.getValue()[2], within(1e-4));
    }
  }

  private Map<String, double[]> pixels(Path file, int first, String dialect) throws IOException {
    Path csv = dir.resolve("px.csv");
    Said r =
        run("pixels", file, "--size", "960x540", "--dialect", dialect, "--out", csv, "--overwrite");
    assertThat(r.code()).as(r.err()).isZero();
    List<String> lines = Files.readAllLines(csv);
    assertThat(lines.get(0)).isEqualTo("frame,tracker,x,y,depth");
    Map<String, double[]> map = new HashMap<>();
    for (String l : lines.subList(1, lines.size())) {
      String[] p = l.split(",", -1);
      if (!p[2].isEmpty()) {
        map.put(
            Integer.parseInt(p[0]) - first + "/" + p[1],
            new double[] {
              Double.parseDouble(p[2]), Double.parseDouble(p[3]), Double.parseDouble(p[4])
            });
      }
    }
    return map;
  }

  @Test
  void aDeliveryThatDoesNotHoldExitsWithOne() throws IOException {
    Path out = dir.resolve("bad.usda");
    run("convert", SOLVE, "--out", out, "--to", "anim-yup-m");
    Files.writeString(
        out, Files.readString(out).replace("focalLength = 0.175", "focalLength = 0.176"));
    Said r = run("prove", SOLVE, out, "--to", "anim-yup-m", "--json");
    assertThat(r.code()).isEqualTo(1);
    assertThat(r.json().get("holds").asBoolean()).isFalse();
    assertThat(r.json().get("maxDriftPx").asDouble()).isGreaterThan(1);
    String page = dir.resolve("report.html").toString();
    assertThat(run("prove", SOLVE, out, "--to", "anim-yup-m", "--report", page).code())
        .isEqualTo(1);
    assertThat(dir.resolve("report.json")).content().contains("\"holds\" : false");
    assertThat(run("prove", SOLVE, out, "--to", "anim-yup-m", "--report", page).err())
        .contains("the file exists");
    assertThat(run("prove", SOLVE, out, "--to", "anim-yup-m", "--limit", "100").code()).isZero();
  }

  @Test
  void onlyTheCameraOrOnlyTheTrackers() throws IOException {
    Path out = dir.resolve("c.fbx");
    run("convert", SOLVE, "--out", out, "--to", "anim-yup-cm", "--only", "camera");
    assertThat(run("inspect", out, "--json").json().get("trackers").asInt()).isZero();
    Path points = dir.resolve("t.usda");
    run("convert", SOLVE, "--out", points, "--to", "anim-yup-cm", "--only", "trackers");
    assertThat(run("inspect", points, "--json").json().get("cameras")).isEmpty();
  }

  /**
   * What is delivered alone is proven by what it is: through the source's camera, or by its points.
   */
  @ParameterizedTest
  @CsvSource({"trackers,csv", "trackers,usda", "trackers,fbx", "camera,csv", "camera,glb"})
  void aPartIsProvenAloneAndAFaultInItIsSeen(String what, String format) throws IOException {
    Path out = dir.resolve("part." + format);
    assertThat(run("convert", SOLVE, "--out", out, "--to", "anim-yup-cm", "--only", what).out())
        .contains("wrote");
    Said r = run("prove", SOLVE, out, "--to", "anim-yup-cm", "--only", what, "--json");
    assertThat(r.json().get("compared").asInt()).as(r.out()).isGreaterThan(1000);
    assertThat(r.code()).as(r.out()).isZero();
    Said whole = run("prove", SOLVE, out, "--to", "anim-yup-cm", "--json");
    assertThat(whole.code()).as("the other part is missing").isEqualTo(1);
    if (!format.equals("glb")) { // its unit is metres, whatever the dialect
      Said moved = run("prove", SOLVE, out, "--to", "anim-yup-m", "--only", what, "--json");
      assertThat(moved.code()).as("read in another unit").isEqualTo(1);
    }
  }

  @Test
  void aTableOfTrackersAloneIsTheFileItself() throws IOException {
    Path out = dir.resolve("points.csv");
    run("convert", SOLVE, "--out", out, "--to", "anim-yup-cm", "--only", "trackers");
    assertThat(Files.readString(out)).contains("tracker,x,y,z");
    assertThat(dir.resolve("points.trackers.csv")).doesNotExist();
    assertThat(run("inspect", out, "--json").json().get("trackers").asInt()).isEqualTo(113);
  }

  /** Plates of every kind that is read. */
  @ParameterizedTest
  @ValueSource(strings = {"exr", "tif", "png"})
  void inspectKnowsASinglePicture(String kind) throws IOException {
    Path file = dir.resolve("plate.1001." + kind);
    TestPictures.write(file, 64, 36);
    JsonNode n = run("inspect", file, "--json").json();
    assertThat(n.get("plates").get(0).get("firstFrame").asInt()).isEqualTo(1001);
    assertThat(n.get("claims").get("imageWidth").asInt()).isEqualTo(64);
  }

  @Test
  void whatWasAssumedAndWrittenIsSaid() {
    Path out = dir.resolve("level.usda");
    Said r = run("level", SOLVE, "--guess", "--out", out);
    assertThat(r.out())
        .contains("wrote " + out)
        .contains("--to was not given")
        .contains("unconstrained, kept as guessed");
  }

  // ---- bad input: one clear line, exit code 2, nothing written ----

  private Said convert(Path in) {
    return run(
        "convert",
        in,
        "--out",
        dir.resolve("out.usda"),
        "--to",
        "anim-yup-cm",
        "--size",
        "960x540");
  }

  private Path given(String text) throws IOException {
    Path f = dir.resolve("given.usda");
    Files.writeString(f, text);
    return f;
  }

  private static final String CAMERA =
      "#usda 1.0\n( %s )\ndef Camera \"cam\" {\n  float focalLength = 35\n  %s\n"
          + "  double3 xformOp:translate.timeSamples = { %s }\n"
          + "  uniform token[] xformOpOrder = [\"xformOp:translate\"]\n}\n";

  @Test
  void missingAndEmptyFiles() throws IOException {
    refused(convert(dir.resolve("none.usda")), "none.usda", "file not found");
    refused(convert(given("")), "given.usda", "empty");
    refused(convert(dir), "nothing in this folder");
    refused(run("inspect", dir.resolve("none.fbx")), "file not found");
    refused(
        run("pixels", dir.resolve("no.csv"), "--out", dir.resolve("out.csv")), "file not found");
    refused(run("prove", SOLVE, dir.resolve("no.usda"), "--to", "anim-yup-cm"), "file not found");
  }

  @Test
  void filesCutOffAtTwentyPlaces() throws IOException {
    for (String e : new String[] {"usda", "fbx", "csv"}) {
      Path whole = dir.resolve("whole." + e);
      run("convert", SOLVE, "--out", whole, "--to", "anim-yup-cm");
      byte[] bytes = Files.readAllBytes(whole);
      Path cut = dir.resolve("cut." + e);
      for (int i = 1; i <= 20; i++) {
        Files.write(cut, Arrays.copyOf(bytes, (int) ((long) bytes.length * i / 21)));
        refused(convert(cut), "cut." + e);
      }
    }
  }

  @Test
  void aCameraWithoutFilmBackAndAValueThatIsNoNumber() throws IOException {
    refused(convert(given(CAMERA.formatted("", "", "1: (0,0,0)"))), "cam", "film back");
    refused(
        convert(
            given(
                CAMERA.formatted("", "float horizontalAperture = 36", "1: (0,0,0), 2: (0,nan,0)"))),
        "xformOp:translate",
        "at time 2");
  }

  @Test
  void zeroFramesNegativeUnitsAndBrokenRates() throws IOException {
    String film = "float horizontalAperture = 36";
    refused(convert(given(CAMERA.formatted("", film, ""))), "zero frames");
    refused(
        convert(given(CAMERA.formatted("startTimeCode = 5 endTimeCode = 1", film, "1: (0,0,0)"))),
        "zero frames");
    refused(
        convert(given(CAMERA.formatted("metersPerUnit = -0.01", film, "1: (0,0,0)"))),
        "metersPerUnit");
    refused(
        convert(given(CAMERA.formatted("timeCodesPerSecond = 0", film, "1: (0,0,0)"))),
        "timeCodesPerSecond");
    Path out = dir.resolve("out.usda");
    refused(run("convert", SOLVE, "--out", out, "--to", "anim-yup-cm", "--rate", "0/0"), "0/0");
  }

  @Test
  void wrongWords() throws IOException {
    Path out = dir.resolve("out.usda");
    refused(run("convert", SOLVE, "--out", out, "--to", "martian"), "martian", "anim-yup-cm");
    refused(run("convert", SOLVE, "--out", dir.resolve("out.xyz"), "--to", "comp-yup"), "out.xyz");
    refused(run("convert", SOLVE, "--out", out), "--to");
    refused(run("pixels", SOLVE, "--size", "wide", "--out", out), "wide");
    refused(run("pixels", SOLVE, "--frames", "90-200", "--out", out), "0-95");
    refused(run("pixels", SOLVE, "--camera", "other", "--out", out), "terrace_cam");
    refused(run("juggle"), "juggle");
    refused(run(), "command");
    refused(run("convert", SOLVE, "--out", out, "--to", "comp-yup", "--film-back", "36"), "36x24");
  }

  // ---- words that change what is made ----

  @Test
  void secondsAreKeptOnRequest() throws IOException {
    Path out = dir.resolve("s.usda");
    Said r =
        run(
            "convert",
            SOLVE,
            "--out",
            out,
            "--to",
            "anim-yup-cm",
            "--rate",
            "30",
            "--keep-seconds",
            "--first-frame",
            "1");
    assertThat(r.code()).as(r.err()).isZero();
    JsonNode n = run("inspect", out, "--json").json();
    assertThat(n.get("claims").get("rate").asText()).isEqualTo("30");
    // 95 intervals at 24000/1001 last 3.9623 s, which are 118.87 intervals at 30.
    assertThat(n.get("claims").get("lastFrame").asInt()).isEqualTo(119);
    assertThat(r.out()).contains("resampled");
  }

  @Test
  void framesAreKeptOtherwiseAndTheRateIsOnlyStated() throws IOException {
    Path out = dir.resolve("k.fbx");
    run("convert", SOLVE, "--out", out, "--to", "anim-yup-cm", "--rate", "25");
    JsonNode n = run("inspect", out, "--json").json();
    assertThat(n.get("claims").get("rate").asText()).isEqualTo("25");
    assertThat(n.get("cameras").get(0).get("keys").asInt()).isEqualTo(96);
    assertThat(n.get("cameras").get(0).get("offGridKeys").asInt()).isZero();
    assertThat(run("prove", SOLVE, out, "--to", "anim-yup-cm", "--rate", "25", "--json").code())
        .isZero();
    assertThat(run("prove", SOLVE, out, "--to", "anim-yup-cm", "--json").code()).isEqualTo(1);
  }

  @Test
  void aFilmBackIsGivenWhereTheFileHasNone() throws IOException {
    Path in = given(CAMERA.formatted("", "", "1: (0,0,0), 2: (1,0,0)"));
    Path out = dir.resolve("given-back.usda");
    Said r =
        run(
            "convert",
            in,
            "--out",
            out,
            "--to",
            "anim-yup-cm",
            "--size",
            "1920x1080",
            "--film-back",
            "36x24");
    assertThat(r.code()).as(r.err()).isZero();
    JsonNode c = run("inspect", out, "--json").json().get("cameras").get(0);
    assertThat(c.get("filmBackMm").get(0).asDouble()).isCloseTo(36, within(1e-4));
    assertThat(c.get("filmBackMm").get(1).asDouble()).isCloseTo(20.25, within(1e-4));
  }

  @Test
  void severalFilesMakeOneShot() throws IOException {
    Path camera = dir.resolve("cam.usda");
    Path points = dir.resolve("pts.fbx");
    run("convert", SOLVE, "--out", camera, "--to", "comp-yup", "--only", "camera");
    run("convert", SOLVE, "--out", points, "--to", "comp-yup", "--only", "trackers");
    Path out = dir.resolve("both.usda");
    Said r =
        run(
            "convert",
            camera,
            points,
            "../demo/meridian/mer_010_terrace/incoming/mer_010_terrace_tracks.csv",
            "--out",
            out,
            "--to",
            "anim-zup-m");
    assertThat(r.code()).as(r.err()).isZero();
    assertThat(r.out()).contains("2D tracks");
    Said proof = run("prove", SOLVE, out, "--to", "anim-zup-m", "--json");
    assertThat(proof.code()).as(proof.out()).isZero();
  }

  @Test
  void aDialectOfOnesOwnIsAFile() throws IOException {
    Path own = dir.resolve("ours.json");
    Files.writeString(
        own,
        "{\"name\":\"ours\",\"world\":{\"right\":\"-Y\",\"up\":\"+Z\",\"away\":\"+X\"},"
            + "\"unit\":\"foot\",\"frames\":{\"first\":7}}");
    Path out = dir.resolve("o.usda");
    assertThat(run("convert", SOLVE, "--out", out, "--to", own).code()).isZero();
    JsonNode n = run("inspect", out, "--json").json();
    assertThat(n.get("claims").get("upAxis").asText()).isEqualTo("+Z");
    assertThat(n.get("claims").get("metresPerUnit").asDouble()).isEqualTo(0.3048);
    assertThat(n.get("claims").get("firstFrame").asInt()).isEqualTo(7);
    assertThat(run("prove", SOLVE, out, "--to", own).code()).isZero();
  }

  @Test
  void severalFilesAreInspectedAsAList() {
    JsonNode n = run("inspect", SOLVE, SOLVE, "--json").json();
    assertThat(n.isArray()).isTrue();
    assertThat(n).hasSize(2);
  }

  @Test
  void aProofForEyesNamesEveryCheck() {
    Path out = dir.resolve("e.usda");
    run("convert", SOLVE, "--out", out, "--to", "engine-zup-left-cm");
    String text = run("prove", SOLVE, out, "--to", "engine-zup-left-cm").out();
    assertThat(text).startsWith("holds").contains("handedness", "firstFrame", "changed:");
  }

  private static final Path INCOMING = Path.of("../demo/meridian/mer_010_terrace/incoming");

  /** Tracks of other names than any point, as features of the plates are. */
  @Test
  void theLedgerMeasuresOnWhatIsGivenWhereNoTracksCame() throws Exception {
    Path camera = INCOMING.resolve("mer_010_terrace_camera.fbx");
    Path log = INCOMING.resolve("mer_010_terrace_log.txt");
    Path plates = INCOMING.resolveSibling("plates/undistorted");
    JsonNode without = run("ledger", camera, log, plates, "--json").json();
    assertThat(without.findValues("errorPx")).isEmpty();
    List<String> tracks =
        new ArrayList<>(Files.readAllLines(INCOMING.resolve("mer_010_terrace_tracks.csv")));
    tracks.replaceAll(t -> t.startsWith("tracker") ? t : "feature_" + t);
    Path features = Files.write(dir.resolve("features.csv"), tracks);

    JsonNode with = run("ledger", camera, log, plates, "--evidence", features, "--json").json();

    for (JsonNode c : with.get("conflicts")) {
      if (c.get("fact").asText().equals("filmBack")) {
        assertThat(c.get("proposal").asText()).isEqualTo("23.76x13.365");
        assertThat(c.get("evidence").get(0).get("ruling").asText()).isEqualTo("23.76x13.365");
      }
      if (c.get("fact").asText().equals("firstFrame")) {
        assertThat(c.get("evidence").get(0).get("ruling").asText()).isEqualTo("1001");
      }
    }
    assertThat(with.findValues("errorPx").size()).isGreaterThan(3);
    Said twice = run("ledger", INCOMING, "--evidence", plates);
    assertThat(twice.code()).isEqualTo(2);
    assertThat(twice.err()).contains("2D tracks of their own").contains("--evidence");
  }

  @Test
  void theLedgerTellsWhatContradictsAndProposes() throws Exception {
    Said d = run("ledger", INCOMING, "--json");
    assertThat(d.code()).isEqualTo(1);
    JsonNode n = d.json();
    assertThat(n.get("conflicts"))
        .extracting(c -> c.get("fact").asText() + "=" + c.get("proposal").asText())
        .containsExactly(
            "rate=24000/1001", "firstFrame=1001", "upAxis=+Z", "unit=m", "filmBack=23.76x13.365");
    JsonNode film = n.get("conflicts").get(4).get("evidence");
    assertThat(film.get(0).get("errorPx").asDouble()).isLessThan(0.5);
    assertThat(film.get(1).get("errorPx").asDouble()).isGreaterThan(10);
    Said ruled =
        run(
            "ledger",
            INCOMING,
            "--rule",
            "rate=24000/1001",
            "--rule",
            "firstFrame=1001",
            "--rule",
            "upAxis=+Z",
            "--rule",
            "unit=m",
            "--rule",
            "filmBack=23.76x13.365");
    assertThat(ruled.code()).isZero();
    assertThat(ruled.out()).contains("ruled: 24000/1001").contains("not stated (assumed)");
    refused(run("ledger", INCOMING, "--rule", "rate=soon"), "is not a rate");
    refused(run("ledger", INCOMING, "--rule", "colour=red"), "no fact 'colour'");
  }

  @Test
  void fbxIsBinaryUnlessTextIsAskedFor() throws Exception {
    Path binary = dir.resolve("b.fbx");
    Path text = dir.resolve("t.fbx");
    assertThat(run("convert", SOLVE, "--out", binary, "--to", "anim-yup-cm").code()).isZero();
    assertThat(run("convert", SOLVE, "--out", text, "--to", "anim-yup-cm", "--fbx-text").code())
        .isZero();
    assertThat(run("inspect", binary, "--json").json().get("format").asText())
        .isEqualTo("fbx-binary");
    assertThat(run("inspect", text, "--json").json().get("format").asText()).isEqualTo("fbx-text");
  }

  @Test
  void geometryIsPrintedForComparing() throws Exception {
    JsonNode n = run("inspect", SOLVE, "--json", "--geometry").json();
    assertThat(n.get("points")).hasSize(n.get("trackers").asInt());
    JsonNode pose = n.get("cameras").get(0).get("poses").get(0);
    double length = 0;
    for (JsonNode x : pose.get("view")) {
      length += x.asDouble() * x.asDouble();
    }
    assertThat(length).isCloseTo(1, org.assertj.core.api.Assertions.within(1e-12));
  }

  @Test
  void anInputIsNeverWrittenOver() throws IOException {
    Path copy = Files.copy(SOLVE, dir.resolve("solve.usda"));
    byte[] before = Files.readAllBytes(copy);
    Said r = run("convert", copy, "--from", "track-zup", "--to", "anim-yup-m", "--out", copy);
    assertThat(r.code()).isEqualTo(2);
    assertThat(r.err()).contains("one of the inputs");
    Path link = Files.createSymbolicLink(dir.resolve("link.usda"), copy);
    assertThat(
            run("convert", copy, "--from", "track-zup", "--to", "anim-yup-m", "--out", link).code())
        .isEqualTo(2);
    assertThat(Files.readAllBytes(copy)).isEqualTo(before);
  }

  @Test
  void aTakeThatIsNotThereIsNamed() {
    Said r =
        run(
            "convert",
            SOLVE,
            "--from",
            "track-zup",
            "--take",
            "second",
            "--to",
            "anim-yup-m",
            "--out",
            dir.resolve("x.usda"));
    assertThat(r.code()).isEqualTo(2);
    assertThat(r.err()).contains("there is no take 'second'");
  }

  @Test
  void aLimitIsOverZero() {
    Path out = dir.resolve("limit.usda");
    run("convert", SOLVE, "--from", "track-zup", "--to", "anim-yup-m", "--out", out);
    for (String limit : new String[] {"0", "-1", "NaN", "Infinity"}) {
      Said r =
          run("prove", SOLVE, out, "--from", "track-zup", "--to", "anim-yup-m", "--limit", limit);
      assertThat(r.code()).as(limit).isEqualTo(2);
    }
  }

  /** What is given against a file that states otherwise is said, and does not hold. */
  @Test
  void aSizeThatContradictsTheFileIsSaid() {
    Path out = dir.resolve("size.usda");
    Said sent =
        run(
            "convert",
            SOLVE,
            "--from",
            "track-zup",
            "--size",
            "1000x500",
            "--to",
            "anim-yup-m",
            "--out",
            out);
    assertThat(sent.out()).contains("it states a picture of 960x540; read as 1000x500");
    Said proof =
        run(
            "prove",
            SOLVE,
            out,
            "--from",
            "track-zup",
            "--size",
            "1000x500",
            "--to",
            "anim-yup-m",
            "--json");
    assertThat(proof.code()).isEqualTo(1);
    assertThat(proof.out()).contains("sourcePicture");
  }
}
