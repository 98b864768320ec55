package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import boofcv.struct.image.GrayF32;
import java.util.Random;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Patterns that were moved, sheared and lit otherwise by known amounts. */
@Tag("numeric")
class PatternTest {

  private static final int SIZE = 120;

  /** A sum of waves: smooth, so that its value between pixels is known. */
  static double texture(double x, double y) {
    return texture(x, y, 0, 0);
  }

  /** Through a Gaussian of standard deviations in pixels. */
  private static double texture(double x, double y, double across, double down) {
    Random r = new Random(3);
    double s = 0;
    for (int i = 0; i < 12; i++) {
      double a = r.nextDouble() * 2 * Math.PI;
      double f = 0.05 + 0.4 * r.nextDouble();
      double u = across * f * Math.cos(a);
      double v = down * f * Math.sin(a);
      double kept = Math.exp(-(u * u + v * v) / 2);
      s += 10 * kept * Math.sin(f * (x * Math.cos(a) + y * Math.sin(a)) + 6 * r.nextDouble());
    }
    return 128 + s;
  }

  private static GrayF32 picture(double dx, double dy, double size, double gain, double grain) {
    GrayF32 g = new GrayF32(SIZE, SIZE);
    Random r = new Random(Double.hashCode(dx));
    double m = SIZE / 2.0;
    for (int y = 0; y < SIZE; y++) {
      for (int x = 0; x < SIZE; x++) {
        double v = texture((x - dx - m) / size + m, (y - dy - m) / size + m);
        g.set(x, y, (float) (gain * v + 10 + grain * r.nextGaussian()));
      }
    }
    return g;
  }

  @Test
  void aMoveIsFoundWhateverTheLight() {
    Random r = new Random(7);
    GrayF32 from = picture(0, 0, 1, 1, 0);
    for (int i = 0; i < 40; i++) {
      double dx = 4 * r.nextDouble() - 2;
      double dy = 4 * r.nextDouble() - 2;
      double x = 40 + r.nextInt(40) + r.nextDouble();
      double y = 40 + r.nextInt(40) + r.nextDouble();
      GrayF32 to = picture(dx, dy, 1, 0.7 + 0.5 * r.nextDouble(), 0);
      Pattern p = new Pattern(9);
      assertThat(p.take(from, x, y)).isTrue();
      double[] w = Pattern.at(x, y);
      assertThat(p.fit(to, w, 20)).isGreaterThan(0.999);
      assertThat(w[0] - x).isCloseTo(dx, within(0.04));
      assertThat(w[1] - y).isCloseTo(dy, within(0.04));
      MovedPattern m = new MovedPattern(9);
      assertThat(m.take(from, x, y)).isTrue();
      assertThat(m.fit(to, x, y, 20)).isGreaterThan(0.999);
      assertThat(m.x() - x).isCloseTo(dx, within(0.04));
      assertThat(m.y() - y).isCloseTo(dy, within(0.04));
    }
  }

  /**
   * Focus blurs alike in all directions, a move of the camera in its own. What stands at the
   * square's border would draw it aside by 0.12 px.
   */
  @ParameterizedTest
  @CsvSource({"1.5, 1.5", "1.7, 0", "0, 1.7"})
  void blurMovesNothing(double across, double down) {
    Random r = new Random(17);
    GrayF32 sharp = picture(0, 0, 1, 1, 0);
    GrayF32 soft = new GrayF32(SIZE, SIZE);
    for (int y = 0; y < SIZE; y++) {
      for (int x = 0; x < SIZE; x++) {
        soft.set(x, y, (float) (0.8 * texture(x - 0.3, y + 0.2, across, down) + 10));
      }
    }
    double squares = 0;
    int n = 100;
    for (int i = 0; i < n; i++) {
      double x = 20 + 80 * r.nextDouble();
      double y = 20 + 80 * r.nextDouble();
      Pattern p = new Pattern(9);
      assertThat(p.take(sharp, x, y)).isTrue();
      double[] w = Pattern.at(x, y);
      p.fit(soft, w, 20);
      double ex = w[0] - x - 0.3;
      double ey = w[1] - y + 0.2;
      squares += ex * ex + ey * ey;
    }
    assertThat(Math.sqrt(squares / n)).isLessThan(0.03);
  }

