package flarvo.plate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.plate.remap.Light;
import flarvo.plate.tag.Alpha;
import flarvo.plate.tag.PlateTags;
import flarvo.plate.tag.TagHome;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Keyed plates from format to format: what they show is the same. */
class AlphaChangeTest {

  private static final int W = 64;
  private static final int H = 4;

  @TempDir private Path dir;

  /** Colours and cover that 16 bits hold to a quarter of a thousandth, straight. */
  private static float colour(int x, int c) {
    return (0.2f + 0.7f * x / W) * (1 - 0.2f * c);
  }

  private static float cover(int x) {
    return x < 4 ? 0 : Math.min(1, x / 48f);
  }

  private static Raster picture(Alpha alpha, SampleKind kind) {
    Raster r = Raster.empty(W, H, List.of("R", "G", "B", "A"), kind);
    for (int i = 0; i < W * H; i++) {
      float a = cover(i % W);
      for (int c = 0; c < 3; c++) {
        r.values()[4 * i + c] = colour(i % W, c) * (alpha == Alpha.MULTIPLIED ? a : 1);
      }
      r.values()[4 * i + 3] = a;
    }
    return r.with(PlateTags.NONE.with(alpha));
  }

  private static void showsTheSame(Raster r) {
    Raster s = AlphaChange.to(Alpha.STRAIGHT, r);
    for (int x = 4; x < W; x++) {
      assertThat(s.at(x, 1, 3)).isCloseTo(cover(x), within(1e-3f));
      for (int c = 0; c < 3; c++) {
        assertThat(s.at(x, 1, c)).isCloseTo(colour(x, c), within(4e-3f));
      }
    }
  }

  @ParameterizedTest
  @CsvSource({
    "exr, HALF, MULTIPLIED",
    "png, SHORT, STRAIGHT",
    "tif, SHORT, STRAIGHT",
    "tif, SHORT, MULTIPLIED",
    "tif, FLOAT, MULTIPLIED"
  })
  void everyFormatIntoEveryOther(String format, SampleKind kind, Alpha alpha) {
    Path first = dir.resolve("first." + format);
    RasterWriter.write(picture(alpha, kind), first);
    Raster read = RasterReader.read(first);
    assertThat(read.tags().alpha()).isEqualTo(alpha);
    showsTheSame(read);
    for (String other : List.of("exr", "png", "tif")) {
      Path second = dir.resolve("second." + other);
      RasterWriter.write(read.as(RasterWriter.kindFor(other, kind)), second);
      Raster again = RasterReader.read(second);
      assertThat(again.tags().alpha()).isEqualTo(TagHome.ofName(other).alpha(alpha));
      showsTheSame(again);
      List<String> said = read.tags().notIn(TagHome.ofName(other));
      assertThat(said.toString().contains("alpha")).isEqualTo(again.tags().alpha() != alpha);
    }
    assertThat(read.tags().notIn(TagHome.JPEG)).contains("alpha");
  }

  /** Another reader is told the same. */
  @Test
  void theLabelOfATiffIsUnderstoodByOthers() throws IOException {
    for (Alpha alpha : List.of(Alpha.STRAIGHT, Alpha.MULTIPLIED)) {
      Path file = dir.resolve(alpha + ".tif");
      RasterWriter.write(picture(alpha, SampleKind.BYTE), file);
      BufferedImage image = ImageIO.read(file.toFile());
      assertThat(image.isAlphaPremultiplied()).isEqualTo(alpha == Alpha.MULTIPLIED);
      int argb = image.getRGB(40, 1); // never multiplied
      assertThat((argb >> 16 & 255) / 255.0).isCloseTo(colour(40, 0), within(0.01));
      assertThat((argb >>> 24) / 255.0).isCloseTo(cover(40), within(0.005));
    }
  }

  /** Multiplied, a hidden colour would be light that is added; divided, added light stays. */
  @Test
  void whereNothingIsCoveredNothingShows() {
    Raster straight = picture(Alpha.STRAIGHT, SampleKind.FLOAT);
    Raster multiplied = AlphaChange.to(Alpha.MULTIPLIED, straight);
    Raster back = AlphaChange.to(Alpha.STRAIGHT, multiplied);
    for (int i = 0; i < back.values().length; i++) {
      boolean hidden = i / 4 % W < 4;
      assertThat(back.values()[i]).isCloseTo(hidden ? 0 : straight.values()[i], within(1e-6f));
    }
    multiplied.values()[0] = 0.5f;
    assertThat(AlphaChange.to(Alpha.STRAIGHT, multiplied).at(0, 0, 0)).isEqualTo(0.5f);
    Raster none = Raster.empty(4, 4, List.of("R", "G", "B"), SampleKind.HALF);
    assertThat(AlphaChange.to(Alpha.MULTIPLIED, none)).isSameAs(none);
  }

  /** On the screen a colour is what it is, however much it covers. */
  @Test
  void thePictureOnTheScreenIsStraight() {
    Path exr = dir.resolve("a.exr");
    RasterWriter.write(picture(Alpha.MULTIPLIED, SampleKind.HALF), exr);
    Path png = dir.resolve("a.png");
    Raster linear = picture(Alpha.STRAIGHT, SampleKind.SHORT);
    for (int i = 0; i < linear.values().length; i++) {
      linear.values()[i] = i % 4 == 3 ? linear.values()[i] : Light.encoded(linear.values()[i]);
    }
    RasterWriter.write(linear, png);
    PlateImage a = PlateReader.read(exr);
    PlateImage b = PlateReader.read(png);
    for (int x = 24; x < W; x++) { // with less cover, 8 bits of a PNG are coarser on the way
      for (int shift = 0; shift < 32; shift += 8) {
        assertThat(a.argb()[x] >>> shift & 255).isCloseTo(b.argb()[x] >>> shift & 255, within(2));
      }
    }
  }
}
