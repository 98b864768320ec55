package flarvo.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.plate.PlateFinder;
import flarvo.scene.PlateSequence;
import flarvo.trace.Mask;
import flarvo.trace.MaskJson;
import flarvo.trace.MaskShape;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Plates alone, on the command line. */
class TraceCommandsTest {

  private static final Path DEMO = Path.of("../demo/meridian");
  private static final int FRAMES = 24;

  @TempDir Path dir;
  private Path plates;
  private final StringWriter out = new StringWriter();
  private final StringWriter err = new StringWriter();

  @BeforeEach
  void someFrames() throws Exception {
    PlateSequence p = PlateFinder.find(DEMO.resolve("mer_010_terrace/plates/original")).get(0);
    plates = Files.createDirectories(dir.resolve("plates"));
    for (int f = p.frames().first(); f < p.frames().first() + FRAMES; f++) {
      Files.copy(p.file(f), plates.resolve(p.file(f).getFileName()));
    }
  }

  private int run(Object... words) {
    out.getBuffer().setLength(0);
    err.getBuffer().setLength(0);
    return Main.run(
        new PrintWriter(out),
        new PrintWriter(err),
        Stream.of(words).map(Object::toString).toArray(String[]::new));
  }

  @Test
  void tracesAreATableThatSolves() throws Exception {
    Path tracks = dir.resolve("tracks.csv");
    assertThat(run("trace", plates, "--out", tracks, "--json", "-q")).isZero();
    JsonNode n = new ObjectMapper().readTree(out.toString());
    assertThat(n.get("features").asInt()).isGreaterThan(100);
    assertThat(n.get("notes")).isEmpty();
    assertThat(Files.readAllLines(tracks).get(0)).isEqualTo("tracker,frame,x,y");
    assertThat(Files.readAllLines(tracks)).hasSize(1 + n.get("observations").asInt());

    assertThat(run("trace", plates, "--out", tracks)).isEqualTo(2);
    assertThat(err.toString()).contains("the file exists");

    int code =
        run(
            "solve",
            "--tracks",
            tracks,
            "--size",
            "960x540",
            "--film-back",
            "23.76x13.365",
            "--lens-terms",
            2,
            "--out",
            dir.resolve("solve.usda"),
            "-q");
    assertThat(code).as(err.toString()).isZero();
    assertThat(out.toString()).contains("free:");
  }

  @Test
  void oneStepFindsFocalLengthAndLens() throws Exception {
    Path solve = dir.resolve("solve.usda");
    Path lens = dir.resolve("lens.json");
    Path tracks = dir.resolve("tracks.csv");
    int code =
        run(
            "auto",
            plates,
            "--film-back",
            "23.76x13.365",
            "--out",
            solve,
            "--lens-out",
            lens,
            "--tracks-out",
            tracks,
            "--json",
            "-q");
    assertThat(code).as(err.toString()).isZero();
    assertThat(err.toString()).contains("followed ").contains("free: ");
    JsonNode n = new ObjectMapper().readTree(out.toString());
    assertThat(n.get("kind").asText()).isEqualTo("free");
    assertThat(n.get("rmsPx").asDouble()).isLessThan(0.3);
    assertThat(n.get("focalLengthMm").asDouble()).isBetween(16.5, 18.5);
    assertThat(n.get("doubts")).isEmpty();

    // What was written is a solve with its lens: it is vetted like any other.
    assertThat(run("vet", solve, "--tracks", tracks, "--size", "960x540", "--json", "-q")).isZero();
    assertThat(new ObjectMapper().readTree(out.toString()).get("rmsPx").asDouble()).isLessThan(0.3);
    assertThat(run("lens", "show", lens)).isZero();
    assertThat(out.toString()).contains("brown-conrady");
  }

  @Test
  void whatIsMaskedIsNotFollowed() throws Exception {
    Path mask = dir.resolve("mask.json");
    Files.writeString(
        mask,
        "[{\"name\": \"left\", \"keys\": [{\"frame\": 1001,"
            + " \"corners\": [[0, 0], [480, 0], [480, 540], [0, 540]]}]}]");
    Path tracks = dir.resolve("right.csv");
    assertThat(run("trace", plates, "--mask", mask, "--out", tracks, "-q")).isZero();
    assertThat(xs(tracks)).isNotEmpty().allMatch(x -> x >= 480 - 1e-4);
    assertThat(
            run("trace", plates, "--mask", mask, "--inside", "--out", dir.resolve("l.csv"), "-q"))
        .isZero();
    assertThat(xs(dir.resolve("l.csv"))).isNotEmpty().allMatch(x -> x <= 480 + 1e-4);
  }

