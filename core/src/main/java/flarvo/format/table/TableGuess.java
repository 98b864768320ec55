package flarvo.format.table;

import flarvo.convention.AngleUnit;
import flarvo.convention.LinearUnit;
import flarvo.scene.Timecode;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;

/** Suggests what a table means, from its header where it has one and from its numbers. */
public final class TableGuess {

  /** Frame, position and rotation. */
  private static final int CAMERA_COLUMNS = 7;

  private static final List<ColumnRole> OPTICS_ROLES =
      List.of(ColumnRole.FOCAL, ColumnRole.FILM_WIDTH, ColumnRole.FILM_HEIGHT);

  private static final List<ColumnRole> CAMERA_ROLES =
      List.of(
          ColumnRole.X,
          ColumnRole.Y,
          ColumnRole.Z,
          ColumnRole.TURN_X,
          ColumnRole.TURN_Y,
          ColumnRole.TURN_Z,
          ColumnRole.FOCAL,
          ColumnRole.FILM_WIDTH,
          ColumnRole.FILM_HEIGHT);

  private TableGuess() {}

  /** Whether text is cut into rows alike that hold numbers. */
  public static boolean isTable(String text) {
    return LayoutGuess.isTable(text);
  }

  /** The likeliest mapping; its {@link TableMapping#lacks} says what the user must still add. */
  public static TableMapping of(String text) {
    TableLayout layout = LayoutGuess.of(text);
    String beginning = String.join("\n", LayoutGuess.sample(text));
    return new TableComments(text).applied(columns(beginning, layout));
  }

  /** Roles for a layout that is known. */
  public static TableMapping columns(String text, TableLayout layout) {
    TableCells cells = new TableCells("", String.join("\n", sample(text, layout)), layout);
    int width = cells.header().size();
    for (int i = 0; i < cells.rows(); i++) {
      width = Math.max(width, cells.row(i).size());
    }
    List<TableColumn> unused = new ArrayList<>();
    for (int i = 0; i < width; i++) {
      unused.add(TableColumn.UNUSED);
    }
    TableMapping m = TableMapping.of(layout, unused);
    m = layout.header() ? byHeader(m, cells) : m;
    if (m.kind().isEmpty()) {
      TableMapping guess = byNumbers(m, cells);
      boolean none = m.columns().stream().allMatch(c -> c.role() == ColumnRole.NONE);
      m = none || guess.kind().isPresent() && !layout.header() ? guess : m;
    }
    return scale(m, cells);
  }

  /** Whether the names of its columns say what a table holds, and not only its numbers. */
  static boolean isNamed(String text, TableLayout layout) {
    if (!layout.header()) {
      return false;
    }
    TableCells cells = new TableCells("", String.join("\n", sample(text, layout)), layout);
    List<TableColumn> unused = cells.header().stream().map(h -> TableColumn.UNUSED).toList();
    return byHeader(TableMapping.of(layout, unused), cells).columns().stream()
            .filter(c -> c.role() != ColumnRole.NONE && c.role() != ColumnRole.TRACKER)
            .count()
        >= 2;
  }

  private static List<String> sample(String text, TableLayout layout) {
    List<String> lines = LayoutGuess.sample(text);
    return lines.size() > layout.skip() ? lines : List.of();
  }

  private static TableMapping byHeader(TableMapping blank, TableCells cells) {
    TableMapping m = blank;
    List<String> words = new ArrayList<>();
    List<String> brackets = new ArrayList<>();
    for (String h : cells.header()) {
      brackets.add(ColumnWords.bracketed(h));
      words.add(ColumnWords.plain(h));
    }
    Set<ColumnRole> taken = EnumSet.noneOf(ColumnRole.class);
    for (int i = 0; i < words.size(); i++) {
      ColumnRole role = timed(ColumnWords.role(words.get(i)), i, brackets.get(i), cells);
      // Without a z that is called alike, x and y lie in the picture.
      String third = words.get(i).replaceFirst("[xy]", "z");
      boolean flat = !words.contains(third);
      role = flat && role == ColumnRole.X ? ColumnRole.PIXEL_X : role;
      role = flat && role == ColumnRole.Y ? ColumnRole.PIXEL_Y : role;
      if (role == ColumnRole.NONE || !taken.add(role)) {
        continue;
      }
      m = m.withColumn(i, TableColumn.of(role));
      m = units(m, role, words.get(i), brackets.get(i));
    }
    return quaternion(MatrixColumns.in(m, ColumnWords.letters(cells.header()), cells));
  }