  /** Where the whole of a pattern leaves the picture, a part of it marks the same place. */
  @Test
  void aPartMarksThePlaceOfTheWhole() {
    Random r = new Random(29);
    GrayF32 from = picture(0, 0, 1, 1, 0);
    double size = 1.1;
    double middle = SIZE / 2.0;
    ShapeEstimate shape = new ShapeEstimate();
    for (int i = 0; i < 80; i++) {
      double x = 30 + 60 * r.nextDouble();
      double y = 30 + 60 * r.nextDouble();
      // Each edge and each corner in turn.
      double tx = towards(i % 8 % 3, r);
      double ty = towards(i % 8 / 3, r);
      GrayF32 to =
          picture(
              tx - middle - (x - middle) * size, ty - middle - (y - middle) * size, size, 0.8, 0);
      Pattern whole = new Pattern(9);
      assertThat(whole.take(from, x, y)).isTrue();
      double[] w = {
        tx + 0.6 * r.nextDouble() - 0.3, ty + 0.6 * r.nextDouble() - 0.3, size, 0, 0, size
      };
      Pattern part = whole.within(w, to);
      if (i % 8 == 4) {
        assertThat(part).isSameAs(whole);
        continue;
      }
      assertThat(part).isNotNull().isNotSameAs(whole);
      assertThat(whole.fit(to, w.clone(), 20)).isNaN();
      shape.setExact();
      assertThat(part.fit(to, w, 20, part.error(1), shape, 0.05)).isGreaterThan(0.999);
      assertThat(w[0]).isCloseTo(tx, within(0.03));
      assertThat(w[1]).isCloseTo(ty, within(0.03));
    }
  }

  /** A coordinate 7 to 9 pixels from one edge or the other, or between. */
  private static double towards(int side, Random r) {
    double off = 7 + 2 * r.nextDouble();
    return side == 0 ? off : side == 2 ? SIZE - 1 - off : 40 + 40 * r.nextDouble();
  }

  /** What does not look alike after two rounds is given up; what does goes on as ever. */
  @Test
  void aHopelessFitIsGivenUp() {
    GrayF32 from = picture(0, 0, 1, 1, 0);
    Random r = new Random(23);
    int hopeless = 0;
    int found = 0;
    for (int i = 0; i < 300; i++) {
      double x = 25 + 70 * r.nextDouble();
      double y = 25 + 70 * r.nextDouble();
      double far = i % 3 == 0 ? 2 : 24;
      Pattern p = new Pattern(9);
      assertThat(p.take(from, x, y)).isTrue();
      double dx = far * (r.nextDouble() - 0.5);
      double dy = far * (r.nextDouble() - 0.5);
      double[] early = Pattern.at(x + dx, y + dy);
      double second = p.fit(from, early, 2);
      double third = p.fit(from, early.clone(), 1);
      double[] late = Pattern.at(x + dx, y + dy);
      double score = p.fit(from, late, 20);
      if (second > 0 && third < 0.4) {
        assertThat(late).isEqualTo(early);
        assertThat(score).isEqualTo(third);
        hopeless++;
      } else if (score > 0.99) {
        assertThat(late[0]).isCloseTo(x, within(0.05));
        found++;
      }
    }
    assertThat(hopeless).isGreaterThan(5);
    assertThat(found).isGreaterThan(90);
  }

  @Test
  void aChangeOfSizeIsToldFromAMove() {
    GrayF32 from = picture(0, 0, 1, 1, 0);
    Pattern p = new Pattern(9);
    double m = SIZE / 2.0;
    p.take(from, m, m);
    double[] w = Pattern.at(m, m);
    assertThat(p.fit(picture(0.6, -0.4, 1.08, 1, 0), w, 30)).isGreaterThan(0.999);
    assertThat(w[2]).isCloseTo(1.08, within(0.01));
    assertThat(w[5]).isCloseTo(1.08, within(0.01));
    assertThat(w[0]).isCloseTo(m + 0.6, within(0.05));
    assertThat(w[1]).isCloseTo(m - 0.4, within(0.05));
  }