  /** What moves is left out, said, and written as masks that are read again. */
  @Test
  void whatMovesIsSaidAndWrittenAsMasks() throws Exception {
    Path carts = DEMO.resolve("mer_050_carts/plates/original");
    Path masks = dir.resolve("movers.json");
    Path solve = dir.resolve("carts.usda");
    assertThat(
            run(
                "auto",
                carts,
                "--film-back",
                "23.76x13.365",
                "--focal",
                24,
                "--lens-terms",
                0,
                "--out",
                solve,
                "--movers-out",
                masks,
                "-q"))
        .as(err.toString())
        .isZero();
    assertThat(err.toString()).contains("against the rest");
    assertThat(out.toString()).contains("left out: mover 1, ").contains(masks + ": what moves");
    JsonNode shapes = new ObjectMapper().readTree(masks.toFile());
    assertThat(shapes.size()).isGreaterThanOrEqualTo(1);
    // The nearer cart is at the left, in the lower half.
    JsonNode corner = shapes.get(0).get("keys").get(0).get("corners").get(0);
    assertThat(corner.get(0).asDouble()).isBetween(100.0, 450.0);
    assertThat(corner.get(1).asDouble()).isBetween(250.0, 540.0);

    Path tracks = dir.resolve("without.csv");
    assertThat(run("trace", carts, "--mask", masks, "--out", tracks, "--json", "-q")).isZero();
    Mask what = MaskShape.all(MaskJson.parse("movers.json", Files.readString(masks)));
    List<String> rows = Files.readAllLines(tracks);
    assertThat(rows).hasSizeGreaterThan(500);
    assertThat(rows.stream().skip(1).map(r -> r.split(",")))
        .noneMatch(
            r ->
                what.covers(
                    Integer.parseInt(r[1]), Double.parseDouble(r[2]), Double.parseDouble(r[3])));
    Path again = dir.resolve("again.json");
    assertThat(
            run(
                "trace",
                carts,
                "--out",
                dir.resolve("all.csv"),
                "--movers-out",
                again,
                "--json",
                "-q"))
        .isZero();
    assertThat(err.toString()).contains("what moves, as masks");
    assertThat(
            run(
                "auto",
                carts,
                "--film-back",
                "23.76x13.365",
                "--out",
                solve,
                "--use-all",
                "--movers-out",
                masks,
                "--overwrite",
                "-q"))
        .isEqualTo(2);
    assertThat(err.toString()).contains("--use-all leaves nothing");
    Path none = dir.resolve("none.json");
    assertThat(run("trace", plates, "--out", dir.resolve("t.csv"), "--movers-out", none, "-q"))
        .isZero();
    assertThat(out.toString()).contains("nothing moves against the rest");
    assertThat(none).doesNotExist();
  }

  @Test
  void somethingFlatIsFollowedByItsCorners() throws Exception {
    Path planes = dir.resolve("planes.json");
    Files.writeString(
        planes,
        "[{\"name\": \"floor\", \"keys\": [{\"frame\": 1008,"
            + " \"corners\": [[600, 400], [800, 400], [830, 500], [600, 500]]}]}]");
    Path tracks = dir.resolve("flat.csv");
    assertThat(run("trace", plates, "--planes", planes, "--out", tracks, "-q"))
        .as(err.toString())
        .isZero();
    List<String> rows = Files.readAllLines(tracks);
    for (String part : List.of("_a", "_b", "_c", "_d", "_centre")) {
      assertThat(rows.stream().filter(r -> r.startsWith("floor" + part + ",")).count())
          .as(part)
          .isGreaterThan(12);
    }
    assertThat(rows).contains("floor_a,1008,600.0000,400.0000", "floor_d,1008,600.0000,500.0000");
    Files.writeString(
        planes,
        "[{\"name\": \"floor\", \"keys\": [{\"frame\": 1008,"
            + " \"corners\": [[600, 400], [800, 500], [800, 400], [600, 500]]}]}]");
    assertThat(run("trace", plates, "--planes", planes, "--out", tracks, "--overwrite", "-q"))
        .isEqualTo(2);
    assertThat(err.toString()).contains("folded");
  }

  private static List<Double> xs(Path table) throws Exception {
    return Files.readAllLines(table).stream()
        .skip(1)
        .map(l -> Double.valueOf(l.split(",")[2]))
        .toList();
  }

  @Test
  void badInputIsOneSentence() {
    Path o = dir.resolve("o.csv");
    assertThat(run("trace", plates, "--out", o, "--frames", "1001-1001")).isEqualTo(2);
    assertThat(err.toString()).contains("one frame only");
    assertThat(run("trace", plates, "--out", o, "--frames", "900-1010")).isEqualTo(2);
    assertThat(err.toString()).contains("not within the plates");
    assertThat(run("trace", plates, "--out", o, "--inside")).isEqualTo(2);
    assertThat(err.toString()).contains("--inside without a mask");
    assertThat(run("trace", plates, "--out", o, "--error", "7")).isEqualTo(2);
    assertThat(err.toString()).contains("0.01 to 1.0 px");
    assertThat(run("auto", plates, "--film-back", "24x13.5")).isEqualTo(2);
    assertThat(err.toString()).contains("--out FILE");
    Path still = DEMO.resolve("mer_030_cart/plates/original");
    assertThat(
            run(
                "auto",
                still,
                "--frames",
                "1-24",
                "--film-back",
                "23.76x13.365",
                "--out",
                dir.resolve("s.usda"),
                "-q"))
        .isEqualTo(2);
    assertThat(err.toString()).contains("the camera stands still");
    assertThat(dir.resolve("s.usda")).doesNotExist();
  }
}
