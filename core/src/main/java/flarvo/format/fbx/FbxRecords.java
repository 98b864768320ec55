package flarvo.format.fbx;

import java.util.AbstractList;
import java.util.Arrays;
import java.util.List;

/**
 * Properties or connections of a binary file: where each begins, and what a property is called. The
 * rest stays in the file until it is asked for: a large file has millions, most of them never.
 */
final class FbxRecords extends AbstractList<FbxNode> {

  /** Reads records again whose offset is known. */
  interface Loader {
    FbxNode load(int offset, int depth, long end);

    /**
     * Values alone, without the record.
     *
     * @param from of the first value
     * @param into NaN where there is no number
     */
    void numbers(int offset, int from, double[] into);
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

  /**
   * Place of the last property of a name in a list of records, whichever kind of list it is; −1
   * where there is none.
   */
  static int find(List<FbxNode> list, String wanted) {
    if (list instanceof FbxRecords p) {
      int i = p.count - 1;
      while (i >= 0 && !p.names[i].equals(wanted)) {
        i--;
      }
      return i;
    }
    for (int i = list.size() - 1; i >= 0; i--) {
      FbxNode p = list.get(i);
      if (p.name.equals("P") && p.text(0).equals(wanted)) {
        return i;
      }
    }
    return -1;
  }

  /**
   * Numbers of a record of a list, whichever kind of list it is.
   *
   * @param from of the first value
   * @param into NaN where there is no number
   */
  static void numbers(List<FbxNode> list, int i, int from, double[] into) {
    if (list instanceof FbxRecords p) {
      p.loader.numbers(p.at[i], from, into);
    } else {
      numbers(list.get(i), from, into);
    }
  }

  /** The same of a record. */
  static void numbers(FbxNode of, int from, double[] into) {
    for (int k = 0; k < into.length; k++) {
      into[k] = of.number(from + k);
    }
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
