package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

/** A plane that nears, tilts and shakes, with one corner that is known poorly. */
class PlaneShapesTest {

  private static final int FRAMES = 40;
  private static final double POOR_PX = 0.3;
  private static final double GOOD_PX = 0.02;

  /** Its corners; the shake moves and turns the whole from frame to frame. */
  private static double[] truth(int frame, boolean shakes) {
    double t = (double) frame / FRAMES;
    double[] q = {-80, -50, 80, -50 - 12 * t, 85 + 10 * t, 60 + 25 * t * t, -75, 55};
    Random r = new Random(frame);
    double turn = shakes ? 0.01 * r.nextGaussian() : 0;
    double dx = 300 + 100 * t + (shakes ? 3 * r.nextGaussian() : 0);
    double dy = 200 + (shakes ? 3 * r.nextGaussian() : 0);
    double[] out = new double[8];
    for (int k = 0; k < 8; k += 2) {
      out[k] = dx + (1 + 0.3 * t) * (Math.cos(turn) * q[k] - Math.sin(turn) * q[k + 1]);
      out[k + 1] = dy + (1 + 0.3 * t) * (Math.sin(turn) * q[k] + Math.cos(turn) * q[k + 1]);
    }
    return out;
  }

  private static double sd(int number) {
    return number == 4 || number == 5 ? POOR_PX : GOOD_PX;
  }

  private static List<PlaneShapes.Seen> seen(boolean shakes, double noise) {
    double[] covariance = new double[64];
    for (int k = 0; k < 8; k++) {
      covariance[9 * k] = sd(k) * sd(k);
    }
    Random r = new Random(3);
    List<PlaneShapes.Seen> out = new ArrayList<>();
    for (int f = 0; f < FRAMES; f++) {
      double[] q = truth(f, shakes);
      for (int k = 0; k < 8; k++) {
        q[k] += noise * sd(k) * r.nextGaussian();
      }
      out.add(new PlaneShapes.Seen(f, new Quad(q), covariance));
    }
    return out;
  }

  private static Map<Integer, Quad> corrected(List<PlaneShapes.Seen> seen) {
    BitSet all = new BitSet();
    all.set(0, seen.size());
    Map<Integer, Quad> out = new TreeMap<>();
    PlaneShapes.correct(seen, all, out);
    return out;
  }

  private static double rmsOfThePoorCorner(Map<Integer, Quad> q, boolean shakes) {
    double squares = 0;
    for (int f = 0; f < FRAMES; f++) {
      double[] t = truth(f, shakes);
      squares += Math.pow(q.get(f).x(2) - t[4], 2) + Math.pow(q.get(f).y(2) - t[5], 2);
    }
    return Math.sqrt(squares / FRAMES / 2);
  }

  @Test
  void aPoorCornerIsCorrectedThoughTheWholeShakes() {
    for (boolean shakes : new boolean[] {false, true}) {
      Map<Integer, Quad> q = corrected(seen(shakes, 1));
      assertThat(q).hasSize(FRAMES);
      assertThat(rmsOfThePoorCorner(q, shakes)).as("shakes %s", shakes).isLessThan(0.6 * POOR_PX);
    }
  }

  @Test
  void whatIsExactStays() {
    Map<Integer, Quad> q = corrected(seen(true, 0));
    for (int f = 0; f < FRAMES; f++) {
      for (int k = 0; k < 8; k++) {
        assertThat(q.get(f).at()[k]).isCloseTo(truth(f, true)[k], within(0.01));
      }
    }
  }

  @Test
  void theDirectionOfTheWalkDoesNotMatterAndFewFramesAreLeftAlone() {
    List<PlaneShapes.Seen> seen = seen(true, 1);
    List<PlaneShapes.Seen> back = new ArrayList<>(seen);
    java.util.Collections.reverse(back);
    Map<Integer, Quad> one = corrected(seen);
    Map<Integer, Quad> other = corrected(back);
    for (int f = 0; f < FRAMES; f++) {
      assertThat(one.get(f).distance(other.get(f))).isLessThan(1e-9);
    }
    assertThat(corrected(seen.subList(0, 3))).isEmpty();
  }
}
