package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import boofcv.struct.image.GrayF32;
import java.util.Random;
import org.ejml.simple.SimpleEVD;
import org.ejml.simple.SimpleMatrix;
import org.junit.jupiter.api.Test;

/** With the place eliminated, beside all six equations solved at once by another library. */
class PatternEquationsTest {

  private static final int N = PatternImages.DESCENTS;
  private static final int RADIUS = 9;

  private final PatternImages images = PatternImages.of(RADIUS);
  private final PatternEquations equations = new PatternEquations();

  /** A square of a texture, its matrix, and the equations made of it. */
  private SimpleMatrix taken(Random r) {
    GrayF32 g = new GrayF32(60, 60);
    for (int y = 0; y < g.height; y++) {
      for (int x = 0; x < g.width; x++) {
        g.set(x, y, (float) PatternTest.texture(x, y));
      }
    }
    assertThat(images.take(g, 20 + 20 * r.nextDouble(), 20 + 20 * r.nextDouble())).isTrue();
    assertThat(equations.take(images)).isTrue();
    SimpleMatrix h = new SimpleMatrix(N, N);
    for (int p = 0; p < N; p++) {
      for (int q = 0; q < N; q++) {
        h.set(p, q, images.product(p, q));
      }
    }
    return h;
  }

  @Test
  void theStepIsThatOfAllSixEquations() {
    Random r = new Random(5);
    for (int i = 0; i < 50; i++) {
      SimpleMatrix h = taken(r);
      ShapeEstimate shape = new ShapeEstimate();
      shape.setExact();
      for (int frame = 0; frame < 3; frame++) {
        assertThat(shape.predict(0.05, 0.02)).isTrue();
        assertThat(equations.prepare(shape)).isTrue();
        SimpleMatrix weighted = h.copy();
        for (int p = 0; p < ShapeEstimate.SIZE; p++) {
          for (int q = 0; q < ShapeEstimate.SIZE; q++) {
            weighted.set(2 + p, 2 + q, h.get(2 + p, 2 + q) + shape.weight(p, q));
          }
        }
        SimpleMatrix right = SimpleMatrix.random_DDRM(N, 1, -1, 1, r);
        double[] step = new double[N];
        equations.solve(right.getDDRM().data, step);
        SimpleMatrix expected = weighted.solve(right);
        for (int p = 0; p < N; p++) {
          assertThat(step[p]).isCloseTo(expected.get(p), within(1e-8 * expected.normF()));
        }
        equations.update(shape);
      }
    }
  }

  @Test
  void theSpreadIsThatOfThePlaceInTheWholeInverse() {
    Random r = new Random(6);
    for (int i = 0; i < 20; i++) {
      SimpleMatrix h = taken(r);
      double largest = h.diag().elementMax();
      for (int p = 2; p < N; p++) {
        h.set(p, p, h.get(p, p) + 1e-3 * largest);
      }
      SimpleEVD<SimpleMatrix> place = h.invert().extractMatrix(0, 2, 0, 2).eig();
      double most = Math.max(place.getEigenvalue(0).getReal(), place.getEigenvalue(1).getReal());
      assertThat(equations.placeSpread()).isCloseTo(Math.sqrt(most), within(1e-6));
    }
  }

  /** Brightness, contrast and blur move nothing: their images are orthogonal to what does. */
  @Test
  void aPatternSaysNothingOfItsOwnBrightness() {
    taken(new Random(7));
    float[] packed = new float[PatternImages.PACKED * (2 * RADIUS + 1) * (2 * RADIUS + 1)];
    images.pack(packed);
    for (int p = 1; p < PatternImages.PACKED; p++) {
      double sum = 0;
      double along = 0;
      double squares = 0;
      for (int k = 0; k < packed.length; k += PatternImages.PACKED) {
        sum += packed[k + p];
        along += packed[k + p] * packed[k];
        squares += packed[k + p] * packed[k + p];
      }
      double length = Math.sqrt(squares);
      assertThat(sum / length).isCloseTo(0, within(1e-4));
      assertThat(along / length).isCloseTo(0, within(1e-5));
    }
  }
}
