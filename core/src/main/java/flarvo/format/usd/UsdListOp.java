package flarvo.format.usd;

import java.util.ArrayList;
import java.util.List;

/**
 * An edit of a list: either the list itself, or what to put before, behind and out of a weaker one.
 */
record UsdListOp(
    boolean explicit,
    List<Object> items,
    List<Object> prepended,
    List<Object> appended,
    List<Object> deleted) {

  static final UsdListOp NONE = new UsdListOp(false, List.of(), List.of(), List.of(), List.of());

  static UsdListOp explicitly(List<Object> items) {
    return new UsdListOp(true, items, List.of(), List.of(), List.of());
  }

  /** The same with one more statement of a text layer, by its word. */
  UsdListOp with(String word, List<Object> more) {
    return switch (word) {
      case "prepend" -> new UsdListOp(explicit, items, more, appended, deleted);
      case "append", "add" -> new UsdListOp(explicit, items, prepended, more, deleted);
      case "delete" -> new UsdListOp(explicit, items, prepended, appended, more);
      case "reorder" -> this;
      default -> new UsdListOp(true, more, prepended, appended, deleted);
    };
  }

  List<Object> applyTo(List<Object> weaker) {
    if (explicit) {
      return items;
    }
    List<Object> out = new ArrayList<>(prepended);
    for (Object o : weaker) {
      if (!deleted.contains(o) && !prepended.contains(o) && !appended.contains(o)) {
        out.add(o);
      }
    }
    for (Object o : appended) {
      if (!prepended.contains(o)) {
        out.add(o);
      }
    }
    return out;
  }

  /** The list that several opinions make, strongest first. */
  static List<Object> compose(List<UsdListOp> strongestFirst) {
    List<Object> out = List.of();
    for (int i = strongestFirst.size() - 1; i >= 0; i--) {
      out = strongestFirst.get(i).applyTo(out);
    }
    return out;
  }
}
