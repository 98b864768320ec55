package flarvo.format.abc;

import flarvo.scene.Optics;
import java.util.ArrayList;
import java.util.List;

/**
 * What moves and scales the picture on the film back after projection: operations by their first
 * letter (t, s, m) and their values in a row. They act on positions measured in halves of the film
 * back from its centre, right and up.
 */
final class AbcFilmBack {

  private final List<String> ops = new ArrayList<>();
  private final AbcProperty values;

  AbcFilmBack(AbcCompound geom) {
    geom.property(".filmBackOps").ifPresent(p -> ops.addAll(p.texts(0)));
    values = geom.property(".filmBackChannels").orElse(null);
  }

  boolean isThere() {
    return values != null && !ops.isEmpty();
  }

  Optics apply(Optics o, double seconds) {
    if (!isThere()) {
      return o;
    }
    double[] v = values.at(seconds);
    double scaleX = 1;
    double scaleY = 1;
    double x = 0;
    double y = 0;
    int i = 0;
    for (String op : ops) {
      char kind = op.isEmpty() ? ' ' : op.charAt(0);
      int size = kind == 'm' ? 9 : 2;
      if (i + size > v.length) {
        throw new IllegalArgumentException("the film back's operations and values do not fit");
      }
      switch (kind) {
        case 't' -> {
          x += scaleX * v[i];
          y += scaleY * v[i + 1];
        }
        case 's' -> {
          scaleX *= v[i];
          scaleY *= v[i + 1];
        }
        case 'm' -> {
          // Rows for row vectors: scales on the diagonal, the shift in the last row.
          x += scaleX * v[i + 6];
          y += scaleY * v[i + 7];
          scaleX *= v[i];
          scaleY *= v[i + 4];
        }
        default -> throw new IllegalArgumentException("'" + op + "' is not a film back operation");
      }
      i += size;
    }
    if (!(scaleX > 0) || !(scaleY > 0)) {
      throw new IllegalArgumentException("the film back is mirrored or collapsed");
    }
    // A picture that is twice as large is one from half the film back.
    double width = o.filmWidthMm() / scaleX;
    double height = o.filmHeightMm() / scaleY;
    return new Optics(
        o.focalLengthMm(),
        width,
        height,
        o.principalXMm() + x * width / 2,
        o.principalYMm() + y * height / 2);
  }
}
