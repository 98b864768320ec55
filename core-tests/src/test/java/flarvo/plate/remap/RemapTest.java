package flarvo.plate.remap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.lens.BrownConrady;
import flarvo.lens.Direction;
import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.lens.RadialPolynomial;
import flarvo.plate.Raster;
import flarvo.plate.SampleKind;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.PixelIntrinsics;
import java.util.List;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

@Tag("numeric")
class RemapTest {

  private static final PictureSize SIZE = PictureSize.of(320, 180);
  private static final Lens LENS = Lens.centred(new RadialPolynomial(0.062, 0.014, 0, 0));
  private static final List<String> RGB = List.of("R", "G", "B");

  /** What a filter makes of a known picture, against the picture itself at the same points. */
  @ParameterizedTest
  @EnumSource
  void aKnownPictureIsSampledRight(Filter filter) {
    LensMapper lens = LENS.on(SIZE);
    Overscan none = Overscan.none(SIZE);
    Raster from = TestPicture.of(320, 180, RGB, SampleKind.FLOAT);
    PositionGrid g = PositionGrid.of(lens, Direction.ORIGINAL_TO_UNDISTORTED, none);
    Raster to = new Remap(g, filter, Light.ENCODED).apply(from);
    double worst = 0;
    double[] p = new double[2];
    for (int y = 20; y < 160; y++) {
      for (int x = 20; x < 300; x++) {
        lens.toOriginal(x + 0.5, y + 0.5, p);
        for (int c = 0; c < 3; c++) {
          worst = Math.max(worst, Math.abs(to.at(x, y, c) - TestPicture.at(p[0], p[1], c)));
        }
      }
    }
    double allowed =
        switch (filter) {
          case NEAREST -> 0.03;
          case BILINEAR -> 0.0012;
          case BICUBIC -> 0.00002;
          case LANCZOS -> 0.0012;
        };
    assertThat(worst).isLessThan(allowed);
    // A filter that was worse by a half would be another filter.
    assertThat(worst).isGreaterThan(allowed / 12);
  }

  @Test
  void undistortedAndBackIsTheSamePicture() {
    LensMapper lens = LENS.on(SIZE);
    Overscan fit = Overscan.fit(lens);
    assertThat(fit.isNone()).isFalse();
    Raster from = TestPicture.of(320, 180, RGB, SampleKind.FLOAT);
    Raster straight =
        new Remap(
                PositionGrid.of(lens, Direction.ORIGINAL_TO_UNDISTORTED, fit),
                Filter.BICUBIC,
                Light.ENCODED)
            .apply(from);
    assertThat(straight.width()).isEqualTo(fit.width());
    Raster back =
        new Remap(
                PositionGrid.of(lens, Direction.UNDISTORTED_TO_ORIGINAL, fit),
                Filter.BICUBIC,
                Light.ENCODED)
            .apply(straight);
    assertThat(psnr(from, back, 4)).isGreaterThan(60);
    // Nothing of the original is lost at its edges either, only sampled from fewer pixels.
    assertThat(psnr(from, back, 0)).isGreaterThan(35);
  }

  private static double psnr(Raster a, Raster b, int border) {
    double s = 0;
    int n = 0;
    for (int y = border; y < a.height() - border; y++) {
      for (int x = border; x < a.width() - border; x++) {
        for (int c = 0; c < a.channels().size(); c++) {
          double d = a.at(x, y, c) - b.at(x, y, c);
          s += d * d;
          n++;
        }
      }
    }
    return -10 * Math.log10(s / n);
  }

  /** A part off the centre is the same pixels, and goes back to where it came from. */
  @Test
  void aPartIsCutOutOfTheWhole() {
    LensMapper lens = LENS.on(SIZE);
    Raster from = TestPicture.of(320, 180, RGB, SampleKind.FLOAT);
    Raster whole = straight(from, lens, Overscan.none(SIZE));
    Overscan part = new OverscanRule.Part(150, 90, 120, -10).on(null, SIZE);
    Raster cut = straight(from, lens, part);
    for (int y = 10; y < 90; y++) {
      for (int x = 0; x < 150; x++) {
        assertThat(cut.at(x, y, 1)).isCloseTo(whole.at(x + 120, y - 10, 1), within(1e-6f));
      }
    }
    Raster back =
        new Remap(
                PositionGrid.of(lens, Direction.UNDISTORTED_TO_ORIGINAL, part),
                Filter.BICUBIC,
                Light.ENCODED)
            .apply(cut);
    for (int y = 10; y < 60; y++) {
      for (int x = 140; x < 250; x++) {
        assertThat(back.at(x, y, 1)).isCloseTo(from.at(x, y, 1), within(2e-4f));
      }
    }
    assertThat(back.at(60, 90, 1)).isZero();
  }

