package flarvo.plate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.scene.Luma;
import java.awt.color.ColorSpace;
import java.awt.image.BufferedImage;
import java.awt.image.ColorModel;
import java.awt.image.ComponentColorModel;
import java.awt.image.DataBuffer;
import java.awt.image.WritableRaster;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Pictures of many kinds, beside what Java itself makes of them. */
class BytePixelsTest {

  private static final int WIDTH = 61;
  private static final int HEIGHT = 37;

  @TempDir private Path dir;

  private record Kind(String name, String format, BufferedImage image) {
    @Override
    public String toString() {
      return name;
    }
  }

  private static List<Kind> kinds() {
    ColorModel linear =
        new ComponentColorModel(
            ColorSpace.getInstance(ColorSpace.CS_LINEAR_RGB),
            false,
            false,
            ColorModel.OPAQUE,
            DataBuffer.TYPE_BYTE);
    WritableRaster raster = linear.createCompatibleWritableRaster(WIDTH, HEIGHT);
    return List.of(
        new Kind("JPEG", "jpg", of(BufferedImage.TYPE_3BYTE_BGR)),
        new Kind("JPEG from packed pixels", "jpg", of(BufferedImage.TYPE_INT_RGB)),
        new Kind("grey JPEG", "jpg", of(BufferedImage.TYPE_BYTE_GRAY)),
        new Kind(
            "JPEG with a profile", "jpg", painted(new BufferedImage(linear, raster, false, null))),
        new Kind("PNG", "png", of(BufferedImage.TYPE_3BYTE_BGR)),
        new Kind("PNG with alpha", "png", of(BufferedImage.TYPE_4BYTE_ABGR)),
        new Kind("PNG with a palette", "png", of(BufferedImage.TYPE_BYTE_INDEXED)),
        new Kind("TIFF", "tif", of(BufferedImage.TYPE_3BYTE_BGR)));
  }

  private static BufferedImage of(int type) {
    return painted(new BufferedImage(WIDTH, HEIGHT, type));
  }

  private static BufferedImage painted(BufferedImage image) {
    Random r = new Random(4);
    for (int y = 0; y < HEIGHT; y++) {
      for (int x = 0; x < WIDTH; x++) {
        int v = r.nextInt(40);
        image.setRGB(x, y, 0xFF000000 | 4 * x << 16 | 5 * y + v << 8 | 200 - 2 * x + v);
      }
    }
    return image;
  }

  /** Grey pixels keep their numbers when they are drawn, and not when they are asked for. */
  private static BufferedImage drawn(BufferedImage image) {
    BufferedImage out = new BufferedImage(WIDTH, HEIGHT, BufferedImage.TYPE_INT_ARGB);
    out.createGraphics().drawImage(image, 0, 0, null);
    return out;
  }

  @ParameterizedTest
  @MethodSource("kinds")
  void pixelsAreThoseThatJavaReads(Kind kind) throws IOException {
    Path file = dir.resolve("a.1." + kind.format);
    assertThat(ImageIO.write(kind.image, kind.format, file.toFile())).isTrue();
    BufferedImage java = drawn(ImageIO.read(file.toFile()));
    PlateImage ours = PlateReader.read(file);
    Luma luma = PlateLuma.of(PlateFinder.find(dir).get(0), 1).orElseThrow();
    Raster raster = RasterReader.read(file);
    int green = raster.channels().size() < 3 ? 0 : 1;
    for (int y = 0; y < HEIGHT; y++) {
      for (int x = 0; x < WIDTH; x++) {
        int c = java.getRGB(x, y);
        assertThat(ours.argb()[y * WIDTH + x]).as("pixel %d, %d", x, y).isEqualTo(c);
        assertThat(luma.at(x, y))
            .as("brightness at %d, %d", x, y)
            .isCloseTo(
                0.299f * (c >> 16 & 255) + 0.587f * (c >> 8 & 255) + 0.114f * (c & 255),
                within(1e-3f));
        assertThat(raster.at(x, y, green)).isEqualTo((c >> 8 & 255) / 255f);
      }
    }
  }
}
