package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import flarvo.lens.RadialPolynomial;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.scene.PictureSize;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Lenses and plates on the command line. */
class PlateCommandsTest {

  private static final Lens LENS = Lens.centred(new RadialPolynomial(0.062, 0.014, 0, 0));
  private static final PictureSize SIZE = PictureSize.of(160, 90);

  @TempDir Path dir;
  private Path sheet;

  @BeforeEach
  void files() throws Exception {
    sheet = dir.resolve("lens.json");
    Files.writeString(sheet, LensSheet.text(LensTrack.of(LENS)));
    Files.createDirectories(dir.resolve("in"));
    for (int f = 1001; f <= 1004; f++) {
      Raster r = Raster.empty(160, 90, List.of("R", "G", "B"), SampleKind.SHORT);
      for (int i = 0; i < r.values().length; i++) {
        int x = i / 3 % 160;
        int y = i / 480;
        r.values()[i] = (float) (0.5 + 0.3 * Math.sin(x / 7.0 + f) * Math.cos(y / 5.0 + i % 3));
      }
      RasterWriter.write(r, dir.resolve("in/a." + f + ".png"));
    }
  }

  /** A part off the centre, with the principal point that belongs to it, and back. */
  @Test
  void aPartIsUndistortedAndGoesBack() {
    Path part = dir.resolve("part/p.####.png");
    Path in = dir.resolve("in");
    Said s =
        run("undistort", in, "--lens", sheet, "--out", part, "--overscan", "100x60+50-4", "--json");
    assertThat(s.code()).as(s.err()).isZero();
    // Its centre is 50 + 50 and -4 + 30 in the original, whose own is 80, 45.
    assertThat(s.json().get("principalPointMovedPx").get(0).asDouble()).isEqualTo(-20);
    assertThat(s.json().get("principalPointMovedPx").get(1).asDouble()).isEqualTo(19);
    assertThat(
            run("undistort", in, "--lens", sheet, "--out", part, "--overscan", "100x60+50-4").out())
        .contains("up to date 4")
        .contains("add -20.0, +19.0 px (right, down) to the principal point");
    // The same size somewhere else is not what is there.
    assertThat(
            run("undistort", in, "--lens", sheet, "--out", part, "--overscan", "100x60+50-5").out())
        .contains("made 4");
    run("undistort", in, "--lens", sheet, "--out", part, "--overscan", "100x60+50-4");
    Path back = dir.resolve("back/b.####.png");
    assertThat(
            run(
                    "redistort",
                    part,
                    "--lens",
                    sheet,
                    "--out",
                    back,
                    "--size",
                    "160x90",
                    "--overscan",
                    "90x60+50-4")
                .err())
        .contains("the pictures are 100x60, not 90x60");
    Said b =
        run(
            "redistort",
            part,
            "--lens",
            sheet,
            "--out",
            back,
            "--size",
            "160x90",
            "--overscan",
            "100x60+50-4");
    assertThat(b.code()).as(b.err()).isZero();
    Raster was = RasterReader.read(dir.resolve("in/a.1002.png"));
    Raster is = RasterReader.read(dir.resolve("back/b.1002.png"));
    for (int y = 10; y < 45; y++) {
      for (int x = 65; x < 135; x++) {
        assertThat(is.at(x, y, 1)).isCloseTo(was.at(x, y, 1), within(0.03f));
      }
    }
  }

  @Test
  void undistortedAndBack() {
    Path straight = dir.resolve("straight/s.####.exr");
    Said s =
        run(
            "undistort",
            dir.resolve("in"),
            "--lens",
            sheet,
            "--out",
            straight,
            "--overscan",
            "fit",
            "--json");
    assertThat(s.err()).isEmpty();
    assertThat(s.code()).isZero();
    JsonNode n = s.json();
    assertThat(n.get("made")).hasSize(4);
    int w = n.get("undistortedSize").get(0).asInt();
    assertThat(w).isGreaterThan(160);
    assertThat(n.get("filmBackFactor").get(0).asDouble()).isCloseTo(w / 160.0, within(1e-12));
    Raster one = RasterReader.read(dir.resolve("straight/s.1002.exr"));
    assertThat(one.width()).isEqualTo(w);
    assertThat(one.kind()).isEqualTo(SampleKind.HALF);
    Said again =
        run(
            "undistort",
            dir.resolve("in"),
            "--lens",
            sheet,
            "--out",
            straight,
            "--overscan",
            "fit");
    assertThat(again.out()).contains("made 0, up to date 4").contains("multiply the film back by");
    Said back =
        run(
            "redistort",
            straight,
            "--lens",
            sheet,
            "--out",
            dir.resolve("back/b.####.png"),
            "--size",
            "160x90",
            "--frames",
            "1002-1003",
            "--depth",
            "16");
    assertThat(back.code()).as(back.err()).isZero();
    Raster was = RasterReader.read(dir.resolve("in/a.1002.png"));
    Raster is = RasterReader.read(dir.resolve("back/b.1002.png"));
    double sum = 0;
    int count = 0;
    for (int y = 6; y < 84; y++) {
      for (int x = 6; x < 154; x++) {
        for (int c = 0; c < 3; c++) {
          sum += Math.pow(was.at(x, y, c) - is.at(x, y, c), 2);
          count++;
        }
      }
    }
    assertThat(-10 * Math.log10(sum / count)).isGreaterThan(50);
    assertThat(dir.resolve("back/b.1001.png")).doesNotExist();
  }

