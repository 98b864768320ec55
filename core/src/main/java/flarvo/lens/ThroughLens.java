package flarvo.lens;

import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import java.util.HashMap;
import java.util.Map;

/** 2D tracks of original plates and of undistorted ones, each from the other. */
public final class ThroughLens {

  private interface Way {
    boolean go(LensMapper lens, double x, double y, double[] to);
  }

  private ThroughLens() {}

  /**
   * Tracks of an original plate, where an undistorted one would show them. What lies beyond where
   * the lens folds is left out.
   *
   * @param picture of both, without overscan
   */
  public static Observations undistorted(Observations o, LensTrack lens, PictureSize picture) {
    return through(o, lens, picture, LensMapper::toUndistorted);
  }

  /** Tracks of an undistorted plate, where the original shows them; the other way round. */
  public static Observations original(Observations o, LensTrack lens, PictureSize picture) {
    return through(o, lens, picture, LensMapper::toOriginal);
  }

  private static Observations through(
      Observations o, LensTrack lens, PictureSize picture, Way way) {
    Map<Integer, LensMapper> mappers = new HashMap<>();
    LensMapper same = lens.breathes() ? null : lens.base().on(picture);
    Observations.Builder b = new Observations.Builder();
    double[] p = new double[2];
    for (String name : o.names()) {
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        LensMapper m =
            same != null
                ? same
                : mappers.computeIfAbsent(o.frame(row), f -> lens.at(f).on(picture));
        if (way.go(m, o.x(row), o.y(row), p)) {
          b.add(name, o.frame(row), p[0], p[1]);
        }
      }
    }
    return b.build();
  }
}
