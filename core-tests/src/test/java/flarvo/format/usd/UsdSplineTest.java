package flarvo.format.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.format.ByteSink;
import flarvo.format.ByteSource;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Splines that loop, from text and from a crate; the values are the reference library's. */
class UsdSplineTest {

  private static final double[] TIMES = {
    -11.7, -6.3, -2.2, -1.1, 0.7, 3.3, 5.9, 8.4, 13.3, 15.2, 17.7, 29.9
  };

  private static final double[] INSIDE = {
    3.0202277720192248,
    -0.31965235861748975,
    5.547085125360201,
    4.3890098716927435,
    1.9679412892730237,
    5.881524211400739
  };

  private static final double NONE = Double.NaN;

  private record Case(
      String before, int beforeCode, String after, int afterCode, double[] first, double[] last) {
    /** At each of the times; between them all cases are alike, for there the knots stand. */
    double[] is() {
      double[] out = Arrays.copyOf(first, TIMES.length);
      System.arraycopy(INSIDE, 0, out, first.length, INSIDE.length);
      System.arraycopy(last, 0, out, first.length + INSIDE.length, last.length);
      return out;
    }
  }

  private static final List<Case> CASES =
      List.of(
          new Case(
              "loop repeat",
              4,
              "loop reset",
              5,
              new double[] {-5.722259624949767, -0.5259425183152087, 1.2022484764055381},
              new double[] {3.7884170924225486, 2.4740574816847913, 7.389009871692741}),
          new Case(
              "loop oscillate",
              6,
              "loop oscillate",
              6,
              new double[] {8.02262244589055, 3.2394373430674985, 1.6053500455829912},
              new double[] {4.448466846854578, 6.2394373430674985, 1.5177360161212947}),
          new Case(
              "none",
              0,
              "loop repeat",
              4,
              new double[] {NONE, NONE, NONE},
              new double[] {9.788417092422549, 8.474057481684792, 13.38900987169274}));

  private static final double[][] KNOTS = {{0, 1}, {2, 3}, {4, 0}, {6, 2}, {9, 5}};

  private static UsdSpline text(String spline) {
    String file = "#usda 1.0\ndef Xform \"a\" {\n double x.spline = " + spline + "\n}\n";
    UsdLayer layer = new UsdTextParser("t.usda", file, ReadLimits.USUAL, Progress.NONE).parse();
    return (UsdSpline) layer.at("/a").attributes.get("x").stored();
  }

  private static UsdSpline text(String before, String after, String loop) {
    StringBuilder s = new StringBuilder("{ bezier, pre: " + before + ", post: " + after);
    s.append(", loop: ").append(loop);
    for (double[] k : KNOTS) {
      s.append(", ").append(k[0]).append(": ").append(k[0] == 4 ? "7 & " : "").append(k[1]);
      s.append("; pre (0.4, 0.5); post curve (0.5, -0.3)");
    }
    return text(s.append(" }").toString());
  }

  private static UsdSpline crate(int before, int after, int timesAfter) {
    ByteSink b = new ByteSink();
    b.i64(4); // more bytes than this follow, and nobody goes by it
    b.u8(0x11);
    b.u8(before | after << 3 | 0x40);
    b.f64(2);
    b.f64(6);
    b.i32(1);
    b.i32(timesAfter);
    b.f64(1.5);
    b.i32(KNOTS.length);
    for (double[] k : KNOTS) {
      b.u8(k[0] == 4 ? 7 : 6);
      b.f64(k[0]);
      b.f64(k[1]);
      if (k[0] == 4) {
        b.f64(7);
      }
      for (double tangent : new double[] {0.4, 0.5, 0.5, -0.3}) {
        b.f64(tangent);
      }
    }
    return UsdCrateSpline.read(ByteSource.of("t.usdc", b.toBytes()).at(0));
  }

  @Test
  void loopsInsideAndBeyondTheKnots() {
    for (Case c : CASES) {
      UsdSpline text = text(c.before, c.after, "(2, 6, 1, 2, 1.5)");
      UsdSpline crate = crate(c.beforeCode, c.afterCode, 2);
      for (UsdSpline s : List.of(text, crate, text.retimed(2, 100))) {
        boolean retimed = s.times()[0] > 50;
        for (int i = 0; i < TIMES.length; i++) {
          double at = s.at(retimed ? 2 * TIMES[i] + 100 : TIMES[i]);
          if (Double.isNaN(c.is()[i])) {
            assertThat(at).as(c.before).isNaN();
          } else {
            assertThat(at).as(c.before + " " + TIMES[i]).isCloseTo(c.is()[i], within(1e-9));
          }
        }
      }
    }
  }

  /** As the library does it: a loop that begins at no knot, or comes no more often, is none. */
  @Test
  void aLoopThatIsNoneChangesNothing() {
    UsdSpline plain = text("held", "held", "(2, 6, 0, 0, 1)");
    for (String none : List.of("(1, 6, 1, 2, 1.5)", "(6, 2, 1, 1, 1)", "(2, 2, 1, 1, 1)")) {
      assertThat(text("held", "held", none)).isEqualTo(plain);
    }
    assertThat(plain.times()).containsExactly(0, 2, 4, 6, 9);
  }

  @Test
  void loopsThatLieAreRefused() {
    assertThatThrownBy(() -> text("held", "held", "(2, 6, 1, 2000000000, 1)"))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("a loop of 2 knots comes 2000000002 times");
    assertThatThrownBy(() -> crate(1, 1, Integer.MAX_VALUE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("a loop of 2 knots");
    for (String garbled : List.of("(2, 6, 1)", "2", "(2, 6, 1, 2, 3, 4)", "(a, 6, 1, 2, 1)")) {
      assertThatThrownBy(() -> text("held", "held", garbled))
          .as(garbled)
          .isInstanceOf(InputError.class);
    }
    assertThatThrownBy(() -> text("loop", "held", "(2, 6, 1, 2, 1)"))
        .isInstanceOf(InputError.class);
    assertThatThrownBy(() -> text("loop never", "held", "(2, 6, 1, 2, 1)"))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no way to repeat");
  }
}
