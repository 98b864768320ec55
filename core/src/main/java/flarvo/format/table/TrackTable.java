package flarvo.format.table;

import flarvo.scene.Observations;
import java.util.List;
import org.apache.commons.csv.CSVFormat;

/** 2D tracks as the table that every part of Flarvo reads. */
public final class TrackTable {

  private static final int BYTES_A_ROW = 40;

  private TrackTable() {}

  /** {@code tracker,frame,x,y}: pixels from the top left corner, as finely as they are measured. */
  public static String text(Observations o) {
    return text(o, 4, List.of());
  }

  /**
   * The same to a millionth of a pixel, to be compared with what it was made from.
   *
   * @param comments lines above the table
   */
  public static String exact(Observations o, List<String> comments) {
    return text(o, 6, comments);
  }

  private static String text(Observations o, int digits, List<String> comments) {
    StringBuilder b = new StringBuilder(BYTES_A_ROW * (o.size() + 1));
    comments.forEach(c -> b.append("# ").append(c).append('\n'));
    b.append("tracker,frame,x,y\n");
    for (String name : o.names()) {
      String cell = CSVFormat.RFC4180.format(name);
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        b.append(cell).append(',').append(o.frame(row)).append(',');
        fixed(b, o.x(row), digits).append(',');
        fixed(b, o.y(row), digits).append('\n');
      }
    }
    return b.toString();
  }

  /** As {@code %.4f} writes it, without a formatter for each of millions of rows. */
  private static StringBuilder fixed(StringBuilder b, double v, int digits) {
    double unit = Math.pow(10, digits);
    if (!(Math.abs(v) * unit < 1L << 53)) {
      return b.append(v); // far off any picture
    }
    long whole = Math.round(Math.abs(v) * unit);
    b.append(v < 0 && whole > 0 ? "-" : "").append(whole / (long) unit).append('.');
    String rest = Long.toString(whole % (long) unit);
    return b.append("0".repeat(digits - rest.length())).append(rest);
  }
}
