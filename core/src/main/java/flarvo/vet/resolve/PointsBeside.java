package flarvo.vet.resolve;

import flarvo.scene.Pose;
import flarvo.scene.Vec3;
import flarvo.vet.adjust.Bundle;
import flarvo.vet.adjust.PointFit;
import flarvo.vet.adjust.Tracks;
import java.util.Arrays;

/** Places for trackers that a reconstruction did not take in, so that each can be looked at. */
final class PointsBeside {

  private PointsBeside() {}

  static void place(Bundle b, Tracks t, boolean[] cameras, boolean[] in) {
    double usual = usualDepth(b, t, in);
    PointFit fit = new PointFit();
    for (int j = 0; j < in.length; j++) {
      if (!in[j] && !fit.place(b, t, j, cameras, 20)) {
        b.setPoint(j, onRay(b, t, j, usual));
      }
    }
  }

  private static double usualDepth(Bundle b, Tracks t, boolean[] in) {
    double[] d = new double[in.length];
    int n = 0;
    for (int j = 0; j < in.length; j++) {
      if (in[j]) {
        Vec3 eye = b.pose(t.camera(t.firstRow(j))).position();
        d[n++] = b.point(j).minus(eye).length();
      }
    }
    Arrays.sort(d, 0, n);
    return n == 0 ? 1 : d[n / 2];
  }

  /** On the ray of the middle row, as far as most are. */
  private static Vec3 onRay(Bundle b, Tracks t, int j, double depth) {
    int row = t.firstRow(j) + t.seen(j) / 2;
    Pose pose = b.pose(t.camera(row));
    return pose.toWorld(b.ray(t.camera(row), t.x(row), t.y(row)).times(depth));
  }
}
