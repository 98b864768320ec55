package flarvo.plate.field;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.plate.PlateFinder;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.plate.remap.SequenceName;
import flarvo.plate.tag.PlateTags;
import flarvo.report.InputError;
import flarvo.scene.PlateSequence;
import flarvo.work.Progress;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Interlaced plates taken apart, beside the pictures that they were made of. */
class SequenceFieldsTest {

  private static final int W = 96;
  private static final int H = 75;

  @TempDir Path dir;

  /** A smooth picture at a moment that counts fields. */
  private static double value(double moment, int x, int y, int channel) {
    return 0.5
        + 0.2 * Math.sin(0.21 * (x - 3 * moment) + channel)
        + 0.2 * Math.cos(0.4 * (y - moment) + 0.1 * x);
  }

  private static Raster picture(double even, double odd, SampleKind kind) {
    Raster r = Raster.empty(W, H, List.of("R", "G", "B"), kind);
    for (int y = 0; y < H; y++) {
      for (int x = 0; x < W; x++) {
        for (int c = 0; c < 3; c++) {
          r.values()[(y * W + x) * 3 + c] = (float) value((y & 1) == 0 ? even : odd, x, y, c);
        }
      }
    }
    return r;
  }

  private PlateSequence plates(FieldOrder first, String suffix, SampleKind kind) throws Exception {
    Path folder = Files.createDirectories(dir.resolve("in" + suffix + first.word()));
    for (int f = 0; f < 6; f++) {
      double a = 2 * f;
      Raster r = first == FieldOrder.UPPER ? picture(a, a + 1, kind) : picture(a + 1, a, kind);
      RasterWriter.write(r, folder.resolve("take.100" + f + suffix));
    }
    return PlateFinder.find(folder).get(0);
  }

  private static double worst(Raster is, double moment) {
    double worst = 0;
    for (int y = 4; y < H - 4; y++) {
      for (int x = 0; x < W; x++) {
        for (int c = 0; c < 3; c++) {
          worst = Math.max(worst, Math.abs(is.at(x, y, c) - value(moment, x, y, c)));
        }
      }
    }
    return worst;
  }

  @Test
  void eachFieldIsThePictureOfItsMoment() throws Exception {
    for (String suffix : List.of(".png", ".exr", ".tif")) {
      for (FieldOrder first : FieldOrder.values()) {
        SampleKind kind = suffix.equals(".exr") ? SampleKind.HALF : SampleKind.SHORT;
        PlateSequence in = plates(first, suffix, kind);
        assertThat(Combing.of(in, Progress.NONE).order()).as(suffix).hasValue(first);
        SequenceName to =
            new SequenceName(dir.resolve("out" + suffix + first.word()), "f.", 4, suffix);
        SequenceFields.Outcome o =
            SequenceFields.run(in, to, FieldMethod.SPLIT, first, 2, Progress.NONE);
        assertThat(o.failed()).isEmpty();
        assertThat(o.written()).isEqualTo(12);
        assertThat(o.frames()).hasToString("1000-1011");
        for (int m = 0; m < 12; m++) {
          Raster r = RasterReader.read(to.file(1000 + m));
          assertThat(r.kind()).isEqualTo(kind);
          // Lines between are interpolated: 1 % of what a line of the field is off by.
          assertThat(worst(r, m)).as(suffix + " moment " + m).isLessThan(0.006);
        }
        assertThat(Combing.of(PlateFinder.find(to.folder()).get(0), Progress.NONE).kind())
            .isEqualTo(Interlacing.Kind.PROGRESSIVE);
      }
    }
  }

  @Test
  void blendedFieldsAreTheMeanOfBoth() throws Exception {
    PlateSequence in = plates(FieldOrder.UPPER, ".png", SampleKind.SHORT);
    SequenceName to = new SequenceName(dir.resolve("blend"), "b.", 4, ".png");
    SequenceFields.run(in, to, FieldMethod.BLEND, FieldOrder.UPPER, 1, Progress.NONE);
    Raster r = RasterReader.read(to.file(1003));
    for (int y = 4; y < H - 4; y += 3) {
      for (int x = 0; x < W; x += 5) {
        double mean = (value(6, x, y, 1) + value(7, x, y, 1)) / 2;
        assertThat((double) r.at(x, y, 1)).isCloseTo(mean, within(0.006));
      }
    }
  }

  /**
   * Its rate is doubled, what else it says is kept, and a timecode of half frames there is none.
   */
  @Test
  void tagsGoAlong() {
    byte[] rate =
        ByteBuffer.allocate(8).order(ByteOrder.LITTLE_ENDIAN).putInt(30000).putInt(1001).array();
    PlateTags tags =
        new PlateTags(
            1.4587,
            List.of(
                PlateTags.Attribute.exr("framesPerSecond", "rational", rate),
                PlateTags.Attribute.exr("timeCode", "timecode", new byte[8]),
                PlateTags.Attribute.exr("studio", "string", new byte[] {'x'})));
    Raster r = FieldSplit.field(picture(0, 1, SampleKind.HALF).with(tags), FieldOrder.UPPER);
    assertThat(r.tags().pixelAspect()).isEqualTo(1.4587);
    assertThat(r.tags().attributes())
        .extracting(PlateTags.Attribute::name)
        .containsExactly("framesPerSecond", "studio");
    ByteBuffer b =
        ByteBuffer.wrap(r.tags().attributes().get(0).value()).order(ByteOrder.LITTLE_ENDIAN);
    assertThat(b.getInt(0)).isEqualTo(60000);
    assertThat(b.getInt(4)).isEqualTo(1001);
    assertThat(FieldSplit.blended(picture(0, 1, SampleKind.HALF).with(tags)).tags())
        .isEqualTo(tags);
  }

  /** Pictures of one to four lines have fields too. */
  @Test
  void smallPicturesAreTakenApartToo() {
    for (int h = 1; h < 5; h++) {
      Raster r = Raster.empty(2, h, List.of("Y"), SampleKind.SHORT);
      for (int i = 0; i < r.values().length; i++) {
        r.values()[i] = i / 2 % 2 == 0 ? 0.25f : 0.75f;
      }
      assertThat(FieldSplit.field(r, FieldOrder.UPPER).values()).containsOnly(0.25f);
      assertThat(FieldSplit.field(r, FieldOrder.LOWER).values())
          .containsOnly(h == 1 ? 0.25f : 0.75f);
    }
  }

  @Test
  void aFrameThatCannotBeReadIsNamedAndTheOthersGoOn() throws Exception {
    PlateSequence in = plates(FieldOrder.LOWER, ".png", SampleKind.BYTE);
    Files.write(in.file(1002), new byte[] {1, 2, 3});
    SequenceName to = new SequenceName(dir.resolve("some"), "s.", 4, ".png");
    SequenceFields.Outcome o =
        SequenceFields.run(in, to, FieldMethod.SPLIT, FieldOrder.LOWER, 2, Progress.NONE);
    assertThat(o.failed()).containsOnlyKeys(1002);
    assertThat(o.written()).isEqualTo(10);
    assertThat(to.file(1004)).doesNotExist();
    assertThat(to.file(1011)).exists();
    SequenceName same = new SequenceName(in.folder(), in.prefix(), 4, ".png");
    assertThatThrownBy(
            () ->
                SequenceFields.run(in, same, FieldMethod.SPLIT, FieldOrder.LOWER, 2, Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("this is the source");
  }
}