  @Test
  void aFrameThatFailsIsNamed() throws Exception {
    Files.writeString(dir.resolve("in/a.1003.png"), "no picture");
    Said s =
        run("undistort", dir.resolve("in"), "--lens", sheet, "--out", dir.resolve("o/b.#.jpg"));
    assertThat(s.code()).isEqualTo(ExitCode.DOES_NOT_HOLD);
    assertThat(s.out()).contains("made 3").contains("frame 1003:").contains("a.1003.png");
  }

  @Test
  void whatIsTypedWrongIsOneSentence() {
    Path in = dir.resolve("in");
    Path out = dir.resolve("o/b.####.png");
    assertThat(run("undistort", in, "--lens", sheet, "--out", dir.resolve("b.png")).err())
        .contains("not the name of a sequence");
    assertThat(run("undistort", in, "--lens", sheet, "--out", out, "--filter", "soft").err())
        .contains("--filter does not know 'soft'");
    assertThat(run("undistort", in, "--lens", sheet, "--out", out, "--overscan", "much").err())
        .contains("not a picture size");
    assertThat(run("undistort", in, "--lens", sheet, "--out", out, "--proxy", "99").err())
        .contains("a proxy is 1 to 16 times smaller");
    assertThat(run("undistort", in, "--lens", in, "--out", out).code())
        .isEqualTo(ExitCode.BAD_INPUT);
    assertThat(run("lens").code()).isEqualTo(ExitCode.BAD_INPUT);
    assertThat(run("stmap", "--lens", sheet, "--size", "8x8", "--out", dir.resolve("m.png")).err())
        .contains("a map is an OpenEXR file");
  }

  /** A board bent by the lens: the table of its lines gives the lens back. */
  @Test
  void aBoardGivesTheLens() throws Exception {
    PictureSize size = PictureSize.of(640, 360);
    LensMapper m = LENS.on(size);
    double[] p = new double[2];
    Files.createDirectories(dir.resolve("chart"));
    for (int f = 1; f <= 2; f++) {
      Raster r = Raster.empty(640, 360, List.of("R", "G", "B"), SampleKind.BYTE);
      for (int y = 0; y < 360; y++) {
        for (int x = 0; x < 640; x++) {
          double sum = 0;
          for (int i = 0; i < 16; i++) {
            m.toUndistorted(x + (i % 4 + 0.5) / 4, y + (Math.floorDiv(i, 4) + 0.5) / 4, p);
            double u = (p[0] - 8 + 0.05 * f * p[1]) / 52.3;
            double v = (p[1] - 4 * f - 0.03 * p[0]) / 51.1;
            sum += Math.floorMod((int) Math.floor(u) + (int) Math.floor(v), 2) == 0 ? 0.2 : 0.8;
          }
          for (int c = 0; c < 3; c++) {
            r.values()[(y * 640 + x) * 3 + c] = (float) (sum / 16);
          }
        }
      }
      RasterWriter.write(r, dir.resolve("chart/c." + f + ".png"));
    }
    Path lines = dir.resolve("lines.csv");
    Said s = run("lens", "grid", dir.resolve("chart"), "--out", lines, "--json");
    assertThat(s.code()).isZero();
    assertThat(s.json().get("frames")).hasSize(2);
    Path found = dir.resolve("found.json");
    run("lens", "fit", lines, "--size", "640x360", "--out", found);
    LensMapper lens = LensSheet.read(found).track().base().on(size);
    double[] q = new double[2];
    for (int x = 0; x <= 640; x += 40) {
      m.toOriginal(x, 20, p);
      lens.toOriginal(x, 20, q);
      assertThat(Math.hypot(p[0] - q[0], p[1] - q[1])).isLessThan(0.3);
    }
    Files.createDirectories(dir.resolve("grey"));
    RasterWriter.write(
        Raster.empty(640, 360, List.of("R", "G", "B"), SampleKind.BYTE),
        dir.resolve("grey/g.1.png"));
    assertThat(run("lens", "grid", dir.resolve("grey"), "--out", lines).err())
        .contains("no chequer board was found on any frame");
  }

