package flarvo.plate.look;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.plate.PlateFinder;
import flarvo.plate.PlateImage;
import flarvo.plate.Raster;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.report.InputError;
import flarvo.scene.PlateSequence;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Plates on the screen under exposure, gamma and a look-up table. */
class LookTest {

  @TempDir Path dir;

  private static PlateImage grey(int code) {
    return new PlateImage(1, 1, new int[] {0xFF000000 | code << 16 | code << 8 | code});
  }

  private static int seen(Look l, int code) {
    return l.of(grey(code), false).argb()[0] & 255;
  }

  @Test
  void exposureMultipliesLight() {
    // Code 118 is a fifth of the light in sRGB (0.1812); twice that is code 163.
    assertThat(seen(Look.NONE.withStops(1), 118)).isBetween(162, 164);
    assertThat(seen(Look.NONE.withStops(-1), 163)).isBetween(117, 119);
    assertThat(seen(Look.NONE.withStops(12), 118)).isEqualTo(255);
    assertThat(seen(Look.NONE.withStops(3), 0)).isZero();
  }

  @Test
  void gammaBendsCodeValues() {
    assertThat(seen(Look.NONE.withGamma(2), 64)).isEqualTo(128);
    assertThat(seen(Look.NONE.withGamma(2), 255)).isEqualTo(255);
    PlateImage same = grey(7);
    assertThat(Look.NONE.of(same, false)).isSameAs(same);
    assertThatThrownBy(() -> Look.NONE.withGamma(0)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> Look.NONE.withStops(Double.NaN))
        .isInstanceOf(IllegalArgumentException.class);
  }

  /** What was over white in a float plate comes back when the exposure goes down. */
  @Test
  void highlightsOfAFloatPlateComeBack() {
    Raster r = Raster.empty(4, 4, List.of("R", "G", "B"), SampleKind.HALF);
    for (int i = 0; i < r.values().length; i++) {
      r.values()[i] = i % 3 == 0 ? 4f : i % 3 == 1 ? 2f : 0.5f;
    }
    RasterWriter.write(r, dir.resolve("hot.1.exr"));
    PlateSequence p = PlateFinder.find(dir).get(0);
    int plain = ShownPlate.of(p, 1, Look.NONE).argb()[5];
    assertThat(List.of(plain >> 16 & 255, plain >> 8 & 255)).containsOnly(255);
    int down = ShownPlate.of(p, 1, Look.NONE.withStops(-2)).argb()[5];
    assertThat(down >> 16 & 255).isEqualTo(255); // 4 / 4 is white
    assertThat(down >> 8 & 255).isBetween(187, 189); // 2 / 4
    assertThat(down & 255).isBetween(98, 100); // 0.5 / 4
  }

  private CubeTable table(String text) throws IOException {
    return CubeTable.read(Files.writeString(dir.resolve("t.cube"), text));
  }

  private static String cube(int size, float[] corner) {
    StringBuilder s = new StringBuilder("TITLE \"a b c\"\n# by hand\nLUT_3D_SIZE " + size + "\n");
    for (int b = 0; b < size; b++) {
      for (int g = 0; g < size; g++) {
        for (int r = 0; r < size; r++) {
          float n = size - 1;
          s.append(corner[0] * r / n).append(' ');
          s.append(corner[1] * g / n).append(' ').append(corner[2] * b / n).append('\n');
        }
      }
    }
    return s.toString();
  }

  /** A cube that is linear in each channel is so between its entries too. */
  @Test
  void aCubeIsInterpolated() throws IOException {
    CubeTable t = table(cube(5, new float[] {1, 0.5f, 0.25f}));
    for (float[] rgb : new float[][] {{0.13f, 0.77f, 0.5f}, {1, 1, 1}, {0, 0, 0}}) {
      float[] out = rgb.clone();
      t.apply(out);
      assertThat(out[0]).isCloseTo(rgb[0], within(1e-6f));
      assertThat(out[1]).isCloseTo(rgb[1] / 2, within(1e-6f));
      assertThat(out[2]).isCloseTo(rgb[2] / 4, within(1e-6f));
    }
    float[] beyond = {2, -1, Float.NaN};
    t.apply(beyond);
    assertThat(beyond).containsExactly(1, 0, 0);
  }

  @Test
  void curvesAndDomainsAreRead() throws IOException {
    CubeTable t =
        table("LUT_1D_SIZE 3\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 2 2 2\n0 0 0\n0.5 1 0\n1 1 1\n");
    float[] rgb = {1.5f, 0.5f, 1};
    t.apply(rgb);
    assertThat(rgb).containsExactly(0.75f, 0.5f, 0);
    assertThat(t.name()).isEqualTo("t.cube");
    Look l = Look.NONE.withTable(Optional.of(t));
    assertThat(l.of(grey(255), false).argb()[0] >> 16 & 255).isEqualTo(128);
    assertThat(l)
        .isEqualTo(Look.NONE.withTable(Optional.of(CubeTable.read(dir.resolve("t.cube")))));
  }

  @Test
  void whatIsNoTableIsOneError() {
    Map<String, String> bad =
        Map.of(
            "", "the file is empty",
            "TITLE \"t\"\n", "not a look-up table",
            "LUT_3D_SIZE 1\n", "a size of 2 to 129",
            "LUT_3D_SIZE 999999\n", "a size of 2 to 129",
            "LUT_3D_SIZE 2\n0 0 0\n", "it has 1 of 8 entries",
            "LUT_1D_SIZE 2\n0 0 0\n1 1 1\n1 1 1\n", "more entries than it says",
            "LUT_1D_SIZE 2\n0 0\n1 1 1\n", "three numbers expected",
            "LUT_1D_SIZE 2\n0 0 nan\n1 1 1\n", "is no number",
            "LUT_1D_SIZE 2\nDOMAIN_MAX 0 0 0\n0 0 0\n1 1 1\n", "domain is empty",
            "{\"a\": 1}\n", "is not known here");
    bad.forEach(
        (text, cause) ->
            assertThatThrownBy(() -> table(text))
                .as(text)
                .isInstanceOf(InputError.class)
                .hasMessageContaining(cause));
  }
}
