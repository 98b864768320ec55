package flarvo.format.usd;

import java.util.Arrays;
import org.joml.Matrix4d;

/** A prim in its hierarchy, with its world transform at any time. */
final class UsdNode {

  final UsdPrim prim;
  final UsdNode parent;
  private final UsdXform xform;
  private final boolean still;
  private Matrix4d cached;

  UsdNode(UsdPrim prim, UsdNode parent, UsdXform xform) {
    this.prim = prim;
    this.parent = parent;
    this.xform = xform;
    boolean own = xform.attributes().stream().noneMatch(UsdAttribute::isAnimated);
    this.still = own && (parent == null || xform.resetsStack() || parent.still);
  }

  boolean isStill() {
    return still;
  }

  boolean hasOwnTransform() {
    return !xform.isEmpty();
  }

  /** Local to world for column vectors; the caller must not change it. */
  Matrix4d world(double time, String file) {
    if (still && cached != null) {
      return cached;
    }
    Matrix4d m = xform.at(time, file);
    if (parent != null && !xform.resetsStack()) {
      m = new Matrix4d(parent.world(time, file)).mul(m);
    }
    if (still) {
      cached = m;
    }
    return m;
  }

  /** Times of all samples that move this node, its ancestors' too, rising. */
  double[] times(java.util.List<UsdAttribute> others) {
    java.util.TreeSet<Double> all = new java.util.TreeSet<>();
    for (UsdNode n = this; n != null; n = n.xform.resetsStack() ? null : n.parent) {
      for (UsdAttribute a : n.xform.attributes()) {
        Arrays.stream(a.times()).forEach(all::add);
      }
    }
    for (UsdAttribute a : others) {
      Arrays.stream(a.times()).forEach(all::add);
    }
    return all.stream().mapToDouble(Double::doubleValue).toArray();
  }
}
