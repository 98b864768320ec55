package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import boofcv.struct.image.GrayF32;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Pixels that are kept with 16 bits, and the shapes that they are kept for. */
class SightingTest {

  private static final int RADIUS = 5;

  private static GrayF32 picture(float low, float high) {
    GrayF32 p = new GrayF32(60, 40);
    Random r = new Random(1);
    for (int i = 0; i < p.data.length; i++) {
      p.data[i] = low + (high - low) * r.nextFloat();
    }
    return p;
  }

  private static GrayF32 kept(Sighting s) {
    int side = 2 * Sighting.reach(RADIUS) + 1;
    GrayF32 out = new GrayF32(side, side);
    s.pixels(out);
    return out;
  }

  private static Sighting at(GrayF32 p, double x, double y) {
    return new Sighting(new Feature(new Pattern(RADIUS), x, y), 0, 1001, p, RADIUS);
  }

  @Test
  void pixelsComeBackToTheLastOf16BitsWhateverTheirRange() {
    for (float high : new float[] {0.01f, 255, 4000}) {
      GrayF32 p = picture(high / 3, high);
      Sighting s = at(p, 30.3, 19.6);
      GrayF32 k = kept(s);
      for (int y = 0; y < k.height; y++) {
        for (int x = 0; x < k.width; x++) {
          assertThat((double) k.get(x, y))
              .isCloseTo(p.get(s.left() + x, s.top() + y), within(high * 2e-5));
        }
      }
    }
  }

  @Test
  void beyondTheEdgeItsLastPixelGoesOn() {
    GrayF32 p = picture(0, 255);
    for (double[] c : new double[][] {{0, 0}, {59, 39}, {3.4, 37.2}, {58.8, 1}}) {
      Sighting s = at(p, c[0], c[1]);
      GrayF32 k = kept(s);
      for (int y = 0; y < k.height; y++) {
        for (int x = 0; x < k.width; x++) {
          float there =
              p.get(
                  Math.max(0, Math.min(59, s.left() + x)), Math.max(0, Math.min(39, s.top() + y)));
          assertThat((double) k.get(x, y)).isCloseTo(there, within(0.005));
        }
      }
    }
  }

  @Test
  void aFlatPictureIsKeptAsItIs() {
    GrayF32 p = picture(77, 77);
    assertThat(kept(at(p, 20, 20)).data).containsOnly(77);
  }

  @Test
  void aShapeAndItsInverseAreNone() {
    Random r = new Random(2);
    for (int i = 0; i < 200; i++) {
      double[] w = new double[Pattern.WARP];
      for (int k = 2; k < Pattern.WARP; k++) {
        w[k] = (k == 2 || k == 5 ? 1 : 0) + 0.4 * (r.nextDouble() - 0.5);
      }
      double[] one = new double[Pattern.WARP];
      Shapes.multiply(w, Shapes.inverse(w), one);
      assertThat(one).containsExactly(new double[] {0, 0, 1, 0, 0, 1}, within(1e-12));
      assertThat(Shapes.reach(w, w)).isCloseTo(1, within(1e-12));
      // Symmetric: which of two is looked at from which is the same.
      double[] v = Pattern.at(0, 0);
      assertThat(Shapes.reach(w, v)).isCloseTo(Shapes.reach(v, w), within(1e-12));
    }
    double c = Math.sqrt(0.5);
    double[] turned = {0, 0, c, -c, c, c};
    assertThat(Shapes.reach(Pattern.at(0, 0), turned)).isCloseTo(Math.sqrt(2), within(1e-12));
    double[] half = {0, 0, 0.5, 0, 0, 0.5};
    assertThat(Shapes.reach(half, Pattern.at(0, 0))).isCloseTo(2, within(1e-12));
  }
}
