package flarvo.format.fbx;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * One record of the container: a name, values, and records inside.
 *
 * <p>Values that were read are Long, Double, String, double[] (any array of numbers) or {@link
 * Packed}; those to be written are listed at {@link FbxTree}.
 */
final class FbxNode {

  /** An array that stays in the file until it is asked for. */
  interface Packed {
    double[] unpack();
  }

  final String name;

  /** Written with a block, though it may be empty. */
  boolean block;

  final List<Object> values;

  /** Most records have none; {@link #add} makes room. */
  List<FbxNode> children = List.of();

  FbxNode(String name) {
    this(name, new ArrayList<>());
  }

  /**
   * @param values kept as they are
   */
  FbxNode(String name, List<Object> values) {
    this.name = name;
    this.values = values;
  }

  void add(FbxNode child) {
    children = ShortList.with(children, child);
  }

  Optional<FbxNode> child(String childName) {
    for (int i = 0; i < children.size(); i++) {
      FbxNode n = children.get(i);
      if (n.name.equals(childName)) {
        return Optional.of(n);
      }
    }
    return Optional.empty();
  }

  List<FbxNode> all(String childName) {
    return children.stream().filter(n -> n.name.equals(childName)).toList();
  }

  String text(int i) {
    return i < values.size() && values.get(i) instanceof String s ? s : "";
  }

  /** NaN where there is no number. */
  double number(int i) {
    return i < values.size() && values.get(i) instanceof Number n ? n.doubleValue() : Double.NaN;
  }

  long whole(int i) {
    return i < values.size() && values.get(i) instanceof Number n ? n.longValue() : 0;
  }

  /** The numbers of an array record; empty where it holds none. */
  double[] array() {
    Object v = values.isEmpty() ? null : values.get(0);
    return v instanceof double[] a ? a : v instanceof Packed p ? p.unpack() : new double[0];
  }
}
