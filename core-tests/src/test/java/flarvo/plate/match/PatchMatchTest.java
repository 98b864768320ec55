package flarvo.plate.match;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.scene.Luma;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Squares of one picture found in another, beside the shift that was made. */
class PatchMatchTest {

  private static final int WIDTH = 240;
  private static final int HEIGHT = 180;

  private static final double[][] WAVES = waves();

  private static double[][] waves() {
    Random r = new Random(11);
    double[][] out = new double[60][];
    for (int k = 0; k < out.length; k++) {
      double turn = 2 * Math.PI * r.nextDouble();
      double wave = 9 + 25 * r.nextDouble();
      double size = 2 * Math.PI / wave;
      out[k] = new double[] {size * Math.cos(turn), size * Math.sin(turn), 6.3 * r.nextDouble()};
    }
    return out;
  }

  /** A pattern without edges or repetition, moved by exactly so much. */
  private static Luma moved(double dx, double dy, double gain, double lift) {
    float[] v = new float[WIDTH * HEIGHT];
    for (int y = 0; y < HEIGHT; y++) {
      for (int x = 0; x < WIDTH; x++) {
        double sum = 0;
        for (double[] w : WAVES) {
          sum += Math.sin(w[0] * (x - dx) + w[1] * (y - dy) + w[2]);
        }
        v[y * WIDTH + x] = (float) (lift + gain * (128 + 7 * sum));
      }
    }
    return new Luma(WIDTH, HEIGHT, v);
  }

  /** To a fraction of a pixel, along slanting edges too. */
  @Test
  void whatMovedIsFoundWhereItWent() {
    PatchMatch match = new PatchMatch(20);
    Pyramid from = match.of(moved(0, 0, 1, 0));
    double[][] shifts = {{0, 0}, {1, 0}, {0.37, -0.81}, {4.5, 2.25}, {-11.3, 7.6}, {15, -14}};
    for (double[] s : shifts) {
      Pyramid to = match.of(moved(s[0], s[1], 1, 0));
      List<Double> off = new ArrayList<>();
      for (double x = 60; x < WIDTH - 60; x += 17.3) {
        for (double y = 50; y < HEIGHT - 50; y += 13.7) {
          off.add(match.error(from, x, y, to, x + s[0], y + s[1]));
        }
      }
      Collections.sort(off);
      assertThat(off.get(off.size() - 1)).as("%s %s", s[0], s[1]).isLessThan(0.25);
      assertThat(off.get(off.size() * 9 / 10)).as("%s %s", s[0], s[1]).isLessThan(0.16);
      assertThat(off.get(off.size() / 2)).as("%s %s", s[0], s[1]).isLessThan(0.07);
    }
  }

  @Test
  void brightnessDoesNotMatter() {
    PatchMatch match = new PatchMatch(20);
    Pyramid from = match.of(moved(0, 0, 1, 0));
    Pyramid to = match.of(moved(3.2, -1.7, 0.6, 40));
    double as = match.error(from, 120, 90, match.of(moved(3.2, -1.7, 1, 0)), 123.2, 88.3);
    assertThat(match.error(from, 120, 90, to, 123.2, 88.3)).isCloseTo(as, within(1e-3));
  }

  @Test
  void aMissedSquareIsFoundWithinReachAndTheWayToItIsTheError() {
    PatchMatch match = new PatchMatch(20);
    Pyramid from = match.of(moved(0, 0, 1, 0));
    int found = 0;
    for (double x = 70; x < WIDTH - 70; x += 11) {
      double error = match.error(from, x, 90, from, x + 9, 90 - 5);
      if (!Double.isNaN(error) && Math.abs(error - Math.hypot(9, 5)) < 0.12) {
        found++;
      }
    }
    assertThat(found).isGreaterThan(5);
  }

  @Test
  void whatIsFlatOrCutOffIsNotLookedFor() {
    PatchMatch match = new PatchMatch(20);
    Pyramid flat = match.of(new Luma(WIDTH, HEIGHT, new float[WIDTH * HEIGHT]));
    Pyramid from = match.of(moved(0, 0, 1, 0));
    assertThat(match.error(flat, 120, 90, from, 120, 90)).isNaN();
    assertThat(match.error(from, 120, 90, flat, 120, 90)).isNaN();
    assertThat(match.error(from, 2, 90, from, 2, 90)).isNaN();
    assertThat(match.error(from, 120, 90, from, -400, 90)).isNaN();
    assertThat(match.error(from, 120, 90, from, 4000, 9000)).isNaN();
  }

  /** A square that was searched before leaves nothing behind. */
  @Test
  void eachSearchIsAsIfItWereTheFirst() {
    PatchMatch match = new PatchMatch(20);
    Pyramid from = match.of(moved(0, 0, 1, 0));
    Pyramid to = match.of(moved(2.4, 1.1, 1, 0));
    for (double x = 40; x < WIDTH - 40; x += 7.1) {
      double again = match.error(from, x, 80, to, x + 2, 81);
      assertThat(new PatchMatch(20).error(from, x, 80, to, x + 2, 81)).isEqualTo(again);
    }
  }
}
