package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import flarvo.plate.PlateFinder;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.render.Previews;
import flarvo.scene.PlateSequence;
import flarvo.scene.Rate;
import flarvo.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The demo's plates filmed again at half the rate, each frame of two fields. */
class FieldCommandsTest {

  private static final Path FILMED =
      Path.of("../demo/meridian/mer_010_terrace/plates/original").toAbsolutePath();
  private static final int FRAMES = 6;

  @TempDir Path dir;
  private PlateSequence film;

  /** Lower field first: the odd lines are of the earlier picture. */
  @BeforeEach
  void interlace() throws Exception {
    film = PlateFinder.find(FILMED).get(0);
    Files.createDirectories(dir.resolve("take"));
    for (int f = 0; f < FRAMES; f++) {
      Raster first = RasterReader.read(film.file(1001 + 2 * f));
      Raster second = RasterReader.read(film.file(1002 + 2 * f));
      Raster both = Raster.empty(first.width(), first.height(), first.channels(), SampleKind.BYTE);
      int row = first.width() * first.channels().size();
      for (int y = 0; y < first.height(); y++) {
        float[] from = ((y & 1) == 0 ? second : first).values();
        System.arraycopy(from, y * row, both.values(), y * row, row);
      }
      RasterWriter.write(both, dir.resolve("take/take3." + (1001 + f) + ".png"));
    }
  }

  @Test
  void interlacedPlatesAreSaidAndOthersAreNot() throws Exception {
    Said s = run("plates", dir.resolve("take"));
    assertThat(s.code()).isEqualTo(ExitCode.DOES_NOT_HOLD);
    assertThat(s.out())
        .contains("interlaced: combing on 5 of 5 frames with motion, lower field first");
    assertThat(run("plates", FILMED).code()).isEqualTo(ExitCode.HOLDS);
    JsonNode n = run("plates", FILMED, "--json").json();
    assertThat(n.at("/plates/0/interlacing/kind").asText()).isEqualTo("progressive");
  }

  /** Through a movie, whose compression blurs them and whose header says that it is progressive. */
  @Test
  void theFieldsOfAMovieAreMeasured() throws Exception {
    List<Path> pictures = new ArrayList<>();
    for (int f = 1001; f < 1001 + FRAMES; f++) {
      pictures.add(dir.resolve("take/take3." + f + ".png"));
    }
    Path movie = dir.resolve("take3.mp4");
    Previews.movie(pictures, Rate.FPS_30, movie, Progress.NONE);
    Said s = run("unpack", movie, "--out", dir.resolve("movie/m.####.png"));
    assertThat(s.code()).isEqualTo(ExitCode.DOES_NOT_HOLD);
    assertThat(s.out())
        .contains("fields    interlaced: combing on 5 of 5")
        .contains("lower field first")
        .contains("the movie states progressive");
  }

  /** A number that is far off is no internal error, and unreadable plates say why they are. */
  @Test
  void whatCannotBeReadIsSaidWithItsCause() throws Exception {
    Path far = Files.createDirectories(dir.resolve("far"));
    for (String n : List.of("1001", "1002", "999999999")) {
      Files.copy(dir.resolve("take/take3.1001.png"), far.resolve("f." + n + ".png"));
    }
    Said s = run("plates", far);
    assertThat(s.code()).isEqualTo(ExitCode.BAD_INPUT);
    assertThat(s.err())
        .contains("frames are numbered from 1001 to 999999999, and no shot is so long")
        .contains("Move away the file");
    Path bad = Files.createDirectories(dir.resolve("bad"));
    Path dwa = Path.of("../core-tests/src/test/resources/flarvo/plate/exr/dwaa_half.exr");
    Files.copy(dwa, bad.resolve("d.1001.exr"));
    Files.copy(dwa, bad.resolve("d.1002.exr"));
    s = run("trace", bad, "--out", dir.resolve("t.csv"));
    assertThat(s.code()).isEqualTo(ExitCode.BAD_INPUT);
    assertThat(s.err()).contains("d.1001.exr").contains("packed as DWA");
  }

  @Test
  void fieldsBecomeTheFramesThatTheyWere() throws Exception {
    Path out = dir.resolve("fields/take3.####.png");
    Said s = run("deinterlace", dir.resolve("take"), "--out", out);
    assertThat(s.err()).isEmpty();
    assertThat(s.code()).isEqualTo(ExitCode.HOLDS);
    assertThat(s.out()).contains("frames 1001-1012, lower field first, at double rate");
    for (int f = 1001; f <= 1012; f++) {
      Raster is = RasterReader.read(dir.resolve("fields/take3." + f + ".png"));
      Raster was = RasterReader.read(film.file(f));
      double squares = 0;
      for (int y = 0; y < is.height(); y++) {
        boolean own = (y & 1) == (f % 2 == 1 ? 1 : 0);
        for (int x = 0; x < is.width(); x++) {
          double d = is.at(x, y, 1) - was.at(x, y, 1);
          squares += d * d;
          if (own) {
            assertThat(d).as("frame %d at %d, %d", f, x, y).isZero();
          }
        }
      }
      double psnr = -10 * Math.log10(squares / (is.width() * is.height()));
      assertThat(psnr).as("frame " + f).isGreaterThan(30);
    }
    assertThat(run("plates", dir.resolve("fields")).code()).isEqualTo(ExitCode.HOLDS);
  }

  @Test
  void fieldsAreBlendedAndWhatCannotBeDoneIsSaid() throws Exception {
    Path out = dir.resolve("blend/b.####.png");
    JsonNode n =
        run("deinterlace", dir.resolve("take"), "--out", out, "--method", "blend", "--json").json();
    assertThat(n.get("firstFrame").asInt()).isEqualTo(1001);
    assertThat(n.get("lastFrame").asInt()).isEqualTo(1006);
    assertThat(n.get("written").asInt()).isEqualTo(6);
    assertThat(n.at("/interlacing/first").asText()).isEqualTo("lower");
    Said s = run("deinterlace", FILMED, "--out", dir.resolve("x.####.png"));
    assertThat(s.code()).isEqualTo(ExitCode.BAD_INPUT);
    assertThat(s.err()).contains("the plates are progressive").contains("Give --order");
    assertThat(dir.resolve("x.1001.png")).doesNotExist();
    Path still = Files.createDirectories(dir.resolve("still"));
    for (int f = 1001; f < 1004; f++) {
      Files.copy(dir.resolve("take/take3.1001.png"), still.resolve("s." + f + ".png"));
    }
    s = run("deinterlace", still, "--out", dir.resolve("x.####.png"));
    assertThat(s.err()).contains("the plates are not known to be interlaced: too little moves");
    s = run("deinterlace", dir.resolve("take"), "--out", out, "--order", "first");
    assertThat(s.err()).contains("--order does not know 'first'");
    s = run("deinterlace", dir.resolve("take"), "--out", out, "--method", "bob");
    assertThat(s.err()).contains("--method does not know 'bob'");
    s = run("deinterlace", dir.resolve("take"), "--out", dir.resolve("take/take3.####.png"));
    assertThat(s.err()).contains("this is the source");
  }
}