  /** What is summed over four pixels at once is the correlation of the square itself. */
  @Test
  void theCorrelationIsThatOfTheSquare() {
    Random r = new Random(11);
    GrayF32 from = picture(0, 0, 1, 1, 4);
    GrayF32 to = picture(0.4, 0.2, 1.05, 0.8, 4);
    for (int i = 0; i < 200; i++) {
      int radius = 4 + r.nextInt(8);
      double x = 30 + 60 * r.nextDouble();
      double y = 30 + 60 * r.nextDouble();
      double atX = x + r.nextDouble() - 0.5;
      double atY = y + r.nextDouble() - 0.5;
      MovedPattern p = new MovedPattern(radius);
      assertThat(p.take(from, x, y)).isTrue();
      assertThat(p.fit(to, atX, atY, 1))
          .isCloseTo(correlation(from, x, y, to, atX, atY, radius), within(1e-4));
    }
  }

  private static double correlation(
      GrayF32 from, double x, double y, GrayF32 to, double atX, double atY, int radius) {
    double a = 0;
    double b = 0;
    double aa = 0;
    double ab = 0;
    double bb = 0;
    for (int j = -radius; j <= radius; j++) {
      for (int i = -radius; i <= radius; i++) {
        double p = between(from, x + i, y + j);
        double q = between(to, atX + i, atY + j);
        a += p;
        b += q;
        aa += p * p;
        ab += p * q;
        bb += q * q;
      }
    }
    double n = (2 * radius + 1) * (2 * radius + 1);
    return (ab - a * b / n) / Math.sqrt((aa - a * a / n) * (bb - b * b / n));
  }

  private static double between(GrayF32 g, double x, double y) {
    int i = (int) x;
    int j = (int) y;
    double fx = x - i;
    double fy = y - j;
    return (1 - fy) * ((1 - fx) * g.get(i, j) + fx * g.get(i + 1, j))
        + fy * ((1 - fx) * g.get(i, j + 1) + fx * g.get(i + 1, j + 1));
  }

  /** Weak patterns are trusted less than they deserve, and none more. */
  @Test
  void grainDoesNoMoreThanIsForetold() {
    double squares = 0;
    int n = 0;
    Random r = new Random(5);
    for (int i = 0; i < 50; i++) {
      double dx = r.nextDouble();
      GrayF32 from = picture(-1e-9 * (i + 1), 0, 1, 1, 1);
      MovedPattern moved = new MovedPattern(9);
      double x = 30 + r.nextInt(60);
      double y = 30 + r.nextInt(60);
      moved.take(from, x, y);
      moved.fit(picture(dx, 0, 1, 1, 1), x, y, 20);
      double ex = moved.x() - x - dx;
      double ey = moved.y() - y;
      double e = moved.errorFromGrain(1);
      if (Double.isInfinite(e)) {
        continue; // held by grain alone
      }
      squares += (ex * ex + ey * ey) / (e * e);
      n++;
    }
    // In two directions, of which the foretold error is the larger.
    assertThat(Math.sqrt(squares / n)).isBetween(0.3, 1.3);
    assertThat(n).isGreaterThan(25);
  }

  @Test
  void anEdgeHoldsNothingAlongItself() {
    GrayF32 g = new GrayF32(SIZE, SIZE);
    Random r = new Random(1);
    for (int y = 0; y < SIZE; y++) {
      for (int x = 0; x < SIZE; x++) {
        g.set(x, y, (float) ((x < SIZE / 2 ? 60 : 180) + r.nextGaussian()));
      }
    }
    MovedPattern p = new MovedPattern(9);
    p.take(g, SIZE / 2.0, SIZE / 2.0);
    assertThat(p.cornerness()).isLessThan(0.05);
    assertThat(p.errorFromGrain(1)).isGreaterThan(0.2);
    assertThat(new MovedPattern(9).take(new GrayF32(SIZE, SIZE), 60, 60)).as("flat").isFalse();
    assertThat(p.take(g, 5, 60)).as("over the edge").isFalse();
  }
}
