package flarvo.format.fbx;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.format.ReadLimits;
import flarvo.work.Progress;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Curves against what they are by definition: a planar cubic through four points. */
class FbxCurveTest {

  private static final double SECOND = FbxTime.TICKS_PER_SECOND;
  private static final int CUBIC = 0x408; // cubic, with slopes that a user drew
  private static final int WEIGHTED = 0x3000000;

  private static FbxCurve curve(
      double[] seconds,
      double[] values,
      int flags,
      double right,
      double left,
      double w0,
      double w1) {
    FbxNode n = new FbxNode("AnimationCurve");
    double[] ticks = new double[seconds.length];
    for (int i = 0; i < ticks.length; i++) {
      ticks[i] = seconds[i] * SECOND;
    }
    put(n, "KeyTime", ticks);
    put(n, "KeyValueFloat", values);
    put(n, "KeyAttrFlags", flags);
    int bits = (int) Math.round(w0 * 9999) | (int) Math.round(w1 * 9999) << 16;
    put(n, "KeyAttrDataFloat", right, left, Float.intBitsToFloat(bits), 0);
    put(n, "KeyAttrRefCount", seconds.length);
    return FbxCurve.read(n, "t");
  }

  private static void put(FbxNode parent, String name, double... values) {
    FbxNode c = new FbxNode(name);
    c.values.add(values);
    parent.add(c);
  }

  @Test
  void constantAndLinearKeys() {
    FbxCurve step = curve(new double[] {0, 1, 2}, new double[] {1, 5, 2}, 2, 0, 0, 0, 0);
    assertThat(step.at(0.99 * SECOND)).isEqualTo(1);
    assertThat(step.at(-SECOND)).isEqualTo(1);
    assertThat(step.at(9 * SECOND)).isEqualTo(2);
    FbxCurve next = curve(new double[] {0, 1}, new double[] {1, 5}, 2 | 0x100, 0, 0, 0, 0);
    assertThat(next.at(0.01 * SECOND)).isEqualTo(5);
    FbxCurve line = curve(new double[] {0, 2}, new double[] {1, 5}, 4, 0, 0, 0, 0);
    assertThat(line.at(0.5 * SECOND)).isCloseTo(2, within(1e-12));
  }

  /** With slopes of a parabola, the cubic is the parabola. */
  @Test
  void aCubicFollowsThePolynomialThatItsSlopesComeFrom() {
    FbxCurve c = curve(new double[] {1, 3}, new double[] {1, 9}, CUBIC, 2, 6, 0, 0);
    for (double s = 1; s <= 3; s += 0.1) {
      assertThat(c.at(s * SECOND)).isCloseTo(s * s, within(1e-9));
    }
  }

  /** Points made along the parameter must lie on the curve at their time. */
  @Test
  void weightedTangentsBendTime() {
    Random r = new Random(1);
    for (int i = 0; i < 200; i++) {
      double w0 = Math.round((0.02 + 0.97 * r.nextDouble()) * 9999) / 9999.0;
      double w1 = Math.round((0.02 + 0.97 * r.nextDouble()) * 9999) / 9999.0;
      double a = (float) r.nextGaussian();
      double b = (float) r.nextGaussian();
      double m0 = r.nextGaussian();
      double m1 = r.nextGaussian();
      FbxCurve c =
          curve(new double[] {0, 2}, new double[] {a, b}, CUBIC | WEIGHTED, m0, m1, w0, w1);
      for (double s = 0.05; s < 1; s += 0.05) {
        double u = bezier(s, 0, w0, 1 - w1, 1);
        double y = bezier(s, a, a + 2 * m0 * w0, b - 2 * m1 * w1, b);
        assertThat(c.at(2 * u * SECOND)).as("w %s %s at %s", w0, w1, s).isCloseTo(y, within(1e-6));
      }
    }
  }

  private static double bezier(double s, double a, double b, double c, double d) {
    double r = 1 - s;
    return r * r * r * a + 3 * r * r * s * b + 3 * r * s * s * c + s * s * s * d;
  }

  @Test
  void textFilesPrintAttributesAsTheBitsOfFloats() {
    // Two thirds, and the slopes 20 and −3 as the bits of floats.
    String text =
        "AnimationCurve: 7 {\nKeyTime: *2 { a: 0,"
            + (long) SECOND
            + " }\nKeyValueFloat: *2 { a: 0,1 }\nKeyAttrFlags: *1 { a: "
            + (CUBIC | WEIGHTED)
            + " }\nKeyAttrDataFloat: *4 { a: 1101004800,-1069547520,218434821,0 }"
            + "\nKeyAttrRefCount: *1 { a: 2 }\n}";
    FbxNode n =
        new FbxTextParser("t", text, ReadLimits.USUAL, Progress.NONE)
            .parse()
            .child("AnimationCurve")
            .orElseThrow();
    double weighted = FbxCurve.read(n, "t").at(0.3 * SECOND);
    double plain =
        curve(new double[] {0, 1}, new double[] {0, 1}, CUBIC, 20, -3, 0, 0).at(0.3 * SECOND);
    assertThat(weighted).isCloseTo(plain, within(1e-3));
  }
}
