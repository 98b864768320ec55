package flarvo.trace;

import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import java.util.OptionalDouble;
import java.util.TreeMap;

/**
 * Between the pixels of plates and those of the shot's picture. They differ where plates are of
 * another size, as proxies are: everything that is kept of a shot is in pixels of its picture.
 *
 * @param x pixels of the picture to one of the plates, across
 * @param y the same, down
 */
public record PlatePixels(double x, double y) {

  /**
   * Of plates, without their overscan.
   *
   * @param picture of the shot
   */
  public static PlatePixels of(PlateSequence plates, PictureSize picture) {
    return of(plates.picture(), picture);
  }

  /** Of plates of a size. */
  public static PlatePixels of(PictureSize plates, PictureSize picture) {
    return new PlatePixels(
        (double) picture.width() / plates.width(), (double) picture.height() / plates.height());
  }

  /** Whether the plates are of the picture's size. */
  public boolean isSame() {
    return x == 1 && y == 1;
  }

  /** What was followed in the plates, in pixels of the picture. */
  public Observations toPicture(Observations inPlates) {
    return isSame() ? inPlates : scaled(inPlates, x, y);
  }

  /** A mask in pixels of the picture, for those of the plates. */
  public Mask toPlates(Mask inPicture) {
    return isSame() ? inPicture : (frame, px, py) -> inPicture.covers(frame, px * x, py * y);
  }

  /** A shape in pixels of the picture, in those of the plates. */
  public MaskShape toPlates(MaskShape inPicture) {
    if (isSame()) {
      return inPicture;
    }
    TreeMap<Integer, double[]> keys = new TreeMap<>();
    inPicture
        .keys()
        .forEach(
            (frame, corners) -> {
              double[] p = corners.clone();
              for (int i = 0; i < p.length; i += 2) {
                p[i] /= x;
                p[i + 1] /= y;
              }
              keys.put(frame, p);
            });
    return new MaskShape(inPicture.name(), keys);
  }

  /** A feature's marks and path, in pixels of the plates; its pattern is in them already. */
  public HandFeature toPlates(HandFeature h) {
    if (isSame()) {
      return h;
    }
    TreeMap<Integer, HandFeature.Mark> marks = new TreeMap<>();
    h.marks().forEach((frame, m) -> marks.put(frame, new HandFeature.Mark(m.x() / x, m.y() / y)));
    OptionalDouble search =
        h.searchPx().isEmpty()
            ? h.searchPx()
            : OptionalDouble.of(
                Math.max(HandFeature.SMALLEST_SEARCH_PX, h.searchPx().getAsDouble() / x));
    return new HandFeature(
        h.name(),
        h.plates(),
        h.radius(),
        marks,
        h.within(),
        search,
        scaled(h.path(), 1 / x, 1 / y));
  }

  private static Observations scaled(Observations o, double sx, double sy) {
    Observations.Builder b = new Observations.Builder();
    for (String n : o.names()) {
      for (int row = o.firstRow(n); row < o.endRow(n); row++) {
        b.add(n, o.frame(row), sx * o.x(row), sy * o.y(row));
      }
    }
    return b.build();
  }
}
