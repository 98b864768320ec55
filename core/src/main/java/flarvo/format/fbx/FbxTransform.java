package flarvo.format.fbx;

import flarvo.convention.RotationOrder;
import flarvo.format.MatrixPose;
import org.joml.Matrix4d;

/**
 * Local and world transform of a model at a tick:
 *
 * <pre>
 *   local = T · Roff · Rp · Rpre · R · Rpost⁻¹ · Rp⁻¹ · Soff · Sp · S · Sp⁻¹
 * </pre>
 */
final class FbxTransform {

  /** By the number that the file stores. */
  private static final RotationOrder[] ORDERS = {
    RotationOrder.XYZ,
    RotationOrder.XZY,
    RotationOrder.YZX,
    RotationOrder.YXZ,
    RotationOrder.ZXY,
    RotationOrder.ZYX
  };

  private FbxTransform() {}

  static int numberOf(RotationOrder order) {
    for (int i = 0; i < ORDERS.length; i++) {
      if (ORDERS[i] == order) {
        return i;
      }
    }
    throw new IllegalStateException(order.toString());
  }

  static Matrix4d world(FbxObject model, double tick) {
    Matrix4d m = local(model, tick);
    for (FbxObject p = model.parent; p != null; p = p.parent) {
      m = local(p, tick).mul(m);
    }
    return m;
  }

  private static Matrix4d local(FbxObject o, double tick) {
    Matrix4d m = new Matrix4d();
    translate(m, o, "Lcl Translation", tick, 1);
    translate(m, o, "RotationOffset", tick, 1);
    translate(m, o, "RotationPivot", tick, 1);
    // Order and pre- and post-rotation count only where the model says that they do.
    boolean active = o.number("RotationActive", 0) != 0;
    RotationOrder order = RotationOrder.XYZ;
    if (active) {
      int stored = (int) o.number("RotationOrder", 0);
      order = stored >= 0 && stored < ORDERS.length ? ORDERS[stored] : RotationOrder.XYZ;
      m.mul(rotation(o, "PreRotation", RotationOrder.XYZ, tick));
    }
    m.mul(rotation(o, "Lcl Rotation", order, tick));
    if (active) {
      m.mul(rotation(o, "PostRotation", RotationOrder.XYZ, tick).invert());
    }
    translate(m, o, "RotationPivot", tick, -1);
    translate(m, o, "ScalingOffset", tick, 1);
    translate(m, o, "ScalingPivot", tick, 1);
    m.scale(
        o.at("Lcl Scaling", 0, 1, tick),
        o.at("Lcl Scaling", 1, 1, tick),
        o.at("Lcl Scaling", 2, 1, tick));
    translate(m, o, "ScalingPivot", tick, -1);
    return m;
  }

  private static void translate(Matrix4d m, FbxObject o, String p, double tick, int sign) {
    m.translate(sign * o.at(p, 0, 0, tick), sign * o.at(p, 1, 0, tick), sign * o.at(p, 2, 0, tick));
  }

  private static Matrix4d rotation(FbxObject o, String p, RotationOrder order, double tick) {
    return MatrixPose.of(
        order.compose(
            Math.toRadians(o.at(p, 0, 0, tick)),
            Math.toRadians(o.at(p, 1, 0, tick)),
            Math.toRadians(o.at(p, 2, 0, tick))));
  }
}
