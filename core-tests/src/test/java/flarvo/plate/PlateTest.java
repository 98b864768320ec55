package flarvo.plate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.HostileFiles;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateFacts;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.zip.CRC32;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class PlateTest {

  @TempDir private Path dir;

  private Path picture(String name, String kind) throws IOException {
    BufferedImage i = new BufferedImage(20, 10, BufferedImage.TYPE_INT_RGB);
    i.setRGB(3, 2, 0xFF8000);
    Path f = dir.resolve(name);
    ImageIO.write(i, kind, f.toFile());
    return f;
  }

  @Test
  void findsPatternPaddingRangeAndGaps() throws IOException {
    for (int f : new int[] {8, 9, 10, 13}) {
      picture(String.format("shot_v2.%04d.png", f), "png");
    }
    Files.writeString(dir.resolve("notes.txt"), "x");
    PlateSequence p = PlateFinder.find(dir).get(0);
    assertThat(p.pattern()).isEqualTo("shot_v2.####.png");
    assertThat(p.frames()).isEqualTo(new FrameRange(8, 13));
    assertThat(p.missing()).containsExactly(11, 12);
    assertThat(p.size()).isEqualTo(PictureSize.of(20, 10));
    assertThat(p.file(9)).exists();
    assertThat(p.role()).isEqualTo(PlateRole.ORIGINAL);
  }

  @Test
  void namesWithoutPaddingAndTwoSequencesInOneFolder() throws IOException {
    for (int f : new int[] {9, 10, 100}) {
      picture("a_undist" + f + ".jpg", "jpg");
    }
    Path other = picture("b-007.png", "png");
    List<PlateSequence> all = PlateFinder.find(dir);
    assertThat(all).hasSize(2);
    assertThat(all.get(0).padding()).isZero();
    assertThat(all.get(0).file(9)).exists();
    assertThat(all.get(0).role()).isEqualTo(PlateRole.UNDISTORTED);
    PlateSequence one = PlateFinder.find(other).get(0);
    assertThat(one.pattern()).isEqualTo("b-###.png");
    assertThat(one.frames()).isEqualTo(new FrameRange(7, 7));
  }

  @Test
  void readsTiffOfSixteenBits() throws IOException {
    BufferedImage deep = new BufferedImage(6, 4, BufferedImage.TYPE_USHORT_GRAY);
    deep.getRaster().setSample(2, 1, 0, 0xFFFF);
    Path f = dir.resolve("deep.0007.tif");
    assertThat(ImageIO.write(deep, "tiff", f.toFile())).isTrue();
    PlateSequence p = PlateFinder.find(f).get(0);
    assertThat(p.frames()).isEqualTo(new FrameRange(7, 7));
    PlateImage i = PlateReader.read(p, 7);
    assertThat(i.argb()[6 + 2]).isEqualTo(0xFFFFFFFF);
    assertThat(i.argb()[0]).isEqualTo(0xFF000000);
  }

  @Test
  void depthAlphaAndPixelAspectComeFromTheHeader() throws IOException {
    assertThat(PlateFinder.find(picture("a.0001.jpg", "jpg")).get(0).facts())
        .isEqualTo(new PlateFacts(8, false, false, Optional.empty(), Optional.empty(), ""));
    BufferedImage clear = new BufferedImage(4, 3, BufferedImage.TYPE_INT_ARGB);
    ImageIO.write(clear, "png", dir.resolve("b.0001.png").toFile());
    assertThat(PlateFinder.find(dir.resolve("b.0001.png")).get(0).facts().alpha()).isTrue();
    BufferedImage deep = new BufferedImage(4, 3, BufferedImage.TYPE_USHORT_GRAY);
    ImageIO.write(deep, "tiff", dir.resolve("c.0001.tif").toFile());
    assertThat(PlateFinder.find(dir.resolve("c.0001.tif")).get(0).facts().depth())
        .isEqualTo("16 bit");
    // A chunk of its own: 1000 pixels a unit across, 2000 upright, so pixels are twice as wide.
    byte[] png = Files.readAllBytes(dir.resolve("b.0001.png"));
    byte[] size = ByteBuffer.allocate(13).put(ascii("pHYs")).putInt(1000).putInt(2000).array();
    CRC32 sum = new CRC32();
    sum.update(size);
    ByteBuffer out = ByteBuffer.allocate(png.length + 21);
    out.put(png, 0, 33).putInt(9).put(size).putInt((int) sum.getValue());
    out.put(png, 33, png.length - 33);
    Files.write(dir.resolve("d.0001.png"), out.array());
    assertThat(PlateFinder.find(dir.resolve("d.0001.png")).get(0).size())
        .isEqualTo(new PictureSize(4, 3, 2));
  }

  @Test
  void jpegStatesTheShapeOfItsPixelsToo() throws IOException {
    Path file = picture("e.0001.jpg", "jpg");
    byte[] jpeg = Files.readAllBytes(file);
    assertThat(new String(jpeg, 6, 4, java.nio.charset.StandardCharsets.US_ASCII))
        .isEqualTo("JFIF");
    // Name and end of name, two bytes of version, one of the unit, then the densities.
    assertThat(ByteBuffer.wrap(jpeg).getInt(14)).as("as dense both ways").isEqualTo(0x00010001);
    // Three pixels across in the room of two upright: narrow ones.
    ByteBuffer.wrap(jpeg).putShort(14, (short) 3).putShort(16, (short) 2);
    Files.write(file, jpeg);
    assertThat(PlateFinder.find(file).get(0).size().pixelAspect())
        .isCloseTo(2 / 3.0, org.assertj.core.api.Assertions.within(1e-12));
  }

  private static byte[] ascii(String s) {
    return s.getBytes(java.nio.charset.StandardCharsets.US_ASCII);
  }

  @Test
  void namesTellWhatASequenceIsFor() throws IOException {
    for (String s : new String[] {"fg_keyed", "fg_proxy", "fg_undist", "fg"}) {
      picture(s + ".0001.png", "png");
    }
    assertThat(PlateFinder.find(dir))
        .extracting(PlateSequence::role)
        .containsExactlyInAnyOrder(
            PlateRole.KEYED, PlateRole.PROXY, PlateRole.UNDISTORTED, PlateRole.ORIGINAL);
  }

  @Test
  void readsPixels() throws IOException {
    PlateImage i = PlateReader.read(picture("p.0001.png", "png"));
    assertThat(i.width()).isEqualTo(20);
    assertThat(i.argb()[2 * 20 + 3]).isEqualTo(0xFFFF8000);
  }

  @Test
  void badPicturesAreErrors() throws IOException {
    assertThatThrownBy(() -> PlateReader.read(dir.resolve("none.png")))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("image not found");
    Path text = dir.resolve("t.0001.png");
    Files.writeString(text, "not a picture");
    assertThatThrownBy(() -> PlateReader.read(text)).isInstanceOf(InputError.class);
    assertThatThrownBy(() -> PlateFinder.find(dir.resolve("nowhere").resolve("x.png")))
        .isInstanceOf(InputError.class);
    Files.delete(text);
    assertThatThrownBy(() -> PlateFinder.find(dir))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no numbered images");
  }

  /** Noise, so that every byte of the file counts. */
  private byte[] noise(String kind) throws IOException {
    BufferedImage i = new BufferedImage(24, 16, BufferedImage.TYPE_INT_RGB);
    Random r = new Random(8);
    for (int p = 0; p < 24 * 16; p++) {
      i.setRGB(p % 24, p / 24, r.nextInt(1 << 24));
    }
    Path f = dir.resolve("noise." + kind);
    assertThat(ImageIO.write(i, kind, f.toFile())).isTrue();
    return Files.readAllBytes(f);
  }

  @ParameterizedTest
  @ValueSource(strings = {"png", "jpg", "tiff"})
  void brokenPicturesAreErrorsOrPictures(String kind) throws IOException {
    HostileFiles.garbled(noise(kind), dir.resolve("broken." + kind), PlateReader::read);
  }

  @ParameterizedTest
  @ValueSource(strings = {"png", "jpg", "tiff"})
  void aPictureCutOffIsAnError(String kind) throws IOException {
    byte[] whole = noise(kind);
    int end = whole.length - (kind.equals("jpg") ? 2 : 0); // its end mark only says that it ends
    HostileFiles.cutOff(
        whole, dir.resolve("cut." + kind), cut -> cut == 0 || cut >= end, PlateReader::read);
  }
}
