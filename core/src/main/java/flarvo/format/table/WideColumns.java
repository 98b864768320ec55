package flarvo.format.table;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Where a table with columns for each tracker has them.
 *
 * @param shared columns that count for every tracker of a row, such as the frame
 * @param names of the trackers
 * @param columns of each tracker, in the order of {@code parts}
 * @param parts what the columns of a tracker are called without its name
 */
record WideColumns(
    List<Integer> shared, List<String> names, List<List<Integer>> columns, List<String> parts) {

  /**
   * A name, a separator, and the last word: {@code t001_x}, {@code t001 X [px]}, {@code t001.u}.
   */
  private static final Pattern SEPARATED =
      Pattern.compile("^(.+?)[\\s._:|/-]+(x|y|z|u|v|px|py|posx|posy|posz)(\\s*[\\[(].*)?$");

  /** A capital behind the name: {@code t001X}. */
  private static final Pattern CAPITAL = Pattern.compile("^(.*[a-z0-9])([XYZUV])$");

  /**
   * By the names of columns.
   *
   * @return empty unless all columns but one or more shared ones belong to a tracker, each tracker
   *     with the same parts
   */
  static Optional<WideColumns> of(List<String> header) {
    List<Integer> shared = new ArrayList<>();
    Map<String, Map<String, Integer>> found = new LinkedHashMap<>();
    for (int i = 0; i < header.size(); i++) {
      String name = header.get(i);
      Matcher m = SEPARATED.matcher(name.toLowerCase(Locale.ROOT));
      Matcher c = CAPITAL.matcher(name);
      boolean separated = m.matches();
      if (name.isEmpty()) {
        continue; // behind a separator at the end of the row
      }
      if (ColumnWords.role(name) != ColumnRole.NONE || !separated && !c.matches()) {
        shared.add(i);
        continue;
      }
      String stem = separated ? name.substring(0, m.end(1)) : c.group(1);
      String part = separated ? m.group(2) : c.group(2).toLowerCase(Locale.ROOT);
      if (found.computeIfAbsent(stem, s -> new LinkedHashMap<>()).put(part, i) != null) {
        return Optional.empty();
      }
    }
    if (found.isEmpty()) {
      return Optional.empty();
    }
    List<String> parts = List.copyOf(found.values().iterator().next().keySet());
    List<List<Integer>> columns = new ArrayList<>();
    for (Map<String, Integer> of : found.values()) {
      if (of.size() != parts.size() || !of.keySet().containsAll(parts)) {
        return Optional.empty();
      }
      columns.add(parts.stream().map(of::get).toList());
    }
    boolean pairs = parts.size() == 2 || parts.size() == 3;
    return pairs
        ? Optional.of(new WideColumns(shared, List.copyOf(found.keySet()), columns, parts))
        : Optional.empty();
  }

  /** Without names: the first column is shared, every two that follow are a tracker. */
  static WideColumns numbered(int width) {
    List<String> names = new ArrayList<>();
    List<List<Integer>> columns = new ArrayList<>();
    for (int i = 1; i + 1 < width; i += 2) {
      names.add("track" + (names.size() + 1));
      columns.add(List.of(i, i + 1));
    }
    return new WideColumns(List.of(0), names, columns, List.of("x", "y"));
  }

  /** Names of the cells that {@link #row} makes. */
  List<String> header(List<String> header) {
    List<String> out = new ArrayList<>(List.of("tracker"));
    for (int i : shared) {
      out.add(i < header.size() ? header.get(i) : "frame");
    }
    out.addAll(parts);
    return out;
  }

  /** A row of one tracker: its name, the shared cells, its own. Missing cells are blank. */
  List<String> row(List<String> cells, int tracker) {
    List<String> out = new ArrayList<>(1 + shared.size() + parts.size());
    out.add(names.get(tracker));
    for (int i : shared) {
      out.add(i < cells.size() ? cells.get(i) : "");
    }
    for (int i : columns.get(tracker)) {
      out.add(i < cells.size() ? cells.get(i) : "");
    }
    return out;
  }
}