  private static Raster straight(Raster from, LensMapper lens, Overscan overscan) {
    return new Remap(
            PositionGrid.of(lens, Direction.ORIGINAL_TO_UNDISTORTED, overscan),
            Filter.BICUBIC,
            Light.ENCODED)
        .apply(from);
  }

  @Test
  void overscanIsWrittenAsItIsRead() {
    for (String word : List.of("none", "fit", "1920x1080", "1200x700+64-20", "2200x1300-140-0")) {
      OverscanRule rule = OverscanRule.parse(word);
      assertThat(OverscanRule.parse(rule.word())).as(word).isEqualTo(rule);
    }
    assertThat(OverscanRule.parse("1200x700+64-20"))
        .isEqualTo(new OverscanRule.Part(1200, 700, 64, -20));
    for (String word : List.of("1200x700+64", "1200x700+-64+1", "x700+1+1", "", "much")) {
      assertThatThrownBy(() -> OverscanRule.parse(word))
          .isInstanceOf(IllegalArgumentException.class);
    }
  }

  @Test
  void beyondThePictureThereIsNothing() {
    LensMapper lens = LENS.on(SIZE);
    Overscan wide = new Overscan(SIZE, 480, 270);
    Raster from = TestPicture.of(320, 180, List.of("R", "G", "B", "A"), SampleKind.FLOAT);
    Raster to =
        new Remap(
                PositionGrid.of(lens, Direction.ORIGINAL_TO_UNDISTORTED, wide),
                Filter.LANCZOS,
                Light.ENCODED)
            .apply(from);
    for (int c = 0; c < 4; c++) {
      assertThat(to.at(0, 0, c)).isZero();
      assertThat(to.at(240, 135, c)).isGreaterThan(0.05f);
    }
  }

  @Test
  void linearLightIsAveragedAsLight() {
    // A sharp edge, half way: encoded 0.5, in light sRGB's 0.7354.
    Raster from = Raster.empty(4, 2, List.of("Y"), SampleKind.BYTE);
    for (int y = 0; y < 2; y++) {
      from.values()[4 * y + 2] = 1;
      from.values()[4 * y + 3] = 1;
    }
    PictureSize size = PictureSize.of(4, 2);
    LensMapper none = Lens.centred(new RadialPolynomial(0, 0, 0, 0)).on(size);
    // Made one pixel wider, every pixel falls half way between two.
    PositionGrid g =
        PositionGrid.of(none, Direction.ORIGINAL_TO_UNDISTORTED, new Overscan(size, 5, 2));
    assertThat(new Remap(g, Filter.BILINEAR, Light.ENCODED).apply(from).at(2, 0, 0))
        .isCloseTo(0.5f, within(1e-6f));
    assertThat(new Remap(g, Filter.BILINEAR, Light.LINEAR).apply(from).at(2, 0, 0))
        .isCloseTo(0.73536f, within(1e-4f));
  }

  /** The camera over the larger picture puts every point on the same feature. */
  @Test
  void theCameraGrowsWithThePicture() {
    follows(new Overscan(SIZE, 361, 202));
    follows(new Overscan(SIZE, 200, 120, -90, -13));
    follows(new Overscan(SIZE, 400, 120, 77.5, -30));
  }

  private static void follows(Overscan wide) {
    Optics o = new Optics(17.5, 24.6, 13.8375, 0.31, -0.12);
    PixelIntrinsics before = PixelIntrinsics.of(o, SIZE);
    PixelIntrinsics after = PixelIntrinsics.of(wide.optics(o), wide.size());
    for (double x = -0.6; x < 0.6; x += 0.05) {
      for (double y = -0.4; y < 0.4; y += 0.05) {
        double dx = after.cx() + after.fx() * x - wide.left() - (before.cx() + before.fx() * x);
        double dy = after.cy() - after.fy() * y - wide.top() - (before.cy() - before.fy() * y);
        assertThat(Math.hypot(dx, dy)).isLessThan(1e-9);
      }
    }
  }

