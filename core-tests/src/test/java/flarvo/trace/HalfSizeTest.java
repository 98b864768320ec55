package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import boofcv.factory.transform.pyramid.FactoryPyramid;
import boofcv.struct.image.GrayF32;
import boofcv.struct.image.ImageType;
import boofcv.struct.pyramid.ConfigDiscreteLevels;
import boofcv.struct.pyramid.PyramidDiscrete;
import flarvo.scene.Luma;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Beside a library's pyramid, which leaves the last column and row of odd sizes empty. */
class HalfSizeTest {

  @Test
  void whatIsEvenStaysEvenInAnySize() {
    Random r = new Random(3);
    for (int i = 0; i < 100; i++) {
      GrayF32 g = new GrayF32(1 + r.nextInt(40), 1 + r.nextInt(40));
      Arrays.fill(g.data, 7);
      GrayF32 half = HalfSize.of(g);
      assertThat(half.width).isEqualTo((g.width + 1) / 2);
      assertThat(half.height).isEqualTo((g.height + 1) / 2);
      for (float v : half.data) {
        assertThat(v).isCloseTo(7, within(1e-5f));
      }
    }
  }

  @Test
  void everyPixelIsTheLibrarys() {
    Random r = new Random(8);
    for (int i = 0; i < 60; i++) {
      int width = 16 * (4 + r.nextInt(6));
      int height = 16 * (4 + r.nextInt(6));
      float[] luma = new float[width * height];
      for (int k = 0; k < luma.length; k++) {
        luma[k] = 255 * r.nextFloat();
      }
      Levels ours = Levels.of(1, new Luma(width, height, luma));
      PyramidDiscrete<GrayF32> theirs =
          FactoryPyramid.discreteGaussian(
              ConfigDiscreteLevels.levels(ours.count()), -1, 2, true, ImageType.SB_F32);
      theirs.process(Levels.image(new Luma(width, height, luma)));
      assertThat(ours.count()).isGreaterThan(1);
      for (int level = 0; level < ours.count(); level++) {
        GrayF32 a = ours.at().get(level);
        GrayF32 b = theirs.getLayer(level);
        assertThat(a.width).isEqualTo(b.width);
        assertThat(a.height).isEqualTo(b.height);
        float most = 0;
        for (int y = 0; y < a.height; y++) {
          for (int x = 0; x < a.width; x++) {
            most = Math.max(most, Math.abs(a.get(x, y) - b.get(x, y)));
          }
        }
        assertThat(most).as("%d × %d, level %d", width, height, level).isLessThan(1e-3f);
      }
    }
  }
}
