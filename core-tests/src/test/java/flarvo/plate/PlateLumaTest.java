package flarvo.plate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.scene.Inset;
import flarvo.scene.Luma;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Brightness of plates, without the overscan round the shot's picture. */
class PlateLumaTest {

  @TempDir Path dir;

  /** A ramp: brightness tells the column. */
  private PlateSequence ramp(int width, int height) {
    Raster r = Raster.empty(width, height, List.of("R", "G", "B"), SampleKind.BYTE);
    for (int y = 0, i = 0; y < height; y++) {
      for (int x = 0; x < width; x++) {
        for (int c = 0; c < 3; c++) {
          r.values()[i++] = (x * 4 + y) / 255f;
        }
      }
    }
    RasterWriter.write(r, dir.resolve("ramp.1.png"));
    return PlateFinder.find(dir).get(0);
  }

  @Test
  void theOverscanIsCutOff() {
    PlateSequence p = ramp(40, 24).around(PictureSize.of(32, 20));
    assertThat(p.picture()).isEqualTo(PictureSize.of(32, 20));
    Luma l = PlateLuma.of(p, 1).orElseThrow();
    assertThat(List.of(l.width(), l.height())).isEqualTo(List.of(32, 20));
    assertThat(l.at(0, 0)).isCloseTo(4 * 4 + 2, within(0.01f));
    assertThat(l.at(31, 19)).isCloseTo(35 * 4 + 21, within(0.01f));
  }

  /** A part that begins within the picture shows nothing beyond its own edge but that edge. */
  @Test
  void thePictureIsFoundOffTheCentre() {
    Inset where = new Inset(PictureSize.of(32, 20), 7, 1);
    Luma l = PlateLuma.of(ramp(40, 24).around(where), 1).orElseThrow();
    assertThat(l.at(0, 0)).isCloseTo(7 * 4 + 1, within(0.01f));
    assertThat(l.at(31, 19)).isCloseTo(38 * 4 + 20, within(0.01f));
    Luma cut =
        PlateLuma.of(ramp(40, 24).around(new Inset(PictureSize.of(50, 24), -5, 0)), 1)
            .orElseThrow();
    assertThat(List.of(cut.width(), cut.height())).isEqualTo(List.of(50, 24));
    assertThat(cut.at(5, 3)).isCloseTo(3, within(0.01f));
    assertThat(cut.at(0, 3)).isCloseTo(3, within(0.01f));
  }

  /** One pixel more in all is half a pixel on each side. */
  @Test
  void anOddOverscanIsCutBetweenPixels() {
    PlateSequence p = ramp(40, 24).around(PictureSize.of(39, 24));
    Luma l = PlateLuma.of(p, 1).orElseThrow();
    assertThat(l.at(0, 0)).isCloseTo(2, within(0.01f));
    assertThat(l.at(38, 5)).isCloseTo(38.5f * 4 + 5, within(0.01f));
  }

  /** Sixteen bits are not cut down to eight. */
  @Test
  void whatLiesBetweenStepsOfEightBitsIsKept() {
    for (List<String> channels : List.of(List.of("R", "G", "B"), List.of("Y"))) {
      Raster r = Raster.empty(60, 4, channels, SampleKind.SHORT);
      int n = channels.size();
      for (int i = 0; i < r.values().length; i++) {
        r.values()[i] = (3000 + 7 * (i / n % 60)) / 65535f;
      }
      Path folder = dir.resolve("sixteen" + n);
      RasterWriter.write(r, folder.resolve("p.1.png"));
      Luma l = PlateLuma.of(PlateFinder.find(folder).get(0), 1).orElseThrow();
      for (int x = 0; x < 60; x++) {
        assertThat(l.at(x, 2)).isCloseTo(255 * (3000 + 7 * x) / 65535f, within(1e-3f));
      }
    }
  }

  /** Linear pictures have detail in the dark, and go on above white up to a lamp. */
  @Test
  void linearPicturesAreEncoded() {
    float[] light = {0, 0.0005f, 0.0007f, 0.002f, 0.18f, 1, 4, 1e6f, -1, Float.NaN};
    Raster r = Raster.empty(light.length, 2, List.of("R", "G", "B"), SampleKind.FLOAT);
    for (int i = 0; i < r.values().length; i++) {
      r.values()[i] = light[i / 3 % light.length];
    }
    Path folder = dir.resolve("linear");
    RasterWriter.write(r, folder.resolve("p.1.exr"));
    Luma l = PlateLuma.of(PlateFinder.find(folder).get(0), 1).orElseThrow();
    for (int x = 0; x < light.length; x++) {
      double v = light[x] > 0 ? Math.min(8, light[x]) : 0;
      double code = v <= 0.0031308 ? 12.92 * v : 1.055 * Math.pow(v, 1 / 2.4) - 0.055;
      assertThat((double) l.at(x, 1)).as("light " + light[x]).isCloseTo(255 * code, within(0.01));
    }
  }

  @Test
  void withoutOverscanThePlateIsThePicture() {
    PlateSequence p = ramp(40, 24);
    assertThat(p.around(PictureSize.of(40, 24))).isEqualTo(p);
    assertThat(PlateLuma.of(p, 1).orElseThrow().width()).isEqualTo(40);
    assertThat(PlateLuma.of(p, 2)).isEmpty();
  }
}
