package flarvo.format.fbx;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * One record of the container: a name, values, and records inside.
 *
 * <p>Values are Long, Double, String or double[] (any array of numbers).
 */
final class FbxNode {

  final String name;

  /** Line or byte offset, for errors. */
  final String place;

  final List<Object> values = new ArrayList<>();
  final List<FbxNode> children = new ArrayList<>();

  FbxNode(String name, String place) {
    this.name = name;
    this.place = place;
  }

  Optional<FbxNode> child(String childName) {
    for (FbxNode n : children) {
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
    return !values.isEmpty() && values.get(0) instanceof double[] a ? a : new double[0];
  }
}
