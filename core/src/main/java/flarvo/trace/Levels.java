package flarvo.trace;

import boofcv.struct.image.GrayF32;
import flarvo.scene.Luma;
import java.util.ArrayList;
import java.util.List;

/**
 * A frame, and the same half as large, a quarter as large and so on. Pixel {@code x} of a frame
 * lies at {@code x / 2} one level up.
 */
record Levels(int frame, List<GrayF32> at) {

  /** The smallest picture has at least this many pixels across its short side. */
  private static final int SMALLEST = 32;

  private static final int MOST = 5;

  /** A picture over the same numbers. */
  static GrayF32 image(Luma l) {
    GrayF32 whole = new GrayF32(1, 1);
    whole.data = l.luma();
    whole.width = l.width();
    whole.height = l.height();
    whole.stride = l.width();
    return whole;
  }

  static Levels of(int frame, Luma l) {
    GrayF32 whole = image(l);
    int n = 1;
    while (n < MOST && Math.min(l.width(), l.height()) >> n >= SMALLEST) {
      n++;
    }
    List<GrayF32> at = new ArrayList<>(List.of(whole));
    while (at.size() < n) {
      at.add(HalfSize.of(at.get(at.size() - 1)));
    }
    return new Levels(frame, List.copyOf(at));
  }

  GrayF32 whole() {
    return at.get(0);
  }

  int count() {
    return at.size();
  }
}
