package flarvo.format.fbx;

import java.util.AbstractList;
import java.util.Arrays;
import java.util.List;

/**
 * Properties or connections of a binary file: where each begins, and what a property is called. The
 * rest stays in the file until it is asked for: a large file has millions, most of them never.
 */
final class FbxRecords extends AbstractList<FbxNode> {

  /** Reads the record that begins at an offset. */
  interface Loader {
    FbxNode load(int offset, int depth, long end);
  }

  private final Loader loader;
  private final int depth;
  private final long end;
  private int[] at = new int[8];
  private String[] names = new String[8];
  private int count;

  /**
   * @param depth of the records
   * @param end where the last of them must have ended
   */
  FbxRecords(Loader loader, int depth, long end) {
    this.loader = loader;
    this.depth = depth;
    this.end = end;
  }

  /**
   * @param name empty for what is no property
   */
  void add(int offset, String name) {
    if (count == at.length) {
      at = Arrays.copyOf(at, 2 * count);
      names = Arrays.copyOf(names, 2 * count);
    }
    at[count] = offset;
    names[count++] = name;
  }

  void trim() {
    at = Arrays.copyOf(at, count);
    names = Arrays.copyOf(names, count);
  }

  /** The last property of a name in a list of records, whichever kind of list it is; or null. */
  static FbxNode find(List<FbxNode> list, String wanted) {
    if (list instanceof FbxRecords p) {
      for (int i = p.count - 1; i >= 0; i--) {
        if (p.names[i].equals(wanted)) {
          return p.get(i);
        }
      }
      return null;
    }
    for (int i = list.size() - 1; i >= 0; i--) {
      FbxNode p = list.get(i);
      if (p.name.equals("P") && p.text(0).equals(wanted)) {
        return p;
      }
    }
    return null;
  }

  @Override
  public FbxNode get(int i) {
    return loader.load(at[i], depth, end);
  }

  @Override
  public int size() {
    return count;
  }
}
