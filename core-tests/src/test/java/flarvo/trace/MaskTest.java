package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.lens.Lens;
import flarvo.lens.LensTrack;
import flarvo.lens.RadialPolynomial;
import flarvo.plate.PlateLuma;
import flarvo.plate.Raster;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import java.awt.geom.Path2D;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Drawn shapes and received mattes. */
@Tag("numeric")
class MaskTest {

  private static MaskShape keyed() {
    return new MaskShape(
        "box",
        new TreeMap<>(
            Map.of(
                10, new double[] {0, 0, 10, 0, 10, 10, 0, 10},
                20, new double[] {100, 0, 110, 0, 110, 10, 100, 10})));
  }

  @Test
  void aShapeMovesStraightBetweenItsKeys() {
    MaskShape m = keyed();
    assertThat(m.at(15)).containsExactly(50, 0, 60, 0, 60, 10, 50, 10);
    assertThat(m.at(3)).isEqualTo(m.at(10));
    assertThat(m.at(99)).isEqualTo(m.at(20));
    assertThat(m.covers(15, 55, 5)).isTrue();
    assertThat(m.covers(15, 5, 5)).isFalse();
    assertThat(m.inverted().covers(15, 5, 5)).isTrue();
    assertThat(m.or(MaskShape.still("t", 0, 0, 9, 0, 0, 9)).covers(15, 2, 2)).isTrue();
  }

  /** Beside the polygons of the Java library, for random shapes that may cross themselves. */
  @Test
  void insideIsWhatAnotherLibraryCallsInside() {
    Random r = new Random(2);
    for (int k = 0; k < 200; k++) {
      int n = 3 + r.nextInt(9);
      double[] p = r.doubles(2L * n, 0, 100).toArray();
      Path2D path = new Path2D.Double(Path2D.WIND_EVEN_ODD);
      path.moveTo(p[0], p[1]);
      for (int i = 1; i < n; i++) {
        path.lineTo(p[2 * i], p[2 * i + 1]);
      }
      path.closePath();
      MaskShape m = MaskShape.still("m", p);
      for (int i = 0; i < 100; i++) {
        double x = 100 * r.nextDouble();
        double y = 100 * r.nextDouble();
        assertThat(m.covers(0, x, y)).isEqualTo(path.contains(x, y));
      }
    }
  }

  private static final PictureSize HD = PictureSize.of(1920, 1080);

  /** A radial lens that breathes: k1 goes from 0.05 on frame 1 to 0.15 on frame 11. */
  private static LensTrack breathing() {
    return new LensTrack(
        Lens.centred(new RadialPolynomial(0.05, 0, 0, 0)),
        new TreeMap<>(
            Map.of(
                1, new RadialPolynomial(0.05, 0, 0, 0), 11, new RadialPolynomial(0.15, 0, 0, 0))));
  }

  /**
   * Over other plates a mask covers the same things: worked out here with the lens's own formula,
   * from its middle. It is asked from many threads, as it is when features are followed.
   */
  @Test
  void aMaskDrawnOverOriginalPlatesCoversTheSameInUndistortedOnesAndBack() {
    MaskShape shape = MaskShape.still("m", 100, 90, 700, 60, 820, 500, 130, 600);
    DrawnMask bent = new DrawnMask(Optional.of(PlateRole.ORIGINAL), shape);
    DrawnMask straight = new DrawnMask(Optional.of(PlateRole.UNDISTORTED), shape);
    Optional<LensTrack> lens = Optional.of(breathing());
    Mask overStraight = bent.over(PlateRole.UNDISTORTED, lens, HD);
    Mask overBent = straight.over(PlateRole.ORIGINAL, lens, HD);
    int[] differs = new int[2];
    new Random(5)
        .ints(4000, 0, 4_000_000)
        .parallel()
        .forEach(
            k -> {
              int frame = 1 + k % 11;
              double ox = k % 1999 * 0.5;
              double oy = k / 1999 % 1400 * 0.5;
              double k1 = 0.05 + 0.1 * (frame - 1) / 10;
              double x = (ox - 960) / 960;
              double y = (oy - 540) / 960;
              double s = 1 + k1 * (x * x + y * y);
              double ux = 960 + 960 * s * x;
              double uy = 540 + 960 * s * y;
              assertThat(overStraight.covers(frame, ux, uy)).isEqualTo(shape.covers(0, ox, oy));
              assertThat(overBent.covers(frame, ox, oy)).isEqualTo(shape.covers(0, ux, uy));
              synchronized (differs) {
                differs[0] += shape.covers(0, ux, uy) != shape.covers(0, ox, oy) ? 1 : 0;
                differs[1] += shape.covers(0, ox, oy) ? 1 : 0;
              }
            });
    assertThat(differs[0]).as("where the lens matters").isGreaterThan(50);
    assertThat(differs[1]).as("covered").isGreaterThan(500);
  }

