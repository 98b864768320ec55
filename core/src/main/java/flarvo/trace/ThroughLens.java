package flarvo.trace;

import flarvo.lens.LensMapper;
import flarvo.lens.LensTrack;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import java.util.HashMap;
import java.util.Map;

/** Features of an original plate, where an undistorted one would show them. */
public final class ThroughLens {

  private ThroughLens() {}

  /** What lies beyond where the lens folds is left out. */
  public static Observations undistorted(Observations o, LensTrack lens, PictureSize picture) {
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
        if (m.toUndistorted(o.x(row), o.y(row), p)) {
          b.add(name, o.frame(row), p[0], p[1]);
        }
      }
    }
    return b.build();
  }
}
