package flarvo.format.usd;

import flarvo.format.TreeNode;
import java.util.Arrays;
import org.joml.Matrix4d;

/** A prim in its hierarchy, with its world transform at any time. */
final class UsdNode implements TreeNode {

  final UsdPrim prim;
  final UsdNode parent;
  private final UsdXform xform;
  private final UsdTime time;
  private final String file;
  private final boolean ownStill;
  private final boolean still;
  private Matrix4d cached;

  UsdNode(UsdPrim prim, UsdNode parent, UsdXform xform, UsdTime time, String file) {
    this.prim = prim;
    this.parent = parent;
    this.xform = xform;
    this.time = time;
    this.file = file;
    this.ownStill = xform.attributes().stream().noneMatch(UsdAttribute::isAnimated);
    this.still = ownStill && (parent == null || xform.resetsStack() || parent.still);
  }

  @Override
  public String name() {
    return prim.attribute("userProperties:name").flatMap(UsdAttribute::text).orElse(prim.name);
  }

  /** A node that leaves its parent's transform hangs in nothing. */
  @Override
  public TreeNode parent() {
    return xform.resetsStack() ? null : parent;
  }

  @Override
  public boolean movesItself() {
    return !ownStill;
  }

  @Override
  public Matrix4d world(int frame) {
    return new Matrix4d(world(time.codeOf(frame)));
  }

  @Override
  public String place() {
    return "<" + prim.path + ">";
  }

  boolean hasOwnTransform() {
    return !xform.isEmpty();
  }

  /** Local to world for column vectors; the caller must not change it. */
  Matrix4d world(double code) {
    if (still && cached != null) {
      return cached;
    }
    Matrix4d m = xform.at(code, file);
    if (parent != null && !xform.resetsStack()) {
      m = new Matrix4d(parent.world(code)).mul(m);
    }
    if (still) {
      cached = m;
    }
    return m;
  }

  /** Adds the times of the samples of its own transform. */
  void ownTimes(java.util.Set<Double> to) {
    for (UsdAttribute a : xform.attributes()) {
      Arrays.stream(a.times()).forEach(to::add);
    }
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
