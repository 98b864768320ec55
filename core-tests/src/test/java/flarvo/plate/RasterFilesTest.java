package flarvo.plate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.plate.remap.TestPicture;
import flarvo.plate.tag.PlateTags;
import flarvo.report.InputError;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Pictures written and read again, at every depth. */
class RasterFilesTest {

  @TempDir Path dir;

  @ParameterizedTest
  @CsvSource({
    "a.png,8,3,0.0020", "a.png,8,4,0.0020", "a.png,16,3,0.000008", "a.png,16,1,0.000008",
    "a.tif,8,3,0.0020", "a.tif,16,4,0.000008", "a.tif,float,3,0", "a.tif,float,1,0",
    "a.exr,half,3,0.0003", "a.exr,half,4,0.0003", "a.exr,float,3,0", "a.exr,float,4,0",
    "a.jpg,8,3,0.03", "a.jpg,8,1,0.03"
  })
  void numbersComeBack(String name, String kind, int channels, double within) {
    List<String> names =
        channels == 1 ? List.of("Y") : List.of("R", "G", "B", "A").subList(0, channels);
    Raster r = TestPicture.of(61, 47, names, SampleKind.of(kind).orElseThrow());
    Path file = dir.resolve(name);
    RasterWriter.write(r, file);
    Raster back = RasterReader.read(file);
    assertThat(back.kind()).isEqualTo(r.kind());
    assertThat(back.channels()).isEqualTo(names);
    assertThat(back.width()).isEqualTo(61);
    assertThat(back.height()).isEqualTo(47);
    for (int i = 0; i < r.values().length; i++) {
      assertThat(Math.abs(back.values()[i] - r.values()[i])).isLessThanOrEqualTo((float) within);
    }
  }

  @Test
  void floatsOverOneAndChannelsOfAnyNameStay() {
    Raster r = Raster.empty(3, 2, List.of("R", "G", "B", "A", "depth.Z"), SampleKind.FLOAT);
    for (int i = 0; i < r.values().length; i++) {
      r.values()[i] = i * 7.25f - 20;
    }
    PlateTags.Attribute own =
        PlateTags.Attribute.exr(
            "studioShot", "string", "mer_010".getBytes(java.nio.charset.StandardCharsets.UTF_8));
    byte[] rate =
        ByteBuffer.allocate(8).order(ByteOrder.LITTLE_ENDIAN).putInt(24000).putInt(1001).array();
    Raster tagged =
        r.with(
            new PlateTags(
                2, List.of(own, PlateTags.Attribute.exr("framesPerSecond", "rational", rate))));
    Path file = dir.resolve("five.exr");
    RasterWriter.write(tagged, file);
    Raster back = RasterReader.read(file);
    assertThat(back.channels()).isEqualTo(r.channels());
    assertThat(back.values()).isEqualTo(r.values());
    assertThat(back.tags().pixelAspect()).isEqualTo(2);
    assertThat(back.tags().attributes())
        .anySatisfy(
            a -> {
              assertThat(a.name()).isEqualTo("studioShot");
              assertThat(a.value()).isEqualTo(own.value());
            });
    PlateHeader header = PlateReader.header(file);
    assertThat(header.facts().rate().orElseThrow()).hasToString("24000/1001");
    assertThat(header.size().pixelAspect()).isEqualTo(2);
  }

  /** The same file by another decoder: what the screen shows. */
  @Test
  void anotherDecoderSeesTheSamePicture() {
    Raster r = TestPicture.of(40, 30, List.of("R", "G", "B"), SampleKind.HALF);
    Path file = dir.resolve("a.exr");
    RasterWriter.write(r, file);
    PlateImage shown = PlateReader.read(file);
    int p = shown.argb()[10 * 40 + 5];
    for (int c = 0; c < 3; c++) {
      double v = r.at(5, 10, c);
      double code = 255 * (1.055 * Math.pow(v, 1 / 2.4) - 0.055);
      assertThat((p >> 16 - 8 * c & 255) - code).isBetween(-1.6, 1.6);
    }
  }

  @Test
  void whatCannotBeWrittenOrReadIsSaid() throws Exception {
    Raster r = TestPicture.of(8, 8, List.of("R", "G", "B"), SampleKind.HALF);
    assertThatThrownBy(() -> RasterWriter.write(r, dir.resolve("a.png")))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("png stores no numbers of half");
    assertThatThrownBy(() -> RasterWriter.write(r, dir.resolve("a.bmp")))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("not the name of a picture");
    RasterWriter.write(r, dir.resolve("a.exr"));
    byte[] whole = Files.readAllBytes(dir.resolve("a.exr"));
    Path cut = dir.resolve("cut.exr");
    for (int n = 0; n < whole.length; n += 37) {
      Files.write(cut, java.util.Arrays.copyOf(whole, n));
      assertThatThrownBy(() -> RasterReader.read(cut)).isInstanceOf(InputError.class);
    }
    assertThat(RasterWriter.kindFor("a.jpg", SampleKind.FLOAT)).isEqualTo(SampleKind.BYTE);
    assertThat(RasterWriter.kindFor("a.png", SampleKind.HALF)).isEqualTo(SampleKind.SHORT);
    assertThat(RasterWriter.kindFor("a.exr", SampleKind.BYTE)).isEqualTo(SampleKind.HALF);
  }
}
