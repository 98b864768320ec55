package flarvo.suspect;

import java.util.List;

/**
 * The focal length of a camera that is measured alone. Points triangulated through a wrong one lie
 * where it fits best, so that no ratio of pixels tells the right one: each that is tried has points
 * of its own.
 */
final class FocalOfCameraAlone implements Family {

  /** Focal lengths are tried from a third to three times, evenly by their logarithm. */
  private static final double FARTHEST = Math.log(3);

  private static final double STEP = FARTHEST / 10;
  private static final double EXACT = 1e-4;
  private static final double GOLDEN = (Math.sqrt(5) - 1) / 2;

  @Override
  public boolean isFixed() {
    return false;
  }

  @Override
  public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
    double best = 0;
    double least = left(0, s, e, b);
    for (double at = -FARTHEST; at <= FARTHEST + EXACT; at += STEP) {
      double px = left(at, s, e, b);
      if (px < least) {
        least = px;
        best = at;
      }
    }
    double k = narrowed(best - STEP, best + STEP, s, e, b);
    return Math.abs(k) < 10 * EXACT
        ? List.of()
        : List.of(
            Change.fitted(
                "focal-length",
                2,
                LensFamilies.FOCAL_SAYS,
                LensFamilies.FOCAL_UNDONE,
                s,
                List.of(Dial.FOCAL),
                k));
  }

  /** Golden section search; the error has one lowest place near the best of those tried. */
  private static double narrowed(
      double from, double to, TriedScene s, Evidence e, TriedScene.Bench b) {
    double lo = from;
    double hi = to;
    double c = hi - GOLDEN * (hi - lo);
    double d = lo + GOLDEN * (hi - lo);
    double fc = left(c, s, e, b);
    double fd = left(d, s, e, b);
    while (hi - lo > EXACT) {
      if (fc < fd) {
        hi = d;
        d = c;
        fd = fc;
        c = hi - GOLDEN * (hi - lo);
        fc = left(c, s, e, b);
      } else {
        lo = c;
        c = d;
        fc = fd;
        d = lo + GOLDEN * (hi - lo);
        fd = left(d, s, e, b);
      }
    }
    return (lo + hi) / 2;
  }

  private static double left(double log, TriedScene s, Evidence e, TriedScene.Bench b) {
    TriedScene with = s.with(k -> Dial.FOCAL.turn(k, log));
    double[] xyz = PointsFromTracks.seen(with, e, b);
    return with.with(with.file.withPoints(xyz, List.of())).error(e, b);
  }
}
