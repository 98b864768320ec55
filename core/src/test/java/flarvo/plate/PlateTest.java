package flarvo.plate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

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
  void readsPixels() throws IOException {
    PlateImage i = PlateReader.read(picture("p.0001.png", "png"));
    assertThat(i.width()).isEqualTo(20);
    assertThat(i.argb()[2 * 20 + 3]).isEqualTo(0xFFFF8000);
  }

  @Test
  void badPicturesAreErrors() throws IOException {
    assertThatThrownBy(() -> PlateReader.read(dir.resolve("none.png")))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no such picture");
    Path text = dir.resolve("t.0001.png");
    Files.writeString(text, "this is no picture");
    assertThatThrownBy(() -> PlateReader.read(text)).isInstanceOf(InputError.class);
    assertThatThrownBy(() -> PlateFinder.find(dir.resolve("nowhere").resolve("x.png")))
        .isInstanceOf(InputError.class);
    Files.delete(text);
    assertThatThrownBy(() -> PlateFinder.find(dir))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no numbered pictures");
  }

  @Test
  void brokenPicturesNeverCrash() throws IOException {
    Random r = new Random(3);
    for (String kind : new String[] {"png", "jpg"}) {
      byte[] whole = Files.readAllBytes(picture("w.0001." + kind, kind));
      Path f = dir.resolve("broken." + kind);
      for (int i = 0; i < 300; i++) {
        byte[] bad = whole.clone();
        for (int k = 0; k < 3; k++) {
          bad[r.nextInt(bad.length)] = (byte) r.nextInt(256);
        }
        Files.write(f, i % 3 == 0 ? java.util.Arrays.copyOf(bad, r.nextInt(bad.length)) : bad);
        try {
          PlateReader.read(f);
        } catch (InputError expected) {
          assertThat(expected.getMessage()).contains(f.toString());
        }
      }
    }
  }
}