  /**
   * A column called a time may hold timecode, seconds, or what some call a time and is a frame:
   * integers with no unit are not taken.
   */
  private static ColumnRole timed(ColumnRole role, int column, String unit, TableCells cells) {
    if (role != ColumnRole.SECONDS && role != ColumnRole.TIMECODE) {
      return role;
    }
    boolean seconds = unit.equals("s") || unit.startsWith("sec");
    boolean whole = true;
    for (int i = 0; i < cells.rows(); i++) {
      List<String> row = cells.row(i);
      String cell = column < row.size() ? row.get(column) : "";
      if (Timecode.isTimecode(cell)) {
        return ColumnRole.TIMECODE;
      }
      double v = TableCells.number(cell, cells.decimalComma());
      whole &= Double.isNaN(v) || v == Math.rint(v);
    }
    boolean taken = role == ColumnRole.SECONDS && (seconds || unit.isEmpty() && !whole);
    return taken ? ColumnRole.SECONDS : ColumnRole.NONE;
  }

  /** Beside a w, what looked like angles about x, y and z are the rest of a quaternion. */
  private static TableMapping quaternion(TableMapping guess) {
    TableMapping m = guess;
    if (!m.has(ColumnRole.QUAT_W) || m.has(ColumnRole.QUAT_X)) {
      return m;
    }
    for (int i = 0; i < m.columns().size(); i++) {
      ColumnRole r = m.columns().get(i).role();
      ColumnRole part =
          r == ColumnRole.TURN_X
              ? ColumnRole.QUAT_X
              : r == ColumnRole.TURN_Y
                  ? ColumnRole.QUAT_Y
                  : r == ColumnRole.TURN_Z ? ColumnRole.QUAT_Z : r;
      m = m.withColumn(i, TableColumn.of(part));
    }
    return m;
  }

  private static TableMapping units(TableMapping m, ColumnRole role, String word, String unit) {
    if (role == ColumnRole.FOCAL) {
      boolean pixels = word.contains("px") || word.contains("pixel") || unit.startsWith("p");
      return word.equals("vfov")
          ? m.withFocal(FocalReading.VERTICAL_ANGLE)
          : word.contains("fov") || word.equals("aov") || unit.startsWith("deg")
              ? m.withFocal(FocalReading.HORIZONTAL_ANGLE)
              : pixels ? m.withFocal(FocalReading.PIXELS) : m;
    }
    if (EnumSet.of(ColumnRole.TURN_X, ColumnRole.TURN_Y, ColumnRole.TURN_Z).contains(role)) {
      return unit.startsWith("rad") ? m.withAngles(AngleUnit.RADIANS, m.order()) : m;
    }
    if (EnumSet.of(ColumnRole.X, ColumnRole.Y, ColumnRole.Z).contains(role) && !unit.isEmpty()) {
      try {
        return m.withSpace(Optional.of(LinearUnit.parse(unit)), m.up());
      } catch (IllegalArgumentException e) {
        return m; // a word in brackets that is no unit
      }
    }
    return m;
  }