  /** A map we write and read back, either way round and with overscan, is the lens it came from. */
  @Test
  void aMapGivesItsLens() {
    for (String direction : List.of("undistort", "redistort")) {
      for (String overscan : List.of("none", "200x112")) {
        Path map = dir.resolve(direction + overscan + ".exr");
        run(
            "stmap",
            "--lens",
            sheet,
            "--size",
            "160x90",
            "--out",
            map,
            "--direction",
            direction,
            "--origin",
            "top",
            "--overscan",
            overscan);
        Path found = dir.resolve(direction + overscan + ".json");
        Said s =
            run(
                "lens",
                "map",
                map,
                "--size",
                "160x90",
                "--direction",
                direction,
                "--origin",
                "top",
                "--overscan",
                overscan,
                "--model",
                "radial-original-to-undistorted",
                "--out",
                found,
                "--json");
        assertThat(s.err()).isEmpty();
        assertThat(s.code()).as(direction + " " + overscan).isZero();
        assertThat(s.json().get("maxPx").asDouble()).isLessThan(1e-3);
        double[] k = LensSheet.read(found).track().base().distortion().coefficients();
        assertThat(k[0]).isCloseTo(0.062, within(1e-4));
        // The wrong origin is another picture upside down: no lens does that.
        Said wrong =
            run(
                "lens",
                "map",
                map,
                "--size",
                "160x90",
                "--direction",
                direction,
                "--origin",
                "bottom",
                "--overscan",
                overscan,
                "--json");
        assertThat(wrong.code()).isEqualTo(ExitCode.DOES_NOT_HOLD);
      }
    }
    assertThat(run("lens", "map", dir.resolve("undistortnone.exr"), "--size", "99x90").err())
        .contains("the map is 160x90, not 99x90");
    assertThat(run("lens", "map", dir.resolve("in/a.1001.png"), "--size", "160x90").err())
        .contains("a map needs floating numbers");
  }

  /** Movies themselves are tested in the core; here is what can be typed wrong. */
  @Test
  void whatIsNoMovieIsSaid() {
    Path picture = dir.resolve("in/a.1001.png");
    assertThat(run("unpack", picture, "--out", dir.resolve("m.####.jpg")).err())
        .contains("pictures of a movie are written as PNG");
    assertThat(run("unpack", picture, "--out", dir.resolve("m.####.png")).err())
        .contains("not a movie");
    assertThat(run("unpack", dir.resolve("none.mov"), "--out", dir.resolve("m.#.png")).code())
        .isEqualTo(ExitCode.BAD_INPUT);
  }

  @Test
  void aMapSaysWhereEachPixelComesFrom() {
    Path map = dir.resolve("m.exr");
    Said s = run("stmap", "--lens", sheet, "--size", "160x90", "--out", map);
    assertThat(s.err()).isEmpty();
    assertThat(s.out()).contains("160x90, undistorts pictures of 160x90, G from the bottom");
    Raster r = RasterReader.read(map);
    double[] p = new double[2];
    LENS.on(SIZE).toOriginal(20.5, 10.5, p);
    assertThat((double) r.at(20, 10, 0)).isCloseTo(p[0] / 160, within(1e-6));
    assertThat((double) r.at(20, 10, 1)).isCloseTo(1 - p[1] / 90, within(1e-6));
  }

  @Test
  void aLensIsFittedConvertedAndShown() throws Exception {
    Path lines = dir.resolve("lines.csv");
    StringBuilder csv = new StringBuilder("line,frame,x,y\n");
    LensMapper m = LENS.on(PictureSize.of(1920, 1080));
    double[] p = new double[2];
    for (int l = 0; l < 9; l++) {
      for (int i = 0; i <= 20; i++) {
        m.toOriginal(90 * i, 60 + 120 * l + 2 * i, p);
        csv.append(String.format(Locale.ROOT, "h%d,1001,%.5f,%.5f%n", l, p[0], p[1]));
      }
    }
    Files.writeString(lines, csv);
    Path found = dir.resolve("found.json");
    Said s = run("lens", "fit", lines, "--size", "1920x1080", "--out", found, "--json");
    assertThat(s.err()).isEmpty();
    assertThat(s.json().at("/coefficients/k1").asDouble()).isCloseTo(0.062, within(1e-5));
    assertThat(s.json().get("residualPx").asDouble()).isLessThan(1e-4);
    assertThat(s.json().get("uncertaintyPx").asDouble()).isPositive();
    Said words = run("lens", "fit", lines, "--size", "1920x1080");
    assertThat(words.out()).contains("residual").contains("within").contains("evidence");
    Path brown = dir.resolve("brown.json");
    Said c =
        run(
            "lens",
            "convert",
            found,
            "--size",
            "1920x1080",
            "--model",
            "brown-conrady",
            "--out",
            brown);
    assertThat(c.code()).as(c.err()).isZero();
    assertThat(c.out()).contains("fitted: at most");
    assertThat(
            run(
                    "lens",
                    "convert",
                    found,
                    "--size",
                    "1920x1080",
                    "--normalisation",
                    "half-diagonal",
                    "--out",
                    dir.resolve("d.json"))
                .out())
        .contains("exact");
    Said shown = run("lens", "show", brown, "--size", "1920x1080");
    assertThat(shown.out()).contains("brown-conrady").contains("the top left corner moves by");
    assertThat(run("lens", "fit", lines, "--size", "1920x1080", "--terms", "k9").err())
        .contains("has no coefficient 'k9'");
  }

