package flarvo.format.fbx;

import flarvo.convention.RotationOrder;
import flarvo.format.MatrixPose;
import org.joml.Matrix4d;
import org.joml.Vector3d;

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

  /**
   * By the inherit type of each model: how its rotation and scale meet its parent's.
   *
   * <pre>
   *   0 RrSs   rotations first, then scales:  Rp · R · Sp · S
   *   1 RSrs   whole matrices:                Rp · Sp · R · S
   *   2 Rrs    without the parent's own scale
   * </pre>
   */
  static Matrix4d world(FbxObject model, double tick) {
    if (model.parent == null) {
      return local(model, tick);
    }
    Matrix4d parent = world(model.parent, tick);
    Matrix4d local = local(model, tick);
    int inherit = (int) model.number("InheritType", 0);
    Matrix4d plain = new Matrix4d(parent).mul(local);
    if (inherit == 1 || isUniform(parent)) {
      if (inherit != 2) {
        return plain;
      }
    }
    Vector3d position = plain.getTranslation(new Vector3d());
    Matrix4d parentTurn = rotation(model.parent, tick);
    Matrix4d parentShear = new Matrix4d(parentTurn).invert().mul(withoutTranslation(parent));
    Matrix4d turn = ownRotation(model, tick);
    Matrix4d shear = new Matrix4d(turn).invert().mul(withoutTranslation(local));
    Matrix4d m = new Matrix4d(parentTurn).mul(turn);
    if (inherit == 2) {
      parentShear.mul(scale(model.parent, tick).invert());
    }
    return m.mul(parentShear).mul(shear).setTranslation(position);
  }

  /** What shapes the geometry alone and is not inherited. */
  static Matrix4d geometric(FbxObject o) {
    Matrix4d m = new Matrix4d();
    translate(m, o, "GeometricTranslation", 0, 1);
    m.mul(rotation(o, "GeometricRotation", RotationOrder.XYZ, 0));
    return m.scale(
        o.at("GeometricScaling", 0, 1, 0),
        o.at("GeometricScaling", 1, 1, 0),
        o.at("GeometricScaling", 2, 1, 0));
  }

  /** Of the whole chain above and of the model itself. */
  private static Matrix4d rotation(FbxObject model, double tick) {
    Matrix4d own = ownRotation(model, tick);
    return model.parent == null ? own : rotation(model.parent, tick).mul(own);
  }

  private static Matrix4d ownRotation(FbxObject o, double tick) {
    boolean active = o.number("RotationActive", 0) != 0;
    Matrix4d m = new Matrix4d();
    if (active) {
      m.mul(rotation(o, "PreRotation", RotationOrder.XYZ, tick));
    }
    m.mul(rotation(o, "Lcl Rotation", order(o), tick));
    if (active) {
      m.mul(rotation(o, "PostRotation", RotationOrder.XYZ, tick).invert());
    }
    return m;
  }

  private static RotationOrder order(FbxObject o) {
    int stored = (int) o.number("RotationOrder", 0);
    boolean counts = o.number("RotationActive", 0) != 0;
    return counts && stored >= 0 && stored < ORDERS.length ? ORDERS[stored] : RotationOrder.XYZ;
  }

  private static Matrix4d scale(FbxObject o, double tick) {
    return new Matrix4d()
        .scaling(
            o.at("Lcl Scaling", 0, 1, tick),
            o.at("Lcl Scaling", 1, 1, tick),
            o.at("Lcl Scaling", 2, 1, tick));
  }

  private static Matrix4d withoutTranslation(Matrix4d m) {
    return new Matrix4d(m).setTranslation(0, 0, 0);
  }

  /** Whether turning and scaling may change places. */
  private static boolean isUniform(Matrix4d m) {
    Vector3d s = m.getScale(new Vector3d());
    double most = Math.max(s.x, Math.max(s.y, s.z));
    double least = Math.min(s.x, Math.min(s.y, s.z));
    return most - least <= 1e-12 * most && m.determinant3x3() > 0;
  }

  private static Matrix4d local(FbxObject o, double tick) {
    Matrix4d m = new Matrix4d();
    translate(m, o, "Lcl Translation", tick, 1);
    translate(m, o, "RotationOffset", tick, 1);
    translate(m, o, "RotationPivot", tick, 1);
    // Order and pre- and post-rotation count only where the model says that they do.
    m.mul(ownRotation(o, tick));
    translate(m, o, "RotationPivot", tick, -1);
    translate(m, o, "ScalingOffset", tick, 1);
    translate(m, o, "ScalingPivot", tick, 1);
    m.mul(scale(o, tick));
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
