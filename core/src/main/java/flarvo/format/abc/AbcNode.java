package flarvo.format.abc;

import java.util.ArrayList;
import java.util.List;
import org.joml.Matrix4d;

/** A transform in its hierarchy; the root has none of its own. */
record AbcNode(AbcXform xform, AbcNode parent) {

  /** Local to world for column vectors. */
  Matrix4d world(double seconds) {
    Matrix4d own = xform.at(seconds);
    return parent == null || !xform.inheritsAt(seconds) ? own : parent.world(seconds).mul(own);
  }

  /** Every property whose samples move it. */
  List<AbcProperty> moving() {
    List<AbcProperty> out = new ArrayList<>();
    for (AbcNode n = this; n != null; n = n.parent) {
      if (n.xform.moving() != null) {
        out.add(n.xform.moving());
      }
    }
    return out;
  }
}
