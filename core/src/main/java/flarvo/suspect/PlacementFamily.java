package flarvo.suspect;

import flarvo.scene.Similarity;
import flarvo.scene.SimilarityFit;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * A transform above camera or points that got lost, or was applied twice, such as a scaled group or
 * a level: points triangulated from the tracks with the file's camera, laid on the file's own.
 */
final class PlacementFamily implements Family {

  private static final int FEWEST = 6;

  @Override
  public boolean isFixed() {
    return false;
  }

  @Override
  public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
    double[] found = PointsFromTracks.met(s, e, b);
    List<Vec3> from = new ArrayList<>();
    List<Vec3> to = new ArrayList<>();
    double[] xyz = s.file.points();
    for (int i = 0; i < xyz.length / 3; i++) {
      if (!Double.isNaN(found[3 * i])) {
        double[] p = {xyz[3 * i], xyz[3 * i + 1], xyz[3 * i + 2]};
        double[] m = Axes.apply(s.knobs.points, p);
        from.add(
            new Vec3(m[0] + s.knobs.offset[0], m[1] + s.knobs.offset[1], m[2] + s.knobs.offset[2]));
        to.add(new Vec3(found[3 * i], found[3 * i + 1], found[3 * i + 2]));
      }
    }
    if (from.size() < FEWEST) {
      return List.of();
    }
    Similarity fit;
    try {
      fit = SimilarityFit.robust(from, to);
    } catch (RuntimeException x) {
      return List.of(); // points on one line, or all in one place
    }
    double[] turn = Axes.times(fit.scale(), fit.rotation().toRows());
    Vec3 t = fit.translation();
    String value =
        String.format(
            Locale.ROOT,
            "scale %.4g, turn %.2f°, move %.3f %.3f %.3f m",
            fit.scale(),
            2 * Math.toDegrees(Math.acos(Math.min(1, Math.abs(fit.rotation().w())))),
            t.x(),
            t.y(),
            t.z());
    return List.of(
        new Change(
            "missing-parent",
            value,
            7,
            "A transform above the camera or the points is missing or applied twice",
            "with the points moved (" + value + ")",
            s.with(
                k -> {
                  k.points = Axes.times(turn, k.points);
                  double[] o = Axes.apply(turn, k.offset);
                  k.offset = new double[] {o[0] + t.x(), o[1] + t.y(), o[2] + t.z()};
                })));
  }
}
