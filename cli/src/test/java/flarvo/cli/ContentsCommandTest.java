package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import flarvo.convention.Dialects;
import flarvo.plate.Raster;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.receive.ReceivedFile;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a delivery contains, chosen on the command line, and proven there. */
class ContentsCommandTest {

  private static final Path SHOT = Path.of("../demo/meridian/mer_010_terrace");
  private static final Path SOLVE = SHOT.resolve("solve/mer_010_terrace_solve.usda");
  private static final Path PLATES = SHOT.resolve("plates/undistorted");

  @TempDir private Path dir;

  private static JsonNode inspect(Path file) {
    return run("inspect", file, "--json").json();
  }

  @Test
  void aPictureCardIsWrittenAndProven() {
    Path out = dir.resolve("card.usda");
    Said s =
        run("convert", SOLVE, PLATES, "--to", "anim-yup-m", "--only", "camera,card", "--out", out);
    assertThat(s.code()).as(s.err()).isZero();
    assertThat(s.out()).contains("picture card: it stands ");
    assertThat(inspect(out).get("planes").asInt()).isEqualTo(1);
    assertThat(inspect(out).get("meshes").asInt()).isEqualTo(1);
    String[] asked = {"--to", "anim-yup-m", "--only", "camera,card"};
    Said p = run("prove", SOLVE, out, asked[0], asked[1], asked[2], asked[3]);
    assertThat(p.code()).as(p.out()).isZero();
    assertThat(p.out()).contains("PASS pictureCard").contains("PASS cardDistance");
    Said far = run("prove", SOLVE, out, asked[0], asked[1], asked[2], asked[3], "--card-at", "77");
    assertThat(far.code()).isEqualTo(1);
    assertThat(far.out()).contains("cardDistance");
    Said none =
        run(
            "convert",
            SOLVE,
            "--to",
            "anim-yup-m",
            "--only",
            "card",
            "--card-at",
            "-1",
            "--out",
            dir.resolve("none.usda"));
    assertThat(none.code()).isEqualTo(2);
    assertThat(none.err()).contains("over 0 m").contains("Give metres");
  }

  @Test
  void keyedPlatesAreOnTheCardWithTheirAlpha() throws IOException {
    Path keyed = Files.createDirectories(dir.resolve("keyed"));
    Raster r = Raster.empty(960, 540, List.of("R", "G", "B", "A"), SampleKind.BYTE);
    for (int f = 1001; f <= 1096; f++) {
      RasterWriter.write(r, keyed.resolve("terrace_keyed." + f + ".png"));
    }
    Path out = dir.resolve("card.usda");
    Said s =
        run(
            "convert",
            SOLVE,
            keyed,
            "--to",
            "anim-yup-m",
            "--plate",
            "keyed",
            "--only",
            "camera,card",
            "--out",
            out);
    assertThat(s.code()).as(s.err()).isZero();
    assertThat(Files.readString(out))
        .contains("inputs:opacity.connect")
        .contains("keyed/terrace_keyed.1050.png");
    Said proxy =
        run(
            "convert",
            SOLVE,
            "--to",
            "anim-yup-m",
            "--plate",
            "proxy",
            "--out",
            dir.resolve("p.usda"));
    assertThat(proxy.code()).isEqualTo(2);
    assertThat(proxy.err()).contains("Give undistorted, original or keyed");
  }

  @Test
  void trackersGoAsPointsOrAsLocators() {
    Path points = dir.resolve("points.usdc");
    Said s =
        run(
            "convert",
            SOLVE,
            "--to",
            "anim-yup-m",
            "--points",
            "trackers",
            "--locator-size",
            "0.1",
            "--out",
            points);
    assertThat(s.code()).as(s.err()).isZero();
    JsonNode n = inspect(points);
    assertThat(n.get("trackers").asInt()).isEqualTo(inspect(SOLVE).get("trackers").asInt());
    assertThat(n.get("locators").asInt()).isZero();
    assertThat(inspect(SOLVE).get("locators").asInt()).isGreaterThan(100);
    assertThat(run("prove", SOLVE, points, "--to", "anim-yup-m", "--points", "trackers").code())
        .isZero();
    Said asLocators = run("prove", SOLVE, points, "--to", "anim-yup-m");
    assertThat(asLocators.code()).as("nobody asked how").isZero();
    Said unknown =
        run(
            "convert",
            SOLVE,
            "--to",
            "anim-yup-m",
            "--points",
            "walls",
            "--out",
            dir.resolve("u.usda"));
    assertThat(unknown.code()).isEqualTo(2);
    assertThat(unknown.err()).contains("no tracker group is called 'walls'").contains("trackers");
  }

  private double locatorSize(Path file, String dialect) {
    return ReceivedFile.read(file, Optional.of(Dialects.shipped().get(dialect)), Progress.NONE)
        .scene()
        .locatorSizes()
        .get("trackers");
  }

  /** In each file's own unit, through a file whose unit is another, unless another is asked for. */
  @Test
  void sizesOfLocatorsGoAlong() {
    Path metres = dir.resolve("metres.usda");
    Said s = run("convert", SOLVE, "--to", "anim-zup-m", "--locator-size", "0.25", "--out", metres);
    assertThat(s.code()).as(s.err()).isZero();
    assertThat(locatorSize(metres, "anim-zup-m")).isCloseTo(0.25, within(1e-6));
    Path centimetres = dir.resolve("centimetres.fbx");
    s = run("convert", metres, "--to", "anim-yup-cm", "--out", centimetres);
    assertThat(s.code()).as(s.err()).isZero();
    assertThat(locatorSize(centimetres, "anim-yup-cm")).isCloseTo(25, within(1e-4));
    Path back = dir.resolve("back.usda");
    s = run("convert", centimetres, "--to", "anim-yup-m", "--out", back);
    assertThat(s.code()).as(s.err()).isZero();
    assertThat(locatorSize(back, "anim-yup-m")).isCloseTo(0.25, within(1e-6));
    Path table = dir.resolve("table.csv");
    s = run("convert", centimetres, "--to", "track-zup", "--out", table);
    assertThat(s.out()).contains("lost: trackers: Table files hold no size of locators");
    Path other = dir.resolve("other.usda");
    s = run("convert", metres, "--to", "anim-yup-m", "--locator-size", "0.5", "--out", other);
    assertThat(s.code()).as(s.err()).isZero();
    assertThat(locatorSize(other, "anim-yup-m")).isCloseTo(0.5, within(1e-6));
  }

  @Test
  void whatIsLeftOutByNameIsSaid() {
    Path out = dir.resolve("camera.usda");
    Said s = run("convert", SOLVE, "--to", "anim-yup-m", "--leave-out", "trackers", "--out", out);
    assertThat(s.code()).as(s.err()).isZero();
    assertThat(s.out()).contains("left out as asked: trackers");
    assertThat(inspect(out).get("trackers").asInt()).isZero();
    assertThat(run("prove", SOLVE, out, "--to", "anim-yup-m", "--leave-out", "trackers").code())
        .isZero();
    assertThat(run("prove", SOLVE, out, "--to", "anim-yup-m").code()).isEqualTo(1);
  }
}
