package flarvo.vet;

import flarvo.scene.Observations;
import java.util.Optional;

/**
 * One tracker in numbers.
 *
 * @param frames in which it was seen
 * @param first frame in which it was seen, and {@code last}; 0 where it never was
 * @param driftPx how far its error wanders from its first third to its last, in pixels
 * @param likeness of each error to the one before, −1 to 1: near 0 is noise, near 1 is something
 *     that moves on its own or was tracked wrongly
 * @param angle widest that a ray makes with the first, radians
 * @param depth from the nearest camera, metres
 * @param depthError standard error along the view for the tracker's own error in pixels, metres
 */
public record TrackerMeasure(
    String name,
    String group,
    int frames,
    int first,
    int last,
    double rmsPx,
    double maxPx,
    double driftPx,
    double likeness,
    double angle,
    double depth,
    double depthError) {

  static TrackerMeasure of(
      String name,
      String group,
      Observations o,
      Reprojection errors,
      Optional<Triangulation.Placed> placed) {
    int from = o.firstRow(name);
    int to = o.endRow(name);
    if (from < 0) {
      double no = Double.NaN;
      return new TrackerMeasure(name, group, 0, 0, 0, no, no, no, no, no, no, no);
    }
    double rms = errors.trackerRmsPx(name);
    return new TrackerMeasure(
        name,
        group,
        to - from,
        o.frame(from),
        o.frame(to - 1),
        rms,
        errors.trackerMaxPx(name),
        drift(errors, from, to),
        likeness(errors, from, to),
        placed.map(Triangulation.Placed::angle).orElse(Double.NaN),
        placed.map(Triangulation.Placed::depth).orElse(Double.NaN),
        // Placed counts with a pixel on each axis.
        placed.map(p -> p.depthError() * rms / Math.sqrt(2)).orElse(Double.NaN));
  }

  private static double drift(Reprojection e, int from, int to) {
    int third = Math.max(1, (to - from) / 3);
    double x = mean(e, to - third, to, true) - mean(e, from, from + third, true);
    double y = mean(e, to - third, to, false) - mean(e, from, from + third, false);
    return Math.hypot(x, y);
  }

  private static double mean(Reprojection e, int from, int to, boolean across) {
    double sum = 0;
    int n = 0;
    for (int row = from; row < to; row++) {
      double d = across ? e.dx(row) : e.dy(row);
      if (!Double.isNaN(d)) {
        sum += d;
        n++;
      }
    }
    return sum / n;
  }

  private static double likeness(Reprojection e, int from, int to) {
    double with = 0;
    double own = 0;
    for (int row = from; row < to; row++) {
      double x = e.dx(row);
      double y = e.dy(row);
      if (Double.isNaN(x) || Double.isNaN(y)) {
        continue;
      }
      own += x * x + y * y;
      if (row > from && !Double.isNaN(e.dx(row - 1)) && !Double.isNaN(e.dy(row - 1))) {
        with += x * e.dx(row - 1) + y * e.dy(row - 1);
      }
    }
    return own > 0 ? with / own : Double.NaN;
  }
}