  @Test
  void aMaskIsTakenAsItIsOverItsOwnPlatesWithoutALensAndFromOlderProjects() {
    MaskShape shape = MaskShape.still("m", 100, 90, 700, 60, 820, 500);
    Optional<LensTrack> lens = Optional.of(breathing());
    DrawnMask bent = new DrawnMask(Optional.of(PlateRole.ORIGINAL), shape);
    assertThat(bent.over(PlateRole.ORIGINAL, lens, HD)).isSameAs(shape);
    assertThat(bent.over(PlateRole.UNDISTORTED, Optional.empty(), HD)).isSameAs(shape);
    assertThat(new DrawnMask(Optional.empty(), shape).over(PlateRole.UNDISTORTED, lens, HD))
        .isSameAs(shape);
    // What lies beyond the fold is nowhere in the original, so it is not covered.
    LensTrack folds = LensTrack.of(Lens.centred(new RadialPolynomial(-0.4, 0, 0, 0)));
    MaskShape all = MaskShape.still("a", -9e3, -9e3, 9e3, -9e3, 9e3, 9e3, -9e3, 9e3);
    Mask m =
        new DrawnMask(Optional.of(PlateRole.ORIGINAL), all)
            .over(PlateRole.UNDISTORTED, Optional.of(folds), HD);
    assertThat(m.covers(1, 960, 540)).isTrue();
    assertThat(m.covers(1, 960 + 5000, 540)).isFalse();
  }

  /** The alpha of keyed plates, read from pictures of every depth; the colour does not count. */
  @Test
  void aKeyedPlateMasksWhatItsAlphaCovers(@TempDir Path dir) {
    for (String suffix : List.of(".png", ".exr", ".tif")) {
      SampleKind kind = suffix.equals(".exr") ? SampleKind.HALF : SampleKind.SHORT;
      Raster r = Raster.empty(20, 10, List.of("R", "G", "B", "A"), kind);
      for (int i = 0; i < 200; i++) {
        r.values()[4 * i] = i % 20 < 10 ? 1 : 0; // red where it is clear
        r.values()[4 * i + 3] = i % 20 < 10 ? 0 : 0.8f;
      }
      PlateSequence s =
          new PlateSequence(
              dir,
              "k.",
              4,
              suffix,
              new FrameRange(1001, 1001),
              List.of(),
              PictureSize.of(20, 10),
              PlateRole.KEYED);
      RasterWriter.write(r, s.file(1001));
      Matte m = new Matte(f -> PlateLuma.alpha(s, f), PictureSize.of(40, 20));
      assertThat(m.covers(1001, 30, 10)).as(suffix).isTrue();
      assertThat(m.covers(1001, 10, 10)).as(suffix).isFalse();
      assertThat(m.covers(1002, 30, 10)).as("a frame that is not there").isFalse();
      assertThat(m.inverted().covers(1001, 10, 10)).isTrue();
    }
    PlateSequence plain =
        new PlateSequence(
            dir,
            "p.",
            4,
            ".png",
            new FrameRange(1, 1),
            List.of(),
            PictureSize.of(4, 4),
            PlateRole.ORIGINAL);
    RasterWriter.write(Raster.empty(4, 4, List.of("R", "G", "B"), SampleKind.BYTE), plain.file(1));
    assertThat(PlateLuma.alpha(plain, 1)).isEmpty();
  }

  @Test
  void shapesGoThroughJson() {
    String text = "[" + MaskJson.write(keyed()) + "]";
    assertThat(MaskJson.parse("m.json", text)).isEqualTo(List.of(keyed()));
  }

  @Test
  void badShapesAreRefusedWithTheirPlace() {
    Map<String, String> bad =
        Map.of(
            "[]",
            "no shapes",
            "{",
            "not valid JSON",
            "[{\"name\":\"a\",\"keys\":[]}]",
            "a key at least",
            "[{\"name\":\"a\",\"keys\":[{\"frame\":1,\"corners\":[[1,2],[3,4]]}]}]",
            "3 to 1000 corners",
            "[{\"name\":\"a\",\"keys\":[{\"frame\":1,\"corners\":[[1,2],[3,4],[5,6]]},"
                + "{\"frame\":1,\"corners\":[[1,2],[3,4],[5,6]]}]}]",
            "two keys",
            "[{\"name\":\"a\",\"keys\":[{\"frame\":1,\"corners\":[[1,2],[3,4],[5,6]]},"
                + "{\"frame\":2,\"corners\":[[1,2],[3,4],[5,6],[7,8]]}]}]",
            "as many corners");
    bad.forEach(
        (text, why) ->
            assertThatThrownBy(() -> MaskJson.parse("m.json", text))
                .as(text)
                .isInstanceOf(InputError.class)
                .hasMessageContaining("m.json")
                .hasMessageContaining(why));
  }

  @Test
  void aMatteMayBeOfAnotherSize() {
    float[] v = new float[16];
    v[5] = 255; // second of four, in both directions
    Matte m =
        new Matte(
            f -> f == 3 ? Optional.of(new Luma(4, 4, v)) : Optional.empty(),
            PictureSize.of(400, 400));
    assertThat(m.covers(3, 150, 150)).isTrue();
    assertThat(m.covers(3, 50, 150)).isFalse();
    assertThat(m.covers(4, 150, 150)).as("no such frame").isFalse();
    assertThat(m.covers(3, -1, 500)).as("beside it").isFalse();
  }
}