  private static TableMapping byNumbers(TableMapping blank, TableCells cells) {
    TableMapping m = blank;
    // Rows of words, such as units and totals, say nothing of the numbers.
    int[] real = IntStream.range(0, cells.rows()).filter(i -> !cells.isWords(i)).toArray();
    int rows = real.length;
    int width = blank.columns().size();
    if (rows == 0) {
      return m;
    }
    double[][] values = new double[width][rows];
    for (int i = 0; i < rows; i++) {
      List<String> row = cells.row(real[i]);
      for (int c = 0; c < width; c++) {
        values[c][i] =
            c < row.size()
                ? TableCells.number(row.get(c), blank.layout().decimalComma())
                : Double.NaN;
      }
    }
    TableMapping matrix = MatrixColumns.in(m, List.of(), cells);
    if (matrix.isMatrix()) {
      List<Integer> rest = MatrixColumns.behind(matrix);
      for (int i = 0; i < Math.min(OPTICS_ROLES.size(), rest.size()); i++) {
        matrix = matrix.withColumn(rest.get(i), TableColumn.of(OPTICS_ROLES.get(i)));
      }
      return matrix.withColumn(0, TableColumn.of(ColumnRole.FRAME));
    }
    int text = -1;
    List<Integer> counts = new ArrayList<>(); // whole numbers before the first that is none
    List<Integer> numbers = new ArrayList<>();
    for (int c = 0; c < width; c++) {
      boolean words = Arrays.stream(values[c]).allMatch(Double::isNaN);
      if (words && isTimecode(cells, real, c)) {
        m = m.withColumn(c, TableColumn.of(ColumnRole.TIMECODE));
      } else if (words) {
        text = text < 0 ? c : text;
      } else if (numbers.isEmpty() && isCount(cells, real, c)) {
        counts.add(c);
      } else {
        numbers.add(c);
      }
    }
    boolean camera = text < 0 && counts.size() + numbers.size() >= CAMERA_COLUMNS;
    if (camera && !counts.isEmpty() && changes(values[counts.get(0)]) == rows - 1) {
      m = m.withColumn(counts.remove(0), TableColumn.of(ColumnRole.FRAME));
    } else {
      if (text >= 0) {
        m = m.withColumn(text, TableColumn.of(ColumnRole.TRACKER));
      } else if (counts.size() > 1) {
        // Two counts: the one that changes less often names the tracker.
        int id = changes(values[counts.get(0)]) <= changes(values[counts.get(1)]) ? 0 : 1;
        m = m.withColumn(counts.remove(id), TableColumn.of(ColumnRole.TRACKER));
      } else if (counts.size() == 1 && numbers.size() == 3) {
        m = m.withColumn(counts.remove(0), TableColumn.of(ColumnRole.TRACKER));
      }
      if (!counts.isEmpty()) {
        m = m.withColumn(counts.remove(0), TableColumn.of(ColumnRole.FRAME));
      }
      camera = false;
    }
    List<ColumnRole> roles =
        camera
            ? CAMERA_ROLES
            : m.hasFrames()
                ? List.of(ColumnRole.PIXEL_X, ColumnRole.PIXEL_Y)
                : List.of(ColumnRole.X, ColumnRole.Y, ColumnRole.Z);
    numbers.addAll(0, counts);
    for (int i = 0; i < Math.min(roles.size(), numbers.size()); i++) {
      m = m.withColumn(numbers.get(i), TableColumn.of(roles.get(i)));
    }
    return m;
  }

  /**
   * Whether a table needs no names: a column of words, for tracks one of whole numbers, and no more
   * numbers than 2D tracks or points have.
   */
  static boolean isPlain(String text, TableMapping m) {
    Optional<TableMapping.Kind> kind = m.kind();
    boolean plain =
        kind.isPresent()
            && (kind.get() == TableMapping.Kind.TRACKS || kind.get() == TableMapping.Kind.POINTS)
            && m.has(ColumnRole.TRACKER)
            && m.columns().stream().noneMatch(c -> c.role() == ColumnRole.NONE);
    if (!plain) {
      return false;
    }
    int tracker = m.columns().indexOf(TableColumn.of(ColumnRole.TRACKER));
    TableCells cells = new TableCells("", String.join("\n", sample(text, m.layout())), m.layout());
    for (int i = 0; i < cells.rows(); i++) {
      List<String> row = cells.row(i);
      if (!cells.isWords(i) && tracker < row.size() && LayoutGuess.isNumber(row.get(tracker))) {
        return false; // numbers may be something else than names
      }
    }
    return true;
  }

