package flarvo.plate.field;

import flarvo.plate.Raster;
import flarvo.plate.tag.PlateTags;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.List;

/**
 * Takes an interlaced picture apart. The lines of a field stay where they are, so a feature keeps
 * its place; those between are interpolated along the column, by a cubic through the four nearest
 * lines of the field (weights −1, 9, 9, −1 over 16).
 */
public final class FieldSplit {

  private static final float NEAR = 9 / 16f;
  private static final float FAR = -1 / 16f;
  private static final String RATE = "framesPerSecond";
  private static final String TIMECODE = "timeCode";
  private static final int RATIONAL_BYTES = 8;

  private FieldSplit() {}

  /**
   * One field as a whole picture; whole numbers stay within 0 and 1. Its rate is doubled, and its
   * timecode left out, which has no place for half frames.
   */
  public static Raster field(Raster r, FieldOrder which) {
    return lines(r, which).with(doubled(r.tags()));
  }

  /** Both fields averaged. */
  public static Raster blended(Raster r) {
    Raster a = lines(r, FieldOrder.UPPER);
    float[] b = lines(r, FieldOrder.LOWER).values();
    for (int i = 0; i < b.length; i++) {
      a.values()[i] = (a.values()[i] + b[i]) / 2;
    }
    return a;
  }

  private static Raster lines(Raster r, FieldOrder which) {
    int parity = which == FieldOrder.UPPER ? 0 : 1;
    int row = r.width() * r.channels().size();
    float[] from = r.values();
    float[] to = new float[from.length];
    boolean whole = !r.kind().isFloating();
    for (int y = 0; y < r.height(); y++) {
      if ((y & 1) == parity) {
        System.arraycopy(from, y * row, to, y * row, row);
        continue;
      }
      int a = line(y - 3, parity, r.height()) * row;
      int b = line(y - 1, parity, r.height()) * row;
      int c = line(y + 1, parity, r.height()) * row;
      int d = line(y + 3, parity, r.height()) * row;
      for (int i = 0; i < row; i++) {
        float v = FAR * (from[a + i] + from[d + i]) + NEAR * (from[b + i] + from[c + i]);
        to[y * row + i] = whole ? Math.max(0, Math.min(1, v)) : v;
      }
    }
    return new Raster(r.width(), r.height(), r.channels(), r.kind(), to, r.tags());
  }

  /** The nearest line of the field that there is. */
  private static int line(int y, int parity, int height) {
    if (height <= parity) {
      return 0; // a picture of one line has no lower field
    }
    int last = (height - 1 - parity) / 2 * 2 + parity;
    return Math.max(parity, Math.min(y, last));
  }

  private static PlateTags doubled(PlateTags t) {
    List<PlateTags.Attribute> out = new ArrayList<>();
    for (PlateTags.Attribute a : t.attributes()) {
      if (a.name().equals(RATE) && a.value().length == RATIONAL_BYTES) {
        ByteBuffer v = ByteBuffer.wrap(a.value().clone()).order(ByteOrder.LITTLE_ENDIAN);
        long twice = 2L * v.getInt(0);
        if (twice <= Integer.MAX_VALUE) {
          out.add(PlateTags.Attribute.exr(RATE, a.type(), v.putInt(0, (int) twice).array()));
        }
      } else if (!a.name().equals(TIMECODE)) {
        out.add(a);
      }
    }
    return new PlateTags(t.pixelAspect(), t.alpha(), out);
  }
}
