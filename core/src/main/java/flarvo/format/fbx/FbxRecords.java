package flarvo.format.fbx;

import java.util.AbstractList;
import java.util.Arrays;
import java.util.List;

/**
 * Properties or connections of a binary file: where each begins, and its first word. The rest stays
 * in the file until it is asked for: a large file has millions, most of them never.
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

    /** A value alone as a whole number; 0 where there is none. */
    long whole(int offset, int i);
  }

  /** Where records begin, of all lists of a file one after the other. */
  static final class Places {
    private int[] at = new int[1024];
    private String[] words = new String[1024];
    private int count;

    int count() {
      return count;
    }

    /**
     * @param word empty for what is of another kind
     */
    void add(int offset, String word) {
      if (count == at.length) {
        at = Arrays.copyOf(at, 2 * count);
        words = Arrays.copyOf(words, 2 * count);
      }
      at[count] = offset;
      words[count++] = word;
    }
  }

  private final Loader loader;
  private final String kind;
  private final int depth;
  private final long end;
  private final Places places;
  private final int from;
  private final int count;

  /**
   * @param kind what the records that count are called
   * @param depth of the records
   * @param end where the last of them must have ended
   * @param places of which it takes all from one on
   */
  FbxRecords(Loader loader, String kind, int depth, long end, Places places, int from) {
    this.loader = loader;
    this.kind = kind;
    this.depth = depth;
    this.end = end;
    this.places = places;
    this.from = from;
    this.count = places.count - from;
  }

  private String word(int i) {
    return places.words[from + i];
  }

  private int offset(int i) {
    return places.at[from + i];
  }

  /**
   * Place of the last property of a name in a list of records, whichever kind of list it is; −1
   * where there is none.
   */
  static int find(List<FbxNode> list, String wanted) {
    if (list instanceof FbxRecords p) {
      int i = p.count - 1;
      while (i >= 0 && !p.word(i).equals(wanted)) {
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
      p.loader.numbers(p.offset(i), from, into);
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

  /** The first word of a record of a kind; empty where it is of another. */
  static String word(List<FbxNode> list, int i, String kind) {
    if (list instanceof FbxRecords p) {
      return p.kind.equals(kind) ? p.word(i) : "";
    }
    FbxNode n = list.get(i);
    return n.name.equals(kind) ? n.text(0) : "";
  }

  /** A value of a record of a list as a whole number; 0 where there is none. */
  static long whole(List<FbxNode> list, int i, int value) {
    return list instanceof FbxRecords p
        ? p.loader.whole(p.offset(i), value)
        : list.get(i).whole(value);
  }

  @Override
  public FbxNode get(int i) {
    return loader.load(offset(i), depth, end);
  }

  @Override
  public int size() {
    return count;
  }
}