  @Test
  void mapsAreAppliedAsTheLens() {
    LensMapper lens =
        Lens.centred(new BrownConrady(-0.08, 0.01, 0.002, -0.001, 0, 0, 0, 0)).on(SIZE);
    Overscan none = Overscan.none(SIZE);
    Raster from = TestPicture.of(320, 180, RGB, SampleKind.FLOAT);
    for (Direction d : Direction.values()) {
      PositionGrid g = PositionGrid.of(lens, d, none);
      Raster direct = new Remap(g, Filter.BICUBIC, Light.ENCODED).apply(from);
      for (boolean bottom : new boolean[] {false, true}) {
        Raster map = g.map(320, 180, bottom);
        Raster byMap =
            new Remap(PositionGrid.of(map, 320, 180, bottom), Filter.BICUBIC, Light.ENCODED)
                .apply(from);
        assertThat(psnr(direct, byMap, 2)).isGreaterThan(85);
        // Read the other way round it is another picture.
        Raster wrong =
            new Remap(PositionGrid.of(map, 320, 180, !bottom), Filter.BICUBIC, Light.ENCODED)
                .apply(from);
        assertThat(psnr(direct, wrong, 2)).isLessThan(25);
      }
    }
  }

  @Test
  void aLensThatFoldsHasNoOverscan() {
    LensMapper folds = Lens.centred(new RadialPolynomial(-0.4, 0, 0, 0)).on(SIZE);
    assertThatThrownBy(() -> Overscan.fit(folds))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("folds over");
  }

  /** Three channels have code of their own; each comes out as it does alone. */
  @ParameterizedTest
  @EnumSource
  void threeChannelsAreMadeAsOneIs(Filter filter) {
    PositionGrid g =
        PositionGrid.of(
            LENS.on(SIZE), Direction.ORIGINAL_TO_UNDISTORTED, new Overscan(SIZE, 340, 200));
    Raster all = TestPicture.of(320, 180, RGB, SampleKind.FLOAT);
    Raster made = new Remap(g, filter, Light.ENCODED).apply(all);
    for (int c = 0; c < 3; c++) {
      Raster one = Raster.empty(320, 180, List.of("Y"), SampleKind.FLOAT);
      for (int i = 0; i < one.values().length; i++) {
        one.values()[i] = all.values()[3 * i + c];
      }
      Raster alone = new Remap(g, filter, Light.ENCODED).apply(one);
      for (int i = 0; i < alone.values().length; i++) {
        assertThat(made.values()[3 * i + c]).isCloseTo(alone.values()[i], within(1e-6f));
      }
    }
  }

  /** Tables stand for powers: every code value of 16 bits is there and back to a twentieth. */
  /** Neighbours are made in pairs where they can be; which ones depends on where a band begins. */
  @ParameterizedTest
  @EnumSource
  void aPixelIsTheSameWhereverWorkBegins(Filter filter) {
    LensMapper lens = LENS.on(SIZE);
    Raster from = TestPicture.of(320, 180, RGB, SampleKind.FLOAT);
    PositionGrid whole =
        PositionGrid.of(lens, Direction.ORIGINAL_TO_UNDISTORTED, Overscan.none(SIZE));
    Remap remap = new Remap(whole, filter, Light.ENCODED);
    Raster made = remap.apply(from);
    for (int threads = 2; threads < 6; threads++) {
      assertThat(remap.apply(from, remap.empty(from), threads).values()).isEqualTo(made.values());
    }
    // Every third column alone: none of its neighbours are pairs.
    PositionGrid thirds = PositionGrid.empty(106, 180);
    double[] p = new double[2];
    for (int y = 0; y < 180; y++) {
      for (int x = 0; x < 106; x++) {
        whole.at(3 * x, y, p);
        thirds.set(x, y, p[0], p[1]);
      }
    }
    Raster alone = new Remap(thirds, filter, Light.ENCODED).apply(from);
    for (int y = 0; y < 180; y++) {
      for (int x = 0; x < 106; x++) {
        for (int c = 0; c < 3; c++) {
          assertThat(alone.at(x, y, c)).isEqualTo(made.at(3 * x, y, c));
        }
      }
    }
  }

  @Test
  void everyCodeValueComesBackFromLight() {
    for (SampleKind kind : List.of(SampleKind.BYTE, SampleKind.SHORT)) {
      int most = kind == SampleKind.BYTE ? 255 : 65535;
      Raster r = Raster.empty(most + 1, 1, List.of("Y", "A"), kind);
      for (int i = 0; i <= most; i++) {
        r.values()[2 * i] = i / (float) most;
        r.values()[2 * i + 1] = i / (float) most;
      }
      Light.decode(r);
      int middle = most / 2;
      double half = r.at(middle, 0, 0);
      double code = middle / (double) most;
      assertThat(half).isCloseTo(Math.pow((code + 0.055) / 1.055, 2.4), within(1e-7));
      Light.encode(r);
      for (int i = 0; i <= most; i++) {
        assertThat(r.at(i, 0, 0) * most).isCloseTo(i, within(0.05f));
        assertThat(r.at(i, 0, 1) * most).isCloseTo(i, within(0.005f));
      }
    }
  }
}
