package flarvo.format.usd;

import flarvo.convention.RotationOrder;
import flarvo.format.MatrixPose;
import flarvo.report.InputError;
import flarvo.scene.Rotation;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.joml.Matrix4d;

/**
 * The transform stack of one prim: {@code xformOpOrder}, its operations with suffixes and inverses,
 * and {@code !resetXformStack!}.
 */
final class UsdXform {

  private static final String RESET = "!resetXformStack!";
  private static final String INVERT = "!invert!";

  private record Op(UsdAttribute attribute, String kind, boolean inverse) {}

  private final UsdPrim prim;
  private final UsdEvaluator evaluator;
  private final List<Op> ops = new ArrayList<>();
  private boolean resets;

  UsdXform(UsdPrim prim, UsdEvaluator evaluator, String file) {
    this.prim = prim;
    this.evaluator = evaluator;
    UsdAttribute order = prim.attributes.get("xformOpOrder");
    if (order == null || !(order.value() instanceof List<?> names)) {
      return;
    }
    for (Object o : names) {
      String name = String.valueOf(o);
      if (name.equals(RESET)) {
        resets = true;
        ops.clear();
        continue;
      }
      boolean inverse = name.startsWith(INVERT);
      String attributeName = inverse ? name.substring(INVERT.length()) : name;
      UsdAttribute a = prim.attribute(attributeName).orElse(null);
      String[] parts = attributeName.split(":", -1);
      if (a == null || parts.length < 2 || !parts[0].equals("xformOp")) {
        throw new InputError(
            file,
            "<" + prim.path + ".xformOpOrder>",
            "'" + attributeName + "' is listed but has no value",
            "Request a new copy");
      }
      ops.add(new Op(a, parts[1], inverse));
    }
  }

  boolean resetsStack() {
    return resets;
  }

  boolean isEmpty() {
    return ops.isEmpty();
  }

  List<UsdAttribute> attributes() {
    return ops.stream().map(Op::attribute).toList();
  }

  /** Local to parent, for column vectors. */
  Matrix4d at(double time, String file) {
    Matrix4d m = new Matrix4d();
    for (Op op : ops) {
      Matrix4d local = matrix(op, time, file);
      m.mul(op.inverse ? local.invert() : local);
    }
    return m;
  }

  private Matrix4d matrix(Op op, double time, String file) {
    UsdAttribute a = op.attribute;
    switch (op.kind) {
      case "translate":
        double[] t = evaluator.numbers(prim, a, time, 3);
        return new Matrix4d().translation(t[0], t[1], t[2]);
      case "scale":
        double[] s = evaluator.numbers(prim, a, time, 3);
        return new Matrix4d().scaling(s[0], s[1], s[2]);
      case "rotateX":
        return rotation(RotationOrder.XYZ, Math.toRadians(evaluator.number(prim, a, time)), 0, 0);
      case "rotateY":
        return rotation(RotationOrder.XYZ, 0, Math.toRadians(evaluator.number(prim, a, time)), 0);
      case "rotateZ":
        return rotation(RotationOrder.XYZ, 0, 0, Math.toRadians(evaluator.number(prim, a, time)));
      case "orient":
        double[] q = evaluator.numbers(prim, a, time, 4);
        return MatrixPose.of(Rotation.normalized(q[0], q[1], q[2], q[3]));
      case "transform":
        double[] m = evaluator.numbers(prim, a, time, 16);
        // Rows of a row-vector matrix are the columns of ours, in the order JOML takes them.
        return new Matrix4d(
            m[0], m[1], m[2], m[3], m[4], m[5], m[6], m[7], m[8], m[9], m[10], m[11], m[12], m[13],
            m[14], m[15]);
      default:
        if (op.kind.startsWith("rotate") && op.kind.length() == 9) {
          double[] d = evaluator.numbers(prim, a, time, 3);
          return rotation(
              order(op, file), Math.toRadians(d[0]), Math.toRadians(d[1]), Math.toRadians(d[2]));
        }
        throw new InputError(
            file,
            "<" + prim.path + "." + a.name() + ">",
            "'" + op.kind + "' is not a transform operation",
            "");
    }
  }

  private RotationOrder order(Op op, String file) {
    try {
      return RotationOrder.parse(op.kind.substring(6).toUpperCase(Locale.ROOT));
    } catch (IllegalArgumentException e) {
      throw new InputError(
          file,
          "<" + prim.path + "." + op.attribute.name() + ">",
          e.getMessage(),
          "Request a new copy",
          e);
    }
  }

  private static Matrix4d rotation(RotationOrder order, double x, double y, double z) {
    return MatrixPose.of(order.compose(x, y, z));
  }
}
