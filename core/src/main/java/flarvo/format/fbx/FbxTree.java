package flarvo.format.fbx;

import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.Deque;

/**
 * Puts records together. Values are Integer, Long, Double, Boolean, String, {@link FbxName}, and
 * the arrays int[], long[], double[] and float[]; a container writes each in its own way.
 */
final class FbxTree {

  private final FbxNode root = new FbxNode("");
  private final Deque<FbxNode> open = new ArrayDeque<>();

  FbxTree() {
    open.push(root);
  }

  FbxNode root() {
    return root;
  }

  /** A record without a block. */
  void record(String name, Object... values) {
    add(name, values);
  }

  void open(String name, Object... values) {
    FbxNode n = add(name, values);
    n.block = true;
    open.push(n);
  }

  void close() {
    open.pop();
  }

  void property(String name, String type, String label, String flags, Object... values) {
    FbxNode p = add("P", name, type, label, flags);
    p.values.addAll(Arrays.asList(values));
  }

  void array(String name, long[] values) {
    add(name, (Object) values.clone());
  }

  void array(String name, int... values) {
    add(name, (Object) values.clone());
  }

  void array(String name, double[] values) {
    add(name, (Object) values.clone());
  }

  void floats(String name, double... values) {
    float[] f = new float[values.length];
    for (int i = 0; i < f.length; i++) {
      f[i] = (float) values[i];
    }
    add(name, (Object) f);
  }

  private FbxNode add(String name, Object... values) {
    FbxNode n = new FbxNode(name);
    n.values.addAll(Arrays.asList(values));
    open.element().add(n);
    return n;
  }
}
