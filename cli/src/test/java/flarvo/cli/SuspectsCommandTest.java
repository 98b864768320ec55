package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import flarvo.plate.PlateFinder;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.plate.RasterWriter;
import flarvo.scene.PlateSequence;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The demo's files as they came in: nobody ruled anything, and the search finds what is wrong. */
class SuspectsCommandTest {

  private static final Path MERIDIAN = Path.of("../demo/meridian");

  @TempDir private Path dir;

  @ParameterizedTest
  @CsvSource({
    "mer_010_terrace, camera.fbx, points.csv, tracks.csv, world-axes focal-length",
    "mer_020_dome, camera.abc, points.csv, tracks.tsv, frame-shift world-axes focal-length",
    "mer_030_cart, camera.glb, points.csv, tracks.txt, frame-shift unit-scale"
  })
  void whatIsWrongWithTheDemosFiles(
      String shot, String camera, String points, String tracks, String causes) {
    Path in = MERIDIAN.resolve(shot + "/incoming");
    Path mended = dir.resolve(shot + ".usda");
    Said s =
        run(
            "suspects",
            in.resolve(shot + "_" + camera),
            in.resolve(shot + "_" + points),
            "--evidence",
            in.resolve(shot + "_" + tracks),
            "--size",
            "960x540",
            "--mend",
            mended,
            "--json");
    assertThat(s.code()).as(s.err()).isEqualTo(1);
    JsonNode first = s.json().get("suspects").get(0);
    assertThat(first.get("causes").findValuesAsText("cause"))
        .containsExactlyInAnyOrder(causes.split(" "));
    assertThat(first.get("confident").asBoolean()).isTrue();
    assertThat(first.get("errorPxAfter").asDouble()).isLessThan(0.5);
    assertThat(s.json().get("mended").get("errorPx").asDouble()).isLessThan(0.5);
    // The film back that nobody set: 23.76 mm in truth, 36 in the file.
    if (causes.contains("focal")) {
      assertThat(first.get("sentence").asText()).contains("23.76 mm wide in place of 36.00");
    }

    Said again =
        run("suspects", mended, "--evidence", in.resolve(shot + "_" + tracks), "--size", "960x540");
    assertThat(again.code()).as(again.err()).isZero();
    assertThat(again.out()).contains("nothing wrong that this evidence shows");
  }

  /** Nobody sent 2D tracks: features of the plates tell what is wrong with a camera. */
  @Test
  void platesAreEvidence() {
    Said s =
        run(
            "suspects",
            MERIDIAN.resolve("returns/terrace_anim_v03.fbx"),
            "--evidence",
            MERIDIAN.resolve("mer_010_terrace/plates/undistorted"),
            "--size",
            "960x540",
            "--json");
    assertThat(s.code()).as(s.err()).isEqualTo(1);
    JsonNode first = s.json().get("suspects").get(0);
    assertThat(first.get("causes").findValuesAsText("cause")).containsExactly("frame-shift");
    assertThat(first.get("errorPxAfter").asDouble()).isLessThan(1);
  }

  /** Proxies of half the size are followed in their own pixels, and measured in the picture's. */
  @Test
  void smallerPlatesAreEvidenceToo() throws Exception {
    PlateSequence p =
        PlateFinder.find(MERIDIAN.resolve("mer_010_terrace/plates/undistorted")).get(0);
    Path proxies = Files.createDirectories(dir.resolve("proxies"));
    for (int f = p.frames().first(); f < p.frames().first() + 48; f++) {
      Raster half = half(RasterReader.read(p.file(f)));
      RasterWriter.write(half, proxies.resolve("half." + f + ".png"));
    }
    Said s =
        run(
            "suspects",
            MERIDIAN.resolve("returns/terrace_anim_v03.fbx"),
            "--evidence",
            proxies,
            "--size",
            "960x540",
            "--json");
    assertThat(s.code()).as(s.err()).isEqualTo(1);
    JsonNode first = s.json().get("suspects").get(0);
    assertThat(first.get("causes").findValuesAsText("cause")).containsExactly("frame-shift");
    assertThat(first.get("errorPxAfter").asDouble()).isLessThan(1.5);
  }

  private static Raster half(Raster r) {
    Raster out = Raster.empty(r.width() / 2, r.height() / 2, r.channels(), r.kind());
    int n = r.channels().size();
    for (int i = 0; i < out.values().length; i++) {
      int x = i / n % out.width() * 2;
      int y = i / n / out.width() * 2;
      float top = r.at(x, y, i % n) + r.at(x + 1, y, i % n);
      out.values()[i] = (top + r.at(x, y + 1, i % n) + r.at(x + 1, y + 1, i % n)) / 4;
    }
    return out;
  }

  @Test
  void aTrustedSolveIsEvidence() {
    Path solve = MERIDIAN.resolve("mer_010_terrace/solve/mer_010_terrace_solve.usda");
    Path later = dir.resolve("later.usda");
    assertThat(
            run("convert", solve, "--to", "track-zup", "--out", later, "--first-frame", "2").code())
        .isZero();
    Said s = run("suspects", later, "--evidence", solve, "--from", "track-zup");
    assertThat(s.out()).contains("frame-shift -2");
    // What its sender is given says the same.
    Path page = dir.resolve("later.html");
    run("suspects", later, "--evidence", solve, "--from", "track-zup", "--report", page);
    assertThat(page).content().contains("later.usda").contains("Everything is 2 frames late");
    assertThat(dir.resolve("later.json")).content().contains("\"said\"");
    assertThat(run("suspects", later, "--report", page).err())
        .contains("--report needs --evidence");
  }

  /** The cart's points are in centimetres and nothing says so. */
  @Test
  void withoutEvidenceWhatIsImplausibleIsSaid() {
    Path in = MERIDIAN.resolve("mer_030_cart/incoming");
    Said s =
        run(
            "suspects",
            in.resolve("mer_030_cart_camera.glb"),
            in.resolve("mer_030_cart_points.csv"),
            "--size",
            "960x540");
    assertThat(s.code()).as(s.err()).isEqualTo(1);
    assertThat(s.out()).contains("implausible: ");
    Path solve = MERIDIAN.resolve("mer_010_terrace/solve/mer_010_terrace_solve.usda");
    assertThat(run("suspects", solve, "--size", "960x540").out())
        .contains("nothing is implausible");
  }

  @Test
  void whatCannotBeMeasuredIsSaid() throws Exception {
    Path solve = MERIDIAN.resolve("mer_010_terrace/solve/mer_010_terrace_solve.usda");
    Path log = MERIDIAN.resolve("mer_010_terrace/incoming/mer_010_terrace_log.txt");
    assertThat(run("suspects", solve, "--evidence", log, "--size", "960x540").err())
        .contains("neither 2D tracks nor a camera with points");
    Path few = Files.writeString(dir.resolve("few.csv"), "tracker,frame,x,y\nt001,1001,5,5\n");
    assertThat(run("suspects", solve, "--evidence", few, "--size", "960x540").err())
        .contains("too few to measure on");
    Path tracks = MERIDIAN.resolve("mer_010_terrace/incoming/mer_010_terrace_tracks.csv");
    Said nothing =
        run(
            "suspects",
            solve,
            "--evidence",
            tracks,
            "--size",
            "960x540",
            "--mend",
            dir.resolve("a.usda"));
    assertThat(List.of(nothing.code())).containsExactly(2);
    assertThat(nothing.err()).contains("nothing to mend");
    assertThat(dir.resolve("a.usda")).doesNotExist();
  }
}
