package flarvo.plate.match;

import flarvo.scene.Luma;
import java.util.ArrayList;
import java.util.List;

/** A picture, and the same half as large, a quarter as large and so on. */
final class Pyramid {

  private final List<Luma> levels = new ArrayList<>();

  /**
   * @param count of levels, the picture itself included
   */
  Pyramid(Luma whole, int count) {
    levels.add(whole);
    while (levels.size() < count) {
      levels.add(half(levels.get(levels.size() - 1)));
    }
  }

  Luma at(int level) {
    return levels.get(level);
  }

  int count() {
    return levels.size();
  }

  private static Luma half(Luma l) {
    int w = l.width() / 2;
    int h = l.height() / 2;
    float[] out = new float[w * h];
    for (int y = 0; y < h; y++) {
      for (int x = 0; x < w; x++) {
        out[y * w + x] =
            (l.at(2 * x, 2 * y)
                    + l.at(2 * x + 1, 2 * y)
                    + l.at(2 * x, 2 * y + 1)
                    + l.at(2 * x + 1, 2 * y + 1))
                / 4;
      }
    }
    return new Luma(w, h, out);
  }
}
