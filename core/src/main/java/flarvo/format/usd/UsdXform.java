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
    if (!UsdTypes.mayMove(prim.type)) {
      return;
    }
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

  private Matrix4d orient(Op op, double[] v, String file) {
    try {
      return MatrixPose.of(Rotation.normalized(v[0], v[1], v[2], v[3]));
    } catch (IllegalArgumentException e) {
      throw unreadable(op, e, file);
    }
  }

  private InputError unreadable(Op op, IllegalArgumentException cause, String file) {
    return new InputError(
        file,
        "<" + prim.path + "." + op.attribute.name() + ">",
        cause.getMessage(),
        "Request a new copy",
        cause);
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

  /** A blocked operation does nothing. */
  private Matrix4d matrix(Op op, double time, String file) {
    int wanted = width(op, file);
    double[] v = evaluator.find(prim, op.attribute, time, wanted).orElse(null);
    if (v == null) {
      return new Matrix4d();
    }
    return switch (op.kind) {
      case "translate" -> new Matrix4d().translation(v[0], v[1], v[2]);
      case "translateX" -> new Matrix4d().translation(v[0], 0, 0);
      case "translateY" -> new Matrix4d().translation(0, v[0], 0);
      case "translateZ" -> new Matrix4d().translation(0, 0, v[0]);
      case "scale" -> new Matrix4d().scaling(v[0], v[1], v[2]);
      case "scaleX" -> new Matrix4d().scaling(v[0], 1, 1);
      case "scaleY" -> new Matrix4d().scaling(1, v[0], 1);
      case "scaleZ" -> new Matrix4d().scaling(1, 1, v[0]);
      case "rotateX" -> rotation(RotationOrder.XYZ, v[0], 0, 0);
      case "rotateY" -> rotation(RotationOrder.XYZ, 0, v[0], 0);
      case "rotateZ" -> rotation(RotationOrder.XYZ, 0, 0, v[0]);
      case "orient" -> orient(op, v, file);
      case "transform" ->
          // Rows of a row-vector matrix are the columns of ours, in the order JOML takes them.
          new Matrix4d(
              v[0], v[1], v[2], v[3], v[4], v[5], v[6], v[7], v[8], v[9], v[10], v[11], v[12],
              v[13], v[14], v[15]);
      default -> rotation(order(op, file), v[0], v[1], v[2]);
    };
  }

  /** How many numbers an operation takes. */
  private int width(Op op, String file) {
    return switch (op.kind) {
      case "translate", "scale" -> 3;
      case "translateX", "translateY", "translateZ", "scaleX", "scaleY", "scaleZ" -> 1;
      case "rotateX", "rotateY", "rotateZ" -> 1;
      case "orient" -> 4;
      case "transform" -> 16;
      default -> {
        if (op.kind.startsWith("rotate") && op.kind.length() == 9) {
          yield 3;
        }
        throw new InputError(
            file,
            "<" + prim.path + "." + op.attribute.name() + ">",
            "'" + op.kind + "' is not a transform operation",
            "");
      }
    };
  }

  private RotationOrder order(Op op, String file) {
    try {
      return RotationOrder.parse(op.kind.substring(6).toUpperCase(Locale.ROOT));
    } catch (IllegalArgumentException e) {
      throw unreadable(op, e, file);
    }
  }

  private static Matrix4d rotation(RotationOrder order, double x, double y, double z) {
    return MatrixPose.of(order.compose(Math.toRadians(x), Math.toRadians(y), Math.toRadians(z)));
  }
}