  /** A map stands for its lens, whichever way it goes and from wherever it counts. */
  @Test
  void aMapIsAppliedAsItIsOrTurnedRound() {
    Path lens = dir.resolve("lens/s.####.exr");
    assertThat(
            run(
                    "undistort",
                    dir.resolve("in"),
                    "--lens",
                    sheet,
                    "--out",
                    lens,
                    "--overscan",
                    "180x110",
                    "--depth",
                    "float")
                .code())
        .isZero();
    Raster truth = RasterReader.read(dir.resolve("lens/s.1002.exr"));
    for (String does : List.of("undistort", "redistort")) {
      for (String origin : List.of("top", "bottom")) {
        String name = does + origin;
        Path map = dir.resolve(name + ".exr");
        Said made =
            run(
                "stmap",
                "--lens",
                sheet,
                "--size",
                "160x90",
                "--overscan",
                "180x110",
                "--direction",
                does,
                "--origin",
                origin,
                "--out",
                map);
        assertThat(made.code()).as(made.err()).isZero();
        Said s =
            run(
                "undistort",
                dir.resolve("in"),
                "--map",
                map,
                "--direction",
                does,
                "--origin",
                origin,
                "--overscan",
                "180x110",
                "--depth",
                "float",
                "--out",
                dir.resolve(name + "/s.####.exr"));
        assertThat(s.code()).as(s.err()).isZero();
        Raster is = RasterReader.read(dir.resolve(name + "/s.1002.exr"));
        assertThat(is.width()).isEqualTo(180);
        double worst = 0;
        int compared = 0;
        for (int y = 14; y < 96; y++) {
          for (int x = 14; x < 166; x++) {
            worst = Math.max(worst, Math.abs(is.at(x, y, 1) - truth.at(x, y, 1)));
            compared += truth.at(x, y, 1) > 0 ? 1 : 0;
          }
        }
        assertThat(compared).isGreaterThan(10000);
        assertThat(worst).as(name).isLessThan(2e-3);
      }
    }
  }

  @Test
  void aMapThatDoesNotSuitIsRefused() throws Exception {
    Path map = dir.resolve("m.exr");
    run("stmap", "--lens", sheet, "--size", "160x90", "--out", map);
    Path out = dir.resolve("o/s.####.png");
    Path in = dir.resolve("in");
    assertThat(run("undistort", in, "--out", out).err()).contains("--map MAP.exr");
    assertThat(run("undistort", in, "--out", out, "--lens", sheet, "--map", map).err())
        .contains("a lens and a map");
    assertThat(run("undistort", in, "--out", out, "--map", map, "--overscan", "fit").err())
        .contains("160x90");
    Said turned =
        run(
            "undistort",
            in,
            "--out",
            out,
            "--map",
            map,
            "--direction",
            "redistort",
            "--overscan",
            "fit");
    assertThat(turned.err()).contains("flarvo lens map");
    Said mirrored = run("undistort", in, "--out", out, "--map", map, "--origin", "top", "--json");
    assertThat(mirrored.code()).isEqualTo(1);
    assertThat(mirrored.json().get("failed").get("1001").asText())
        .contains("upside down")
        .contains("--origin bottom");
    Said picture = run("undistort", in, "--out", out, "--map", dir.resolve("in/a.1001.png"));
    assertThat(picture.code()).isNotZero();
    assertThat(picture.err()).contains("floating numbers");
    // One map of each frame, and one is missing: that frame is named, the others are made.
    for (int f : new int[] {1001, 1002, 1004}) {
      Files.copy(map, dir.resolve("m." + f + ".exr"));
    }
    Said some =
        run("undistort", in, "--out", out, "--map", map.resolveSibling("m.####.exr"), "--json");
    assertThat(some.code()).isEqualTo(1);
    assertThat(some.json().get("made")).hasSize(3);
    assertThat(some.json().get("failed").get("1003").asText()).contains("m.1003.exr");
  }
}
