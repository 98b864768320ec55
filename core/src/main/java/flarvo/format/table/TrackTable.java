package flarvo.format.table;

import flarvo.scene.Observations;
import java.util.List;
import java.util.Locale;
import org.apache.commons.csv.CSVFormat;

/** 2D tracks as the table that every part of Flarvo reads. */
public final class TrackTable {

  private static final int BYTES_A_ROW = 40;

  private TrackTable() {}

  /** {@code tracker,frame,x,y}: pixels from the top left corner, as finely as they are measured. */
  public static String text(Observations o) {
    return text(o, ",%.4f,%.4f\n", List.of());
  }

  /**
   * The same to a millionth of a pixel, to be compared with what it was made from.
   *
   * @param comments lines above the table
   */
  public static String exact(Observations o, List<String> comments) {
    return text(o, ",%.6f,%.6f\n", comments);
  }

  private static String text(Observations o, String place, List<String> comments) {
    StringBuilder b = new StringBuilder(BYTES_A_ROW * (o.size() + 1));
    comments.forEach(c -> b.append("# ").append(c).append('\n'));
    b.append("tracker,frame,x,y\n");
    for (String name : o.names()) {
      String cell = CSVFormat.RFC4180.format(name);
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        b.append(cell)
            .append(',')
            .append(o.frame(row))
            .append(String.format(Locale.ROOT, place, o.x(row), o.y(row)));
      }
    }
    return b.toString();
  }
}
