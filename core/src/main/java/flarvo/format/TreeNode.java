package flarvo.format;

import org.joml.Matrix4d;

/** A node of a file's tree, as its reader evaluates it. */
public interface TreeNode {

  /** As the file's author gave it. */
  String name();

  /** Null at the top. */
  TreeNode parent();

  /** Whether keys or samples of its own may move it, apart from what nodes above do. */
  boolean movesItself();

  /** Node to world at a file frame, for column vectors, in the file's unit; may be changed. */
  Matrix4d world(int frame);

  /** Where it stands in the file, for notes and errors. */
  String place();
}
