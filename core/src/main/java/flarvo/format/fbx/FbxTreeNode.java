package flarvo.format.fbx;

import flarvo.format.TreeNode;
import org.joml.Matrix4d;

/** A model as a node of the file's tree. */
record FbxTreeNode(FbxObject model, FbxTreeNode above, FbxClock clock) implements TreeNode {

  @Override
  public String name() {
    return model.name;
  }

  @Override
  public TreeNode parent() {
    return above;
  }

  @Override
  public boolean movesItself() {
    for (String property : model.animated().keySet()) {
      if (property.startsWith("Lcl ")) {
        return true;
      }
    }
    return false;
  }

  @Override
  public Matrix4d world(int frame) {
    return FbxTransform.world(model, clock.tickOf(frame));
  }

  @Override
  public String place() {
    return "Model " + model.name;
  }
}
