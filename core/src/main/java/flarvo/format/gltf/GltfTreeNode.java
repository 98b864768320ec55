package flarvo.format.gltf;

import de.javagl.jgltf.model.NodeModel;
import flarvo.format.TreeNode;
import java.util.function.BiFunction;
import org.joml.Matrix4d;

/**
 * A node of the file's tree.
 *
 * @param isSkinned whether joints deform its meshes
 * @param worldAt node to world at a frame
 */
record GltfTreeNode(
    NodeModel node,
    String name,
    GltfTreeNode parent,
    boolean movesItself,
    boolean isSkinned,
    BiFunction<NodeModel, Integer, Matrix4d> worldAt)
    implements TreeNode {

  @Override
  public Matrix4d world(int frame) {
    return worldAt.apply(node, frame);
  }

  @Override
  public String place() {
    return "node " + name;
  }
}
