package flarvo.format.abc;

import flarvo.format.TreeNode;
import java.util.ArrayList;
import java.util.List;
import org.joml.Matrix4d;

/** A transform in its hierarchy; the root has none of its own. */
record AbcNode(AbcXform xform, AbcNode above, String name, String path, AbcClock clock)
    implements TreeNode {

  /** Local to world for column vectors. */
  Matrix4d world(double seconds) {
    Matrix4d own = xform.at(seconds);
    return above == null || !xform.inheritsAt(seconds) ? own : above.world(seconds).mul(own);
  }

  @Override
  public Matrix4d world(int frame) {
    return world(clock.secondsOf(frame));
  }

  /** A transform that does not inherit hangs in nothing. */
  @Override
  public TreeNode parent() {
    return xform.alwaysInherits() ? above : null;
  }

  @Override
  public boolean movesItself() {
    return xform.moving() != null || xform.inheritsAtTimes();
  }

  @Override
  public String place() {
    return "<" + path + ">";
  }

  /** Every property whose samples move it. */
  List<AbcProperty> moving() {
    List<AbcProperty> out = new ArrayList<>();
    for (AbcNode n = this; n != null; n = n.above) {
      if (n.xform.moving() != null) {
        out.add(n.xform.moving());
      }
    }
    return out;
  }
}
