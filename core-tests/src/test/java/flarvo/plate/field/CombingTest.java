package flarvo.plate.field;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.scene.Luma;
import flarvo.work.Progress;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.TreeSet;
import java.util.function.IntFunction;
import org.junit.jupiter.api.Test;

/** Films that are formulas, interlaced here, told from those that are not. */
class CombingTest {

  private static final int W = 160;
  private static final int H = 120;

  /** Pixels a field. These patches repeat, so what goes faster looks alike in either order. */
  private static final double ORDER_IS_TOLD = 7;

  private static final TreeSet<Integer> FRAMES = new TreeSet<>(List.of(1, 2, 3, 4, 5, 6));

  /** A film by moments, two for each frame. */
  private interface Film {
    double at(double moment, double x, double y);
  }

  /** Patches with edges that go by, with a little detail on them. */
  private static Film patches(double vx, double vy) {
    return (m, x, y) -> {
      double u = x - vx * m;
      double v = y - vy * m;
      double patch = Math.sin(0.11 * u) * Math.sin(0.13 * v + 0.02 * u) > 0 ? 60 : -60;
      return 120 + patch + 12 * Math.sin(0.9 * u + 0.5 * v);
    };
  }

  /** Lines of even number at one moment, the others half a frame later or earlier. */
  private static IntFunction<Optional<Luma>> interlaced(Film film, boolean upper, double grain) {
    return f ->
        Optional.of(frame(film, 2 * f + (upper ? 0 : 1), 2 * f + (upper ? 1 : 0), f, grain));
  }

  private static IntFunction<Optional<Luma>> progressive(Film film, double grain) {
    return f -> Optional.of(frame(film, 2 * f, 2 * f, f, grain));
  }

  private static Luma frame(Film film, double even, double odd, long seed, double grain) {
    Random r = new Random(seed);
    float[] v = new float[W * H];
    for (int y = 0; y < H; y++) {
      for (int x = 0; x < W; x++) {
        v[y * W + x] =
            (float) (film.at((y & 1) == 0 ? even : odd, x, y) + grain * r.nextGaussian());
      }
    }
    return new Luma(W, H, v);
  }

  private static Interlacing measured(IntFunction<Optional<Luma>> plates) {
    return Combing.of(FRAMES, plates, Progress.NONE);
  }

  @Test
  void interlacedFilmsAreToldWithTheirOrder() {
    for (double speed : new double[] {1.5, 2.5, 4, 7, 11}) {
      for (double grain : new double[] {0, 3, 6}) {
        for (boolean upper : new boolean[] {true, false}) {
          Interlacing i = measured(interlaced(patches(speed, 0.3 * speed), upper, grain));
          String as = speed + " px a field, grain " + grain + ": " + i;
          assertThat(i.kind()).as(as).isEqualTo(Interlacing.Kind.INTERLACED);
          FieldOrder order = upper ? FieldOrder.UPPER : FieldOrder.LOWER;
          if (speed <= ORDER_IS_TOLD) {
            assertThat(i.order()).as(as).hasValue(order);
          } else {
            assertThat(i.order().orElse(order)).as(as).isEqualTo(order);
          }
          assertThat(i.words()).startsWith("interlaced: combing on 5 of 5 frames");
        }
      }
    }
  }

  /** Edges, grain, and detail of three to five lines that goes up and down or across. */
  @Test
  void progressiveFilmsAreNot() {
    for (double speed : new double[] {1.5, 4, 11}) {
      for (double grain : new double[] {0, 3, 8}) {
        assertThat(measured(progressive(patches(speed, 0.3 * speed), grain)).kind())
            .as(speed + " px a field, grain " + grain)
            .isEqualTo(Interlacing.Kind.PROGRESSIVE);
      }
    }
    for (double lines : new double[] {3, 4, 5}) {
      Film stripes =
          (m, x, y) -> 120 + 80 * Math.signum(Math.sin(2 * Math.PI * (y - 0.7 * m) / lines + 0.1));
      assertThat(measured(progressive(stripes, 1)).isCombed()).as(lines + " lines").isFalse();
    }
  }

  @Test
  void whatDoesNotMoveTellsNothing() {
    Interlacing still = measured(interlaced(patches(0, 0), true, 1));
    assertThat(still.kind()).isEqualTo(Interlacing.Kind.UNKNOWN);
    assertThat(still.looked()).isEqualTo(5);
    assertThat(still.words()).contains("too little moves");
    // Still stripes of one line each would comb; they do not move.
    Film blinds = (m, x, y) -> (y % 2 == 0 ? 200 : 40);
    assertThat(measured(progressive(blinds, 1)).kind()).isEqualTo(Interlacing.Kind.UNKNOWN);
    assertThat(measured(f -> Optional.empty()).kind()).isEqualTo(Interlacing.Kind.UNKNOWN);
    IntFunction<Optional<Luma>> every = interlaced(patches(4, 1), true, 0);
    assertThat(measured(f -> f % 2 == 0 ? every.apply(f) : Optional.empty()).looked()).isZero();
  }

  /** Three frames whole, two of fields of two: what 24 frames a second become at 30. */
  @Test
  void pulldownIsToldFromBoth() {
    Film film = patches(4, 1);
    int[][] fields = {{0, 0}, {1, 1}, {1, 2}, {2, 3}, {3, 3}};
    TreeSet<Integer> frames = new TreeSet<>();
    for (int f = 0; f < 11; f++) {
      frames.add(f);
    }
    Interlacing i =
        Combing.of(
            frames,
            f -> {
              int[] from = fields[f % 5];
              int base = 4 * (f / 5);
              return Optional.of(frame(film, 2.5 * (base + from[0]), 2.5 * (base + from[1]), f, 2));
            },
            Progress.NONE);
    assertThat(i.kind()).isEqualTo(Interlacing.Kind.MIXED);
    assertThat(i.combed()).isEqualTo(4);
  }
}
