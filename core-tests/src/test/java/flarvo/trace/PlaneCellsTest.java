package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** A pattern of 160 by 120, and what passes before a part of it. */
@Tag("numeric")
class PlaneCellsTest {

  private static final int WIDTH = 160;
  private static final int HEIGHT = 120;

  private final PlaneCells cells = new PlaneCells(10, 10 + WIDTH, 20, 20 + HEIGHT, WIDTH * HEIGHT);
  private final int[] cell = new int[WIDTH * HEIGHT];
  private final float[] value = new float[WIDTH * HEIGHT];
  private final boolean[] seen = new boolean[cells.count()];

  PlaneCellsTest() {
    for (int y = 0; y < HEIGHT; y++) {
      for (int x = 0; x < WIDTH; x++) {
        cell[y * WIDTH + x] = cells.at(10.5 + x, 20.5 + y);
        value[y * WIDTH + x] = (float) PatternTest.texture(x, y);
      }
    }
  }

  /** The pattern with other light and grain. */
  private float[] frame(Random r) {
    float[] now = new float[value.length];
    for (int i = 0; i < now.length; i++) {
      now[i] = (float) (0.8 * value[i] + 20 + 1.5 * r.nextGaussian());
    }
    return now;
  }

  @Test
  void allOfItIsSeenWhateverTheLight() {
    double[] told = cells.look(cell, value, frame(new Random(1)), seen);
    assertThat(told[0]).isGreaterThan(0.99);
    assertThat(told[1]).isGreaterThan(0.95);
    assertThat(share(0, WIDTH)).isGreaterThan(0.99);
  }

  /** Wherever the edge of a board is, nearly none of it counts, and little of the plane is lost. */
  @Test
  void whatPassesBeforeItIsLeftOutUpToItsEdge() {
    Random r = new Random(2);
    for (int edge = 40; edge < 120; edge += 3) {
      float[] now = frame(r);
      for (int y = 0; y < HEIGHT; y++) {
        for (int x = edge; x < WIDTH; x++) {
          now[y * WIDTH + x] = (float) PatternTest.texture(2.3 * x + 400, 1.7 * y);
        }
      }
      cells.look(cell, value, now, seen);
      assertThat(share(edge, WIDTH)).as("board from " + edge).isLessThan(0.08);
      assertThat(share(0, edge - 8)).as("plane before " + edge).isGreaterThan(0.97);
    }
  }

  @Test
  void whatIsOutsideThePictureIsNotJudged() {
    float[] now = frame(new Random(3));
    for (int y = 0; y < HEIGHT; y++) {
      Arrays.fill(now, y * WIDTH, y * WIDTH + 60, Float.NaN);
    }
    double[] told = cells.look(cell, value, now, seen);
    assertThat(told[0]).as("of what is in the picture").isGreaterThan(0.99);
    assertThat(share(60, WIDTH)).isGreaterThan(0.99);
  }

  /** Share of the samples between two columns whose cells are seen. */
  private double share(int from, int to) {
    int n = 0;
    for (int y = 0; y < HEIGHT; y++) {
      for (int x = from; x < to; x++) {
        n += seen[cell[y * WIDTH + x]] ? 1 : 0;
      }
    }
    return n / (double) ((to - from) * HEIGHT);
  }
}
