package flarvo.format.table;

import flarvo.format.MatrixPose;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.joml.Matrix4d;

/** Columns of a table that hold matrices. */
final class MatrixColumns {

  private static final Pattern ENTRY =
      Pattern.compile("^[a-z]{0,9}?(?:m|r|a|mat|matrix)?([0-4])([0-4])$");
  private static final Pattern LISTED = Pattern.compile("^(?:m|mat|matrix)(\\d{1,2})$");

  /** How far axes of a matrix may lean on each other, and their lengths differ. */
  private static final double UPRIGHT = 1e-4;

  private MatrixColumns() {}

  /**
   * A mapping with the roles of a matrix, where columns are named as one, or sixteen numbers in a
   * row look like one.
   *
   * @param words names of columns, letters and digits alone; empty where there are none
   */
  static TableMapping in(TableMapping m, List<String> words, TableCells cells) {
    Map<Integer, Integer> entries = new HashMap<>(); // 4 * row + column to column of the table
    int size = named(words, entries);
    if (size == 0 && words.isEmpty()) {
      size = unnamed(m.columns().size(), cells, entries);
    }
    return size == 0 ? m : roles(m, size, cells, entries);
  }

  /** 3 or 4, or 0 when the columns are not named as a matrix. */
  private static int named(List<String> words, Map<Integer, Integer> out) {
    Map<Integer, Integer> found = new HashMap<>(); // 10 * row + column
    Map<Integer, Integer> listed = new HashMap<>();
    for (int i = 0; i < words.size(); i++) {
      Matcher e = ENTRY.matcher(words.get(i));
      if (e.matches()) {
        found.put(10 * Integer.parseInt(e.group(1)) + Integer.parseInt(e.group(2)), i);
      }
      Matcher l = LISTED.matcher(words.get(i));
      if (l.matches()) {
        listed.put(Integer.parseInt(l.group(1)), i);
      }
    }
    for (int size = 4; size >= 3; size--) {
      for (int base = 0; base <= 1; base++) {
        if (take(found, 10, base * 11, size, out) || take(listed, size, base, size, out)) {
          return size;
        }
      }
    }
    return 0;
  }

  private static boolean take(
      Map<Integer, Integer> found, int stride, int base, int size, Map<Integer, Integer> out) {
    for (int r = 0; r < size; r++) {
      for (int c = 0; c < size; c++) {
        Integer column = found.get(base + stride * r + c);
        if (column == null) {
          out.clear();
          return false;
        }
        out.put(4 * r + c, column);
      }
    }
    return true;
  }

  /** Sixteen numbers behind a frame that end as a matrix of a transform does. */
  private static int unnamed(int width, TableCells cells, Map<Integer, Integer> out) {
    if (width < 17) {
      return 0;
    }
    for (int i = 0; i < 16; i++) {
      out.put(i, 1 + i);
    }
    if (isLast(cells, out, true) || isLast(cells, out, false)) {
      return 4;
    }
    out.clear();
    return 0;
  }

  /** Whether 0 0 0 1 stands in the last row, or the last column, of every matrix. */
  private static boolean isLast(TableCells cells, Map<Integer, Integer> entries, boolean row) {
    int seen = 0;
    for (int i = 0; i < cells.rows(); i++) {
      if (cells.isWords(i)) {
        continue;
      }
      List<String> r = cells.row(i);
      for (int k = 0; k < 4; k++) {
        int column = entries.get(row ? 12 + k : 4 * k + 3);
        double v = column < r.size() ? TableCells.number(r.get(column), cells.decimalComma()) : -1;
        if (v != (k == 3 ? 1 : 0)) {
          return false;
        }
      }
      seen++;
    }
    return seen > 0;
  }

  private static TableMapping roles(
      TableMapping m, int size, TableCells cells, Map<Integer, Integer> entries) {
    boolean turned = false;
    if (size == 4) {
      boolean row = isLast(cells, entries, true);
      boolean column = isLast(cells, entries, false);
      if (row == column) {
        return m; // at the origin, or no matrix of a transform
      }
      turned = column;
    }
    TableMapping out = m;
    for (int r = 0; r < 3; r++) {
      for (int c = 0; c < 3; c++) {
        int at = entries.get(turned ? 4 * c + r : 4 * r + c);
        out = out.withColumn(at, TableColumn.of(TableMapping.MATRIX.get(3 * r + c)));
      }
    }
    if (size == 4) {
      List<ColumnRole> position = List.of(ColumnRole.X, ColumnRole.Y, ColumnRole.Z);
      for (int r = 0; r < 3; r++) {
        int at = entries.get(turned ? 12 + r : 4 * r + 3);
        out = out.withColumn(at, TableColumn.of(position.get(r)));
      }
    }
    return out;
  }

  /** Columns that are not taken yet and stand behind all that are. */
  static List<Integer> behind(TableMapping m) {
    int last = 0;
    for (int i = 0; i < m.columns().size(); i++) {
      last = m.columns().get(i).role() == ColumnRole.NONE ? last : i;
    }
    List<Integer> out = new ArrayList<>();
    for (int i = last + 1; i < m.columns().size(); i++) {
      out.add(i);
    }
    return out;
  }

  /**
   * @param m nine numbers, row by row; one scale for all three axes is taken off
   * @return empty when it mirrors, shears or has no size
   */
  static Optional<Rotation> rotation(double[] m) {
    double[] length = new double[3];
    for (int c = 0; c < 3; c++) {
      length[c] = Math.sqrt(m[c] * m[c] + m[3 + c] * m[3 + c] + m[6 + c] * m[6 + c]);
    }
    for (int c = 0; c < 3; c++) {
      int n = (c + 1) % 3;
      double lean =
          (m[c] * m[n] + m[3 + c] * m[3 + n] + m[6 + c] * m[6 + n]) / (length[c] * length[n]);
      if (!(Math.abs(lean) < UPRIGHT) || !(Math.abs(length[c] / length[n] - 1) < UPRIGHT)) {
        return Optional.empty();
      }
    }
    Matrix4d j =
        new Matrix4d(m[0], m[3], m[6], 0, m[1], m[4], m[7], 0, m[2], m[5], m[8], 0, 0, 0, 0, 1);
    return MatrixPose.rigid(j, 2, 1).map(Pose::rotation);
  }
}
