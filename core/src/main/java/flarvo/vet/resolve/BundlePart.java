package flarvo.vet.resolve;

import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.adjust.Bundle;
import flarvo.vet.adjust.BundleAdjuster;
import flarvo.vet.adjust.Tracks;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** Some cameras and points of a bundle, which are adjusted while the others stay as they are. */
final class BundlePart {

  private BundlePart() {}

  /**
   * Adjusts a part in place. A focal factor that is found goes to all cameras; one for each frame
   * only to those that move.
   *
   * @param cameras that move; what others saw does not count
   * @param points that move
   */
  static void adjust(
      Bundle b, Tracks t, boolean[] cameras, boolean[] points, AdjustOptions options) {
    int[] cameraAt = new int[cameras.length];
    int n = 0;
    for (int i = 0; i < cameras.length; i++) {
      cameraAt[i] = cameras[i] ? n++ : -1;
    }
    if (n == 0) {
      return;
    }
    Tracks.Builder rows = new Tracks.Builder(n);
    List<Integer> which = new ArrayList<>();
    for (int j = 0; j < points.length; j++) {
      if (points[j]) {
        which.add(j);
        for (int row = t.firstRow(j); row < t.firstRow(j) + t.seen(j); row++) {
          if (cameras[t.camera(row)]) {
            rows.see(cameraAt[t.camera(row)], t.x(row), t.y(row));
          }
        }
        rows.endPoint();
      }
    }
    Bundle part = new Bundle(n, which.size());
    for (int i = 0; i < cameras.length; i++) {
      if (cameras[i]) {
        part.setPose(cameraAt[i], b.pose(i));
        part.setOptics(cameraAt[i], b.focalPx(i), b.ratio(i), b.centreX(i), b.centreY(i));
      }
    }
    for (int k = 0; k < which.size(); k++) {
      part.setPoint(k, b.point(which.get(k)));
    }
    Bundle fitted = BundleAdjuster.adjust(part, rows.build(), options, Progress.NONE).bundle();
    boolean own = options.focal() == AdjustOptions.Focal.PER_FRAME;
    double factor = own ? 1 : fitted.focalPx(0) / part.focalPx(0);
    for (int i = 0; i < cameras.length; i++) {
      double focal = own && cameras[i] ? fitted.focalPx(cameraAt[i]) : b.focalPx(i) * factor;
      b.setOptics(i, focal, b.ratio(i), b.centreX(i), b.centreY(i));
      if (cameras[i]) {
        b.setPose(i, fitted.pose(cameraAt[i]));
      }
    }
    for (int k = 0; k < which.size(); k++) {
      b.setPoint(which.get(k), fitted.point(k));
    }
  }

  /**
   * Median distance in pixels between where points are seen and where they were observed.
   *
   * @param cameras whose rows count
   * @param points whose rows count
   * @return NaN where there is no row
   */
  static double medianPx(Bundle b, Tracks t, boolean[] cameras, boolean[] points) {
    double[] all = BundleAdjuster.distances(b, t, AdjustOptions.USUAL);
    int n = 0;
    for (int j = 0; j < points.length; j++) {
      for (int row = t.firstRow(j); row < t.firstRow(j) + t.seen(j); row++) {
        if (points[j] && cameras[t.camera(row)]) {
          all[n++] = all[row];
        }
      }
    }
    Arrays.sort(all, 0, n);
    return n == 0 ? Double.NaN : all[n / 2];
  }
}