  /** Named columns that a mapping does not use. */
  static List<String> unused(String text, TableMapping m) {
    TableCells cells = new TableCells("", String.join("\n", sample(text, m.layout())), m.layout());
    List<String> out = new ArrayList<>();
    for (int c = 0; c < Math.min(cells.header().size(), m.columns().size()); c++) {
      if (m.columns().get(c).role() == ColumnRole.NONE && !cells.header().get(c).isEmpty()) {
        out.add(cells.header().get(c));
      }
    }
    return out;
  }

  /** The first column of words that a mapping does not use; empty where there is none. */
  static Optional<String> unusedWords(String text, TableMapping m) {
    TableCells cells = new TableCells("", String.join("\n", sample(text, m.layout())), m.layout());
    for (int c = 0; c < m.columns().size(); c++) {
      if (m.columns().get(c).role() != ColumnRole.NONE) {
        continue;
      }
      int words = 0;
      for (int i = 0; i < cells.rows(); i++) {
        List<String> row = cells.row(i);
        boolean word = c < row.size() && !row.get(c).isEmpty() && !LayoutGuess.isNumber(row.get(c));
        words += word ? 1 : 0;
      }
      if (words > cells.rows() / 2) {
        return Optional.of(
            c < cells.header().size() ? cells.header().get(c) : Integer.toString(c + 1));
      }
    }
    return Optional.empty();
  }

  private static boolean isTimecode(TableCells cells, int[] rows, int column) {
    return Arrays.stream(rows)
        .mapToObj(cells::row)
        .allMatch(r -> column < r.size() && Timecode.isTimecode(r.get(column)));
  }

  private static boolean isCount(TableCells cells, int[] rows, int column) {
    for (int i : rows) {
      List<String> row = cells.row(i);
      if (column >= row.size() || !LayoutGuess.COUNT.matcher(row.get(column)).matches()) {
        return false;
      }
    }
    return true;
  }

  private static int changes(double[] v) {
    int n = 0;
    for (int i = 1; i < v.length; i++) {
      n += v[i] != v[i - 1] ? 1 : 0;
    }
    return n;
  }

  /** Numbers near 1 are shares of the picture. */
  private static TableMapping scale(TableMapping m, TableCells cells) {
    if (!m.has(ColumnRole.PIXEL_X, ColumnRole.PIXEL_Y)) {
      return m;
    }
    double least = 0;
    double most = 0;
    for (int i = 0; i < cells.rows(); i++) {
      List<String> row = cells.row(i);
      for (int c = 0; c < Math.min(row.size(), m.columns().size()); c++) {
        ColumnRole r = m.columns().get(c).role();
        double v = TableCells.number(row.get(c), m.layout().decimalComma());
        if ((r == ColumnRole.PIXEL_X || r == ColumnRole.PIXEL_Y) && !Double.isNaN(v)) {
          least = Math.min(least, v);
          most = Math.max(most, v);
        }
      }
    }
    PixelReading p = m.pixels();
    if (Math.max(most, -least) <= 1.5) {
      p = p.withScale(least < -0.55 ? PixelReading.Scale.HALF_EACH : PixelReading.Scale.EACH);
      p = least < -0.05 ? p.withOrigin(PixelReading.Origin.CENTRE) : p;
    } else if (least < -0.05 * most) {
      p = p.withOrigin(PixelReading.Origin.CENTRE);
    }
    return m.withPixels(p);
  }

  /** What tables of one maker have in common: the names of columns, or how many there are. */
  public static String signature(String text, TableLayout layout) {
    TableCells cells = new TableCells("", String.join("\n", sample(text, layout)), layout);
    if (layout.header()) {
      return layout.between().word() + ": " + String.join(", ", cells.header());
    }
    StringBuilder kinds = new StringBuilder(layout.between().word()).append(":");
    if (cells.rows() > 0) {
      for (String cell : cells.row(0)) {
        kinds.append(LayoutGuess.isNumber(cell) ? " number" : " word");
      }
    }
    return kinds.toString();
  }
}
