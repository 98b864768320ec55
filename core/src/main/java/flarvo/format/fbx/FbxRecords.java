package flarvo.format.fbx;

import java.util.AbstractList;
import java.util.Arrays;
import java.util.List;
import org.joml.Vector3d;

/**
 * Properties or connections of a binary file: where each begins, and its first word. The rest stays
 * in the file until it is asked for: a large file has millions, most of them never.
 */
final class FbxRecords extends AbstractList<FbxNode> {

  /** Reads records again whose offset is known. */
  interface Loader {
    FbxNode load(int offset, int depth, long end);

    /** A value alone, without the record; NaN where it is no number. */
    double number(int offset, int i);

    /**
     * Three values alone.
     *
     * @param from of the first value
     * @param into kept where there is no number
     */
    void vector(int offset, int from, Vector3d into);

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

  /** A value of a record of a list, whichever kind of list it is; NaN where it is no number. */
  static double number(List<FbxNode> list, int i, int value) {
    return list instanceof FbxRecords p
        ? p.loader.number(p.offset(i), value)
        : list.get(i).number(value);
  }

  /**
   * Three values of a record of a list, whichever kind of list it is.
   *
   * @param from of the first value
   * @param into kept where there is no number
   */
  static void vector(List<FbxNode> list, int i, int from, Vector3d into) {
    if (list instanceof FbxRecords p) {
      p.loader.vector(p.offset(i), from, into);
    } else {
      vector(list.get(i), from, into);
    }
  }

  /** The same of a record. */
  static void vector(FbxNode of, int from, Vector3d into) {
    for (int k = 0; k < 3; k++) {
      set(into, k, of.number(from + k));
    }
  }

  /** Sets a component; NaN leaves it as it is. */
  static void set(Vector3d v, int component, double number) {
    if (!Double.isNaN(number)) {
      v.setComponent(component, number);
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
