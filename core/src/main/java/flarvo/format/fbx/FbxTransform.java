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
   * Where a model is, and what of it its children inherit.
   *
   * @param world model to world
   * @param unscaled the same without its scale
   * @param scale its own, times what it inherits
   * @param inherited what it inherits of scale
   * @param tick when
   */
  record Placed(
      Matrix4d world, Matrix4d unscaled, Vector3d scale, Vector3d inherited, double tick) {

    static final Placed TOP =
        new Placed(new Matrix4d(), new Matrix4d(), new Vector3d(1), new Vector3d(1), 0);
  }

  /**
   * Model to world, by the inherit type of each model: how its rotation and scale meet its
   * parent's. With {@code U} for a model's world matrix without its scale, {@code t} for where its
   * local matrix puts its origin, and scales as diagonals in the axes of the model itself:
   *
   * <pre>
   *   0 RrSs   U(parent) · T(s(parent) t) · R · s(parent) s
   *   1 RSrs   W(parent) · T(t) · R · s
   *   2 Rrs    U(parent) · T(s(parent) t) · R · s, with what the parent itself inherits of scale
   * </pre>
   *
   * Type 2 is what writers with joints mean: the parent's own scale is undone before the joint
   * turns. Where types are mixed below uneven scales, the format's own sample multiplies global
   * rotations and scales apart from each other; that agrees with no chain of matrices that a writer
   * of such files evaluates, and is not followed. Checked against an independent reader ({@code
   * ./flarvo peers}).
   */
  static Matrix4d world(FbxObject model, double tick) {
    return placed(model, tick).world;
  }

  /** Where a parent is, which its many children ask for one after the other at the same time. */
  private static Placed above(FbxObject model, double tick) {
    FbxObject parent = model.parent;
    if (parent == null) {
      return Placed.TOP;
    }
    if (parent.placed == null || parent.placed.tick != tick) {
      parent.placed = placed(parent, tick);
    }
    return parent.placed;
  }

  private static Placed placed(FbxObject model, double tick) {
    Placed above = above(model, tick);
    Vector3d own = model.vector("Lcl Scaling", 1, tick);
    Matrix4d turn = ownRotation(model, tick);
    Vector3d origin = origin(model, turn, own, tick);
    int inherit = (int) model.number("InheritType", 0);
    Vector3d inherited =
        switch (inherit) {
          case 1 -> new Vector3d(1);
          case 2 -> above.inherited;
          default -> above.scale;
        };
    Matrix4d unscaled;
    if (inherit == 1) {
      unscaled = new Matrix4d(above.world).translate(origin).mul(turn);
    } else {
      unscaled = new Matrix4d(above.unscaled).translate(origin.mul(above.scale)).mul(turn);
    }
    Vector3d scale = own.mul(inherited);
    return new Placed(new Matrix4d(unscaled).scale(scale), unscaled, scale, inherited, tick);
  }

  /** What shapes the geometry alone and is not inherited. */
  static Matrix4d geometric(FbxObject o) {
    Matrix4d m = new Matrix4d();
    translate(m, o, "GeometricTranslation", 0, 1);
    m.mul(rotation(o, "GeometricRotation", RotationOrder.XYZ, 0));
    return m.scale(o.vector("GeometricScaling", 1, 0));
  }

  private static Matrix4d ownRotation(FbxObject o, double tick) {
    // Order and pre- and post-rotation count only where the model says that they do.
    if (o.number("RotationActive", 0) == 0) {
      return rotation(o, "Lcl Rotation", RotationOrder.XYZ, tick);
    }
    return rotation(o, "PreRotation", RotationOrder.XYZ, tick)
        .mul(rotation(o, "Lcl Rotation", order(o), tick))
        .mul(rotation(o, "PostRotation", RotationOrder.XYZ, tick).invert());
  }

  static RotationOrder order(FbxObject o) {
    int stored = (int) o.number("RotationOrder", 0);
    boolean counts = o.number("RotationActive", 0) != 0;
    return counts && stored >= 0 && stored < ORDERS.length ? ORDERS[stored] : RotationOrder.XYZ;
  }

  /** Where the local matrix puts the model's origin, in its parent. */
  private static Vector3d origin(FbxObject o, Matrix4d turn, Vector3d scale, double tick) {
    Vector3d pivot = o.vector("RotationPivot", 0, tick);
    Vector3d scalePivot = o.vector("ScalingPivot", 0, tick);
    Vector3d inner = new Vector3d(scalePivot).mul(scale).negate().add(scalePivot);
    inner.add(o.vector("ScalingOffset", 0, tick)).sub(pivot);
    turn.transformDirection(inner).add(pivot);
    return inner.add(o.vector("RotationOffset", 0, tick)).add(o.vector("Lcl Translation", 0, tick));
  }

  private static void translate(Matrix4d m, FbxObject o, String p, double tick, int sign) {
    m.translate(o.vector(p, 0, tick).mul(sign));
  }

  private static Matrix4d rotation(FbxObject o, String p, RotationOrder order, double tick) {
    Vector3d v = o.vector(p, 0, tick);
    if (v.x == 0 && v.y == 0 && v.z == 0) {
      return new Matrix4d();
    }
    return MatrixPose.of(
        order.compose(Math.toRadians(v.x), Math.toRadians(v.y), Math.toRadians(v.z)));
  }
}
