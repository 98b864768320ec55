package flarvo.plate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.HostileFiles;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import flarvo.scene.Rate;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** OpenEXR pictures written here byte by byte from the format's description. */
class ExrTest {

  private static final int W = 8;
  private static final int H = 4;

  @TempDir private Path dir;

  private static void attribute(ByteArrayOutputStream out, String name, String type, byte[] value)
      throws IOException {
    out.write((name + "\0" + type + "\0").getBytes(StandardCharsets.US_ASCII));
    out.write(ints(value.length));
    out.write(value);
  }

  private static byte[] ints(int... v) {
    ByteBuffer b = ByteBuffer.allocate(4 * v.length).order(ByteOrder.LITTLE_ENDIAN);
    for (int i : v) {
      b.putInt(i);
    }
    return b.array();
  }

  private static byte[] join(byte[]... parts) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    for (byte[] p : parts) {
      out.write(p);
    }
    return out.toByteArray();
  }

  private static byte[] channel(String name, boolean half) throws IOException {
    return join((name + "\0").getBytes(StandardCharsets.US_ASCII), ints(half ? 1 : 2, 0, 1, 1));
  }

  /** Linear light: red rises to the right, green downwards, blue is one; alpha is a half. */
  private static float value(char channel, int x, int y) {
    return switch (channel) {
      case 'R' -> x / 8f;
      case 'G' -> y / 4f;
      case 'B' -> 1;
      default -> 0.5f;
    };
  }

  /** Of small shares of two, which half numbers hold exactly. */
  private static short half(float v) {
    int f = Float.floatToIntBits(v);
    return (short) (v == 0 ? 0 : ((f >> 23) - 112) << 10 | f >> 13 & 0x3ff);
  }

  private static byte[] exr(boolean half, boolean alpha) throws IOException {
    char[] names = alpha ? new char[] {'A', 'B', 'G', 'R'} : new char[] {'B', 'G', 'R'};
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    out.write(ints(ExrHeader.MAGIC, 2));
    ByteArrayOutputStream channels = new ByteArrayOutputStream();
    for (char c : names) {
      channels.write(channel(String.valueOf(c), half));
    }
    channels.write(0);
    attribute(out, "channels", "chlist", channels.toByteArray());
    attribute(out, "compression", "compression", new byte[] {0});
    attribute(out, "dataWindow", "box2i", ints(0, 0, W - 1, H - 1));
    attribute(out, "displayWindow", "box2i", ints(0, 0, W - 1, H - 1));
    attribute(out, "framesPerSecond", "rational", ints(24000, 1001));
    attribute(out, "lineOrder", "lineOrder", new byte[] {0});
    attribute(out, "pixelAspectRatio", "float", ints(Float.floatToIntBits(2)));
    attribute(out, "screenWindowCenter", "v2f", ints(0, 0));
    attribute(out, "screenWindowWidth", "float", ints(Float.floatToIntBits(1)));
    // 01:23:45:12 in packed decimals
    attribute(out, "timeCode", "timecode", ints(0x01234512, 0));
    out.write(0);
    int row = names.length * W * (half ? 2 : 4);
    int first = out.size() + 8 * H;
    for (int y = 0; y < H; y++) {
      out.write(ints(first + y * (8 + row), 0));
    }
    for (int y = 0; y < H; y++) {
      out.write(ints(y, row));
      for (char c : names) {
        ByteBuffer b = ByteBuffer.allocate(W * (half ? 2 : 4)).order(ByteOrder.LITTLE_ENDIAN);
        for (int x = 0; x < W; x++) {
          if (half) {
            b.putShort(half(value(c, x, y)));
          } else {
            b.putFloat(value(c, x, y));
          }
        }
        out.write(b.array());
      }
    }
    return out.toByteArray();
  }

  /** A screen's code value of linear light, by the standard's two-part curve. */
  private static int code(double light) {
    double v = light <= 0.0031308 ? 12.92 * light : 1.055 * Math.pow(light, 1 / 2.4) - 0.055;
    return (int) Math.round(255 * v);
  }

  @Test
  void halfAndFloatPicturesAreReadWithTheirHeader() throws IOException {
    for (boolean half : new boolean[] {true, false}) {
      for (boolean alpha : new boolean[] {true, false}) {
        Path folder = Files.createDirectories(dir.resolve("p" + half + alpha));
        Files.write(folder.resolve("a.0007.exr"), exr(half, alpha));
        PlateSequence p = PlateFinder.find(folder).get(0);
        assertThat(p.size()).isEqualTo(new PictureSize(W, H, 2));
        assertThat(p.facts().depth()).isEqualTo(half ? "16 bit float" : "32 bit float");
        assertThat(p.facts().alpha()).isEqualTo(alpha);
        assertThat(p.facts().rate()).contains(Rate.NTSC_24);
        assertThat(p.facts().timecode()).contains("01:23:45:12");
        PlateImage i = PlateReader.read(p, 7);
        double by = alpha ? 0.5 : 1; // colours are multiplied by it
        for (int y = 0; y < H; y++) {
          for (int x = 0; x < W; x++) {
            int argb = i.argb()[y * W + x];
            int red = code(Math.min(1, x / 8.0 / by));
            int green = code(Math.min(1, y / 4.0 / by));
            assertThat(argb >> 16 & 255).as("red at %d %d", x, y).isBetween(red - 1, red + 1);
            assertThat(argb >> 8 & 255).as("green at %d %d", x, y).isBetween(green - 1, green + 1);
            assertThat(argb & 255).isEqualTo(255);
            assertThat(argb >>> 24).isBetween(alpha ? 127 : 255, alpha ? 128 : 255);
          }
        }
      }
    }
  }

  @Test
  void garbledHeadersEndInAnErrorOrAHeader() throws IOException {
    HostileFiles.garbled(exr(true, true), dir.resolve("g.0001.exr"), PlateReader::header);
  }

  @Test
  void aPictureCutOffIsAnError() throws IOException {
    HostileFiles.cutOff(
        exr(true, false), dir.resolve("cut.0001.exr"), cut -> cut == 0, PlateReader::read);
  }

  /** Each in a process that may fall and is replaced. */
  @Test
  void garbledPicturesEndInAnErrorOrAPicture() throws IOException {
    Path sound = Files.write(dir.resolve("s.0001.exr"), exr(true, true));
    PlateReader.read(sound); // the first of all unpacks the library
    HostileFiles.garbled(exr(true, true), dir.resolve("g.0002.exr"), PlateReader::read);
  }

  /**
   * Pictures that the format's own library packed in the ways that our usual decoder does not know,
   * beside what that library unpacks them to.
   */
  @Test
  void rarePackingsAreReadAsTheFormatsOwnLibraryReadsThem() throws Exception {
    for (String packing : List.of("pxr24", "b44", "b44a")) {
      for (String kind : List.of("half", "float")) {
        String name = packing + "_" + kind;
        Raster is = RasterReader.read(resource(name));
        Raster known = RasterReader.read(resource(name + "_zip"));
        assertThat(is.channels()).as(name).isEqualTo(known.channels());
        assertThat(is.kind()).as(name).isEqualTo(known.kind());
        double worst = 0;
        for (int i = 0; i < is.values().length; i++) {
          double k = known.values()[i];
          worst = Math.max(worst, Math.abs(is.values()[i] - k) / Math.max(0.01, Math.abs(k)));
        }
        assertThat(worst).as(name).isLessThan(1e-7);
      }
    }
  }

  /** Decoders that we know read it wrong, some without a word. */
  @Test
  void picturesPackedAsDwaAreRefused() throws Exception {
    Path file = resource("dwaa_half");
    assertThatThrownBy(() -> RasterReader.read(file)).hasMessageContaining("packed as DWA");
    assertThatThrownBy(() -> PlateReader.read(file)).hasMessageContaining("packed as DWA");
    assertThat(PlateReader.header(file).size()).isEqualTo(PictureSize.of(37, 45));
  }

  /** Grey keeps its contrast, and wide pictures of 32 bits packed as PIZ are what they are. */
  @Test
  void whatIsShownIsWhatThePictureHolds() throws Exception {
    for (String name : List.of("grey_half", "piz_float", "pxr24_half", "b44a_float")) {
      Path file = resource(name);
      Raster r = RasterReader.read(file);
      PlateImage shown = PlateReader.read(file);
      int n = r.channels().size();
      for (int i = 0; i < r.width() * r.height(); i++) {
        for (int c = 0; c < 3; c++) {
          int a = r.channel("A");
          float covers = a < 0 ? 1 : r.values()[i * n + a]; // colours are multiplied by it
          float straight = r.values()[i * n + (n < 3 ? 0 : c)] / (covers > 0 ? covers : 1);
          double v = Math.max(0, Math.min(1, straight));
          double code = 255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * Math.pow(v, 1 / 2.4) - 0.055);
          assertThat((double) (shown.argb()[i] >> 16 - 8 * c & 255))
              .as("%s, pixel %d", name, i)
              .isCloseTo(code, within(0.51));
        }
      }
    }
  }

  private Path resource(String name) throws IOException {
    Path to = dir.resolve(name + ".exr");
    try (InputStream in = ExrTest.class.getResourceAsStream("exr/" + name + ".exr")) {
      Files.copy(in, to);
    }
    return to;
  }
}
