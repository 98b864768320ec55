package flarvo.lens.fit;

import flarvo.scene.PictureSize;
import java.util.List;

/** How much of the picture has evidence in it. */
final class Cover {

  /** Cells across; as many down as make them nearly square. */
  private static final int ACROSS = 12;

  private Cover() {}

  /** Share of the picture's cells that a line goes through, 0 to 1. */
  static double of(List<StraightLine> lines, PictureSize picture) {
    int down = Math.max(1, (int) Math.round(ACROSS / picture.aspect()));
    boolean[] cells = new boolean[ACROSS * down];
    for (StraightLine l : lines) {
      for (int i = 0; i < l.size(); i++) {
        int cx = (int) Math.floor(l.x(i) / picture.width() * ACROSS);
        int cy = (int) Math.floor(l.y(i) / picture.height() * down);
        if (cx >= 0 && cx < ACROSS && cy >= 0 && cy < down) {
          cells[cy * ACROSS + cx] = true;
        }
      }
    }
    int n = 0;
    for (boolean c : cells) {
      n += c ? 1 : 0;
    }
    return n / (double) cells.length;
  }
}
