package flarvo.format.table;

import flarvo.convention.AngleUnit;
import flarvo.convention.LinearUnit;
import flarvo.convention.RotationOrder;
import flarvo.scene.PictureSize;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * What somebody says of a table over what it looks like.
 *
 * @param columns in the words of {@link #columns(String)}; empty leaves them to the guess
 * @param mapping a whole mapping, in place of the guess
 * @param order of rotations
 * @param angles their unit
 * @param up whether the y of 2D tracks grows upwards from the bottom left
 * @param unit of positions
 */
public record TableAdvice(
    List<TableColumn> columns,
    Optional<TableMapping> mapping,
    Optional<RotationOrder> order,
    Optional<AngleUnit> angles,
    Optional<Boolean> up,
    Optional<LinearUnit> unit) {

  public static final TableAdvice NONE =
      new TableAdvice(
          List.of(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty());

  public TableAdvice {
    columns = List.copyOf(columns);
  }

  /**
   * Columns from left to right, such as {@code frame,tx,ty,-tz,rx,ry,rz,focal}: the words of
   * mappings on disk. A minus turns a sign round; nothing between two commas, or {@code -} alone,
   * is a column that is not used.
   *
   * @throws IllegalArgumentException with a sentence for the user
   */
  public static List<TableColumn> columns(String words) {
    List<TableColumn> out = new ArrayList<>();
    for (String w : words.split(",", -1)) {
      String word = w.strip().toLowerCase(Locale.ROOT);
      boolean negated = word.startsWith("-") && word.length() > 1;
      out.add(
          word.equals("-")
              ? TableColumn.UNUSED
              : new TableColumn(ColumnRole.of(negated ? word.substring(1) : word), negated));
    }
    return out;
  }

  /** The words of a mapping's columns, as {@link #columns(String)} takes them. */
  public static String words(TableMapping m) {
    return String.join(
        ",",
        m.columns().stream()
            .map(
                c -> c.role() == ColumnRole.NONE ? "-" : (c.negated() ? "-" : "") + c.role().word())
            .toList());
  }

  /** The mapping of a table: as it looks, with this over it. */
  public TableMapping over(String text) {
    TableMapping m = mapping.orElseGet(() -> TableGuess.of(text));
    if (!columns.isEmpty()) {
      m = m.withLayout(m.layout(), columns);
    }
    m = m.withAngles(angles.orElse(m.angles()), order.orElse(m.order()));
    if (up.isPresent()) {
      PixelReading.Origin origin =
          up.get() ? PixelReading.Origin.BOTTOM_LEFT : PixelReading.Origin.TOP_LEFT;
      m = m.withPixels(m.pixels().withOrigin(origin).withUp(up.get()));
    }
    return m.withSpace(unit.or(m::unit), m.up());
  }

  /**
   * What is not sure.
   *
   * @param what a sentence about a table
   * @param settledBy what to say on the command line
   */
  public record Doubt(String what, String settledBy) {}

  /** What is still a guess. Empty where the table says what it means, or somebody did. */
  public List<Doubt> doubts(String text, TableMapping m) {
    List<Doubt> out = new ArrayList<>();
    if (mapping.isPresent()) {
      return out;
    }
    boolean named = m.layout().header() || !columns.isEmpty() || TableGuess.isPlain(text, m);
    String words = "--columns \"" + words(m) + "\"";
    if (m.kind().isEmpty()) {
      boolean sized = m.withPicture(Optional.of(PictureSize.of(1, 1))).lacks().isEmpty();
      String settled = sized ? "give it with --size WxH" : "say which column is what with " + words;
      out.add(new Doubt(m.lacks(), settled));
      return out;
    }
    if (!named) {
      out.add(
          new Doubt(
              "its columns have no names",
              "if they are what they look like, say so with " + words));
    }
    Optional<String> unused =
        columns.isEmpty() && !m.has(ColumnRole.TRACKER) && !m.isCamera()
            ? TableGuess.unusedWords(text, m)
            : Optional.empty();
    unused.ifPresent(
        c ->
            out.add(
                new Doubt(
                    "column '" + c + "' holds words and is not used",
                    "say what it is with " + words)));
    TableComments said = new TableComments(text);
    boolean angled = m.isCamera() && !m.isQuaternion();
    if (angled && order.isEmpty() && said.order().isEmpty()) {
      out.add(
          new Doubt(
              "it does not state its rotation order",
              "give it with --rotation-order, such as XYZ"));
    }
    return out;
  }
}
