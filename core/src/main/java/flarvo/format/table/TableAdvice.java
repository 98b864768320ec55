package flarvo.format.table;

import flarvo.convention.AngleUnit;
import flarvo.convention.LinearUnit;
import flarvo.convention.RotationOrder;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What somebody says of a table over what it looks like.
 *
 * @param columns in the words of {@link #columns(String)}; empty leaves them to the guess
 * @param mapping a whole mapping, in place of the guess
 * @param order of rotations
 * @param angles their unit
 * @param up whether the y of 2D tracks grows upwards from the bottom left
 * @param unit of positions
 * @param shape what a row holds
 * @param rate where rows have times or timecode
 */
public record TableAdvice(
    List<TableColumn> columns,
    Optional<TableMapping> mapping,
    Optional<RotationOrder> order,
    Optional<AngleUnit> angles,
    Optional<Boolean> up,
    Optional<LinearUnit> unit,
    Optional<TableShape> shape,
    Optional<Rate> rate) {

  public static final TableAdvice NONE =
      new TableAdvice(
          List.of(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty());

  private static final Pattern COMMA_NUMBER = Pattern.compile("\\d+,(\\d+)(?![\\d,])");

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
    if (shape.isPresent() && shape.get() != m.layout().shape()) {
      m = TableGuess.columns(text, m.layout().withShape(shape.get()));
      m = new TableComments(text).applied(m);
    }
    if (!columns.isEmpty()) {
      m = m.withLayout(m.layout(), columns);
    }
    m = m.withAngles(angles.orElse(m.angles()), order.orElse(m.order()));
    if (up.isPresent()) {
      PixelReading.Origin origin =
          up.get() ? PixelReading.Origin.BOTTOM_LEFT : PixelReading.Origin.TOP_LEFT;
      m = m.withPixels(m.pixels().withOrigin(origin).withUp(up.get()));
    }
    return m.withSpace(unit.or(m::unit), m.up()).withRate(rate.or(m::rate));
  }

  /** Whether the comments of a table say which way the y of 2D tracks grows. */
  public static boolean saysY(String text) {
    return new TableComments(text).saysY();
  }

  /** Whether the comments of a table state the size of the picture. */
  public static boolean saysPicture(String text) {
    return new TableComments(text).picture().isPresent();
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
    boolean named =
        TableGuess.isNamed(text, m.layout()) || !columns.isEmpty() || TableGuess.isPlain(text, m);
    String words = "--columns \"" + words(m) + "\"";
    if (m.kind().isEmpty()) {
      out.add(new Doubt(m.lacks(), settling(m, words)));
      return out;
    }
    if (!named) {
      out.add(
          new Doubt(
              "its columns have no names",
              "if they are what they look like, say so with " + words));
    }
    if (m.layout().shape() == TableShape.COLUMNS && m.has(ColumnRole.Z) && columns.isEmpty()) {
      out.add(
          new Doubt(
              "its columns look like one place a frame for each tracker",
              "if they are, say so with " + words));
    }
    List<String> left = TableGuess.unused(text, m);
    if (m.kind().get() == TableMapping.Kind.POINTS && left.size() >= 3 && columns.isEmpty()) {
      out.add(
          new Doubt(
              "points have no use for its columns " + String.join(", ", left),
              "if they are to be left out, say so with " + words));
    }
    if (m.isMatrix() && columns.isEmpty() && !new TableComments(text).isCameraToWorld()) {
      out.add(
          new Doubt(
              "it does not state whether its matrices lead from the camera to the world",
              "if they do, say so with " + words));
    }
    if (isFractionUnclear(text, m.layout())) {
      out.add(
          new Doubt(
              "1,234 in it may be more than a thousand, or a little over one",
              "save it without thousands separators"));
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
    boolean angled = m.isCamera() && !m.isQuaternion() && !m.isMatrix();
    if (angled && order.isEmpty() && said.order().isEmpty()) {
      out.add(
          new Doubt(
              "it does not state its rotation order",
              "give it with --rotation-order, such as XYZ"));
    }
    return out;
  }

  /** What to say so that a mapping no longer lacks anything. */
  private static String settling(TableMapping m, String words) {
    TableMapping sized = m.withPicture(Optional.of(PictureSize.of(1, 1)));
    if (sized.lacks().isEmpty()) {
      return "give it with --size WxH";
    }
    TableMapping rated = sized.withRate(Optional.of(Rate.FPS_24));
    boolean timed = !m.withRate(Optional.of(Rate.FPS_24)).lacks().equals(m.lacks());
    if (timed || rated.lacks().isEmpty()) {
      return "give it with --table-rate, such as 24000/1001";
    }
    return "say which column is what with " + words;
  }

  /**
   * Whether every comma of a number has three digits behind it, so that it may set thousands apart.
   */
  private static boolean isFractionUnclear(String text, TableLayout layout) {
    if (!layout.decimalComma()) {
      return false;
    }
    int thousands = 0;
    for (Matcher m = COMMA_NUMBER.matcher(text); m.find() && thousands >= 0; ) {
      thousands = m.group(1).length() == 3 && m.group().charAt(0) != '0' ? thousands + 1 : -1;
    }
    return thousands > 0;
  }
}
