package flarvo.format.usd;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.RotationOrder;
import flarvo.format.ReadLimits;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.junit.jupiter.api.Test;

/** Random transform stacks, evaluated here and by plain matrix products. */
class UsdStackPropertyTest {

  private final Random random = new Random(77);

  @Test
  void anyStackEqualsTheProductOfItsMatrices() {
    for (int i = 0; i < 400; i++) {
      int n = 1 + random.nextInt(6);
      List<String> order = new ArrayList<>();
      StringBuilder ops = new StringBuilder();
      Matrix4d expected = new Matrix4d();
      for (int k = 0; k < n; k++) {
        String name = "xformOp:" + kind(random.nextInt(6)) + ":s" + k;
        Matrix4d m = new Matrix4d();
        ops.append(spell(name, m)).append('\n');
        boolean inverse = random.nextInt(4) == 0;
        order.add("\"" + (inverse ? "!invert!" : "") + name + "\"");
        expected.mul(inverse ? new Matrix4d(m).invert() : m);
      }
      String text =
          "#usda 1.0\ndef Xform \"x\" {\n"
              + ops
              + "uniform token[] xformOpOrder = "
              + order
              + "\n}\n";
      UsdLayer layer = new UsdTextParser("t", text, ReadLimits.USUAL, Progress.NONE).parse();
      Matrix4d found = new UsdXform(layer.roots.get(0), new UsdEvaluator("t"), "t").at(0, "t");
      double size = 1 + Math.abs(expected.m30()) + Math.abs(expected.m31());
      assertThat(found.equals(expected, 1e-9 * size)).as(text).isTrue();
    }
  }

  private static String kind(int i) {
    return new String[] {"translate", "scale", "rotateX", "rotateZYX", "orient", "transform"}[i];
  }

  /** Writes an operation with random numbers and multiplies the same into {@code m}. */
  private String spell(String name, Matrix4d m) {
    double a = 3 * random.nextGaussian();
    double b = 3 * random.nextGaussian();
    double c = 3 * random.nextGaussian();
    String kind = name.split(":", -1)[1];
    switch (kind) {
      case "translate":
        m.translate(a, b, c);
        return "double3 " + name + tuple(a, b, c);
      case "scale":
        m.scale(1 + a * a, 1 + b * b, 1 + c * c);
        return "double3 " + name + tuple(1 + a * a, 1 + b * b, 1 + c * c);
      case "rotateX":
        m.rotateX(Math.toRadians(20 * a));
        return "double " + name + " = " + 20 * a;
      case "rotateZYX":
        // z first: on column vectors it stands rightmost.
        m.rotateX(Math.toRadians(20 * a)).rotateY(Math.toRadians(20 * b));
        m.rotateZ(Math.toRadians(20 * c));
        return "double3 " + name + tuple(20 * a, 20 * b, 20 * c);
      case "orient":
        Quaterniond q = new Quaterniond(a, b, c, 1).normalize();
        m.rotate(q);
        return String.format(Locale.ROOT, "quatd %s = (%s, %s, %s, %s)", name, q.w, q.x, q.y, q.z);
      default:
        m.set(new Matrix4d().translate(a, b, c).rotateY(a).scale(1.5));
        return String.format(
            Locale.ROOT,
            "matrix4d %s = ( (%s,%s,%s,%s), (%s,%s,%s,%s), (%s,%s,%s,%s), (%s,%s,%s,%s) )",
            name,
            m.m00(),
            m.m01(),
            m.m02(),
            m.m03(),
            m.m10(),
            m.m11(),
            m.m12(),
            m.m13(),
            m.m20(),
            m.m21(),
            m.m22(),
            m.m23(),
            m.m30(),
            m.m31(),
            m.m32(),
            m.m33());
    }
  }

  private static String tuple(double x, double y, double z) {
    return " = (" + x + ", " + y + ", " + z + ")";
  }

  @Test
  void ordersMeanWhatTheirNamesSay() {
    for (RotationOrder order : RotationOrder.values()) {
      String text =
          "#usda 1.0\ndef Xform \"x\" {\n double3 xformOp:rotate"
              + order
              + " = (10, 20, 30)\n uniform token[] xformOpOrder = [\"xformOp:rotate"
              + order
              + "\"]\n}\n";
      UsdLayer layer = new UsdTextParser("t", text, ReadLimits.USUAL, Progress.NONE).parse();
      Matrix4d found = new UsdXform(layer.roots.get(0), new UsdEvaluator("t"), "t").at(0, "t");
      Matrix4d expected = new Matrix4d();
      String name = order.name();
      for (int i = 2; i >= 0; i--) {
        switch (name.charAt(i)) {
          case 'X' -> expected.rotateX(Math.toRadians(10));
          case 'Y' -> expected.rotateY(Math.toRadians(20));
          default -> expected.rotateZ(Math.toRadians(30));
        }
      }
      assertThat(found.equals(expected, 1e-12)).as(name).isTrue();
    }
  }

  @Test
  void samplesAreLinearBetweenAndHeldOutside() {
    String text =
        "#usda 1.0\ndef Xform \"x\" {\n double a.timeSamples = { 10: 1, 0: 0, 20: 5 }\n"
            + " quatd q.timeSamples = { 0: (1,0,0,0), 10: (0,1,0,0) }\n}\n";
    UsdPrim p = new UsdTextParser("t", text, ReadLimits.USUAL, Progress.NONE).parse().roots.get(0);
    UsdEvaluator e = new UsdEvaluator("t");
    UsdAttribute a = p.attributes.get("a");
    assertThat(e.number(p, a, -5, 0)).isZero();
    assertThat(e.number(p, a, 5, 0)).isEqualTo(0.5);
    assertThat(e.number(p, a, 15, 0)).isEqualTo(3);
    assertThat(e.number(p, a, 99, 0)).isEqualTo(5);
    double[] q = e.numbers(p, p.attributes.get("q"), 5, 4);
    // Half of a half turn about x.
    assertThat(q[0]).isCloseTo(Math.sqrt(0.5), org.assertj.core.api.Assertions.within(1e-12));
    assertThat(q[1]).isCloseTo(Math.sqrt(0.5), org.assertj.core.api.Assertions.within(1e-12));
  }
}
