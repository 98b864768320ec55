package flarvo.format.fbx;

import java.util.ArrayList;
import java.util.List;

/** Lists of which a large file has hundreds of thousands, nearly all of one entry or none. */
final class ShortList {

  private ShortList() {}

  /** The list with one more entry: the same list, or a new one in its place. */
  static <T> List<T> with(List<T> list, T more) {
    if (list.isEmpty()) {
      return List.of(more);
    }
    if (list.size() == 1) {
      List<T> two = new ArrayList<>(4);
      two.add(list.get(0));
      two.add(more);
      return two;
    }
    list.add(more);
    return list;
  }
}
