package flarvo.trace;

import flarvo.scene.Observations;
import java.util.Locale;

/** 2D tracks as the table that every part of Flarvo reads. */
public final class TrackTable {

  private static final int BYTES_A_ROW = 32;

  private TrackTable() {}

  /** {@code tracker,frame,x,y}: canonical pixels from the top left corner, frames of the plate. */
  public static String text(Observations o) {
    StringBuilder b = new StringBuilder(BYTES_A_ROW * (o.size() + 1));
    b.append("tracker,frame,x,y\n");
    for (String name : o.names()) {
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        b.append(name)
            .append(',')
            .append(o.frame(row))
            .append(String.format(Locale.ROOT, ",%.4f,%.4f\n", o.x(row), o.y(row)));
      }
    }
    return b.toString();
  }
}
