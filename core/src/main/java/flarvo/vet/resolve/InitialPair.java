package flarvo.vet.resolve;

import boofcv.alg.geo.robust.DistanceSe3SymmetricSq;
import boofcv.alg.geo.robust.RansacCalibrated;
import boofcv.factory.geo.ConfigEssential;
import boofcv.factory.geo.ConfigRansac;
import boofcv.factory.geo.ConfigTriangulation;
import boofcv.factory.geo.FactoryMultiView;
import boofcv.factory.geo.FactoryMultiViewRobust;
import boofcv.struct.calib.CameraPinhole;
import boofcv.struct.geo.AssociatedPair;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.SimilarityFit;
import flarvo.scene.Vec3;
import flarvo.vet.adjust.Bundle;
import flarvo.vet.adjust.Tracks;
import georegression.struct.se.Se3_F64;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;

/**
 * Two frames to begin with: far enough apart that their rays open, and sharing trackers enough. The
 * move between them comes from the essential matrix of five trackers (Nistér, "An Efficient
 * Solution to the Five-Point Relative Pose Problem", 2004), chosen by random samples.
 */
final class InitialPair {

  static final int FEWEST_SHARED = 8;

  private static final int FRAMES_LOOKED_AT = 22;
  private static final int SAMPLES = 400;
  private static final double INLIER_PX = 2;

  /** Trackers of a sample that choose among the moves of the other five. */
  private static final int MORE = 2;

  private static final double WIDE_ENOUGH_PX = 60;
  private static final long SEED = 20_261_123L;

  /**
   * @param shared rows of both cameras, the earlier's at even places
   * @param parallaxPx what turning alone leaves between them, median
   */
  record Pair(int from, int to, int[] shared, double parallaxPx) {
    int count() {
      return shared.length / 2;
    }

    double score() {
      return Math.min(parallaxPx, WIDE_ENOUGH_PX) * Math.sqrt(count());
    }
  }

  private InitialPair() {}

  /** Pairs worth a try, the best first. */
  static List<Pair> ranked(Bundle optics, Tracks t) {
    int n = t.cameras();
    int[] looked = new int[Math.min(n, FRAMES_LOOKED_AT)];
    for (int k = 0; k < looked.length; k++) {
      looked[k] = looked.length == 1 ? 0 : (int) Math.round(k * (n - 1.0) / (looked.length - 1));
    }
    List<Pair> out = new ArrayList<>();
    for (int a = 0; a < looked.length; a++) {
      for (int b = a + 1; b < looked.length; b++) {
        int[] shared = shared(t, looked[a], looked[b]);
        if (shared.length >= 2 * FEWEST_SHARED) {
          out.add(
              new Pair(
                  looked[a], looked[b], shared, parallax(optics, t, looked[a], looked[b], shared)));
        }
      }
    }
    out.sort(Comparator.comparingDouble(Pair::score).reversed());
    return out;
  }

  private static int[] shared(Tracks t, int from, int to) {
    int[] rows = new int[2 * t.points()];
    int n = 0;
    for (int j = 0; j < t.points(); j++) {
      int a = row(t, j, from);
      int b = row(t, j, to);
      if (a >= 0 && b >= 0) {
        rows[n++] = a;
        rows[n++] = b;
      }
    }
    return Arrays.copyOf(rows, n);
  }

  /** The row of a point in a camera, or −1. */
  static int row(Tracks t, int point, int camera) {
    int lo = t.firstRow(point);
    int hi = lo + t.seen(point) - 1;
    while (lo <= hi) {
      int mid = (lo + hi) >>> 1;
      int c = t.camera(mid);
      if (c == camera) {
        return mid;
      }
      if (c < camera) {
        lo = mid + 1;
      } else {
        hi = mid - 1;
      }
    }
    return -1;
  }

  private static double parallax(Bundle b, Tracks t, int from, int to, int[] rows) {
    List<Vec3> a = new ArrayList<>();
    List<Vec3> c = new ArrayList<>();
    for (int k = 0; k < rows.length; k += 2) {
      a.add(b.ray(from, t.x(rows[k]), t.y(rows[k])));
      c.add(b.ray(to, t.x(rows[k + 1]), t.y(rows[k + 1])));
    }
    Rotation turn = SimilarityFit.turnOf(c, a);
    double[] off = new double[a.size()];
    for (int k = 0; k < off.length; k++) {
      off[k] = turn.apply(c.get(k)).minus(a.get(k)).length() * b.focalPx(from);
    }
    Arrays.sort(off);
    return off[off.length / 2];
  }

  /** The later camera's pose when the earlier stands at the origin; null where none is found. */
  static Pose move(Bundle b, Tracks t, Pair pair) {
    RansacCalibrated<Se3_F64, AssociatedPair> ransac =
        FactoryMultiViewRobust.baselineRansac(new ConfigEssential(), config(SAMPLES, INLIER_PX));
    ransac.setModel(
        () -> FivePoint.moves(MORE),
        () ->
            new DistanceSe3SymmetricSq(
                FactoryMultiView.triangulate2ViewMetricH(ConfigTriangulation.GEOMETRIC())));
    ransac.setIntrinsic(0, pinhole(b, pair.from()));
    ransac.setIntrinsic(1, pinhole(b, pair.to()));
    List<AssociatedPair> pairs = new ArrayList<>();
    for (int k = 0; k < pair.shared().length; k += 2) {
      Vec3 p = b.ray(pair.from(), t.x(pair.shared()[k]), t.y(pair.shared()[k]));
      Vec3 q = b.ray(pair.to(), t.x(pair.shared()[k + 1]), t.y(pair.shared()[k + 1]));
      // There, cameras look along +Z with y down.
      pairs.add(new AssociatedPair(-p.x() / p.z(), p.y() / p.z(), -q.x() / q.z(), q.y() / q.z()));
    }
    if (!ransac.process(pairs)) {
      return null;
    }
    return pose(ransac.getModelParameters());
  }

  static ConfigRansac config(int samples, double inlierPx) {
    ConfigRansac c = new ConfigRansac(samples, inlierPx);
    c.randSeed = SEED;
    return c;
  }

  static CameraPinhole pinhole(Bundle b, int i) {
    return new CameraPinhole(
        b.focalPx(i), b.focalPx(i) * b.ratio(i), 0, b.centreX(i), b.centreY(i), 0, 0);
  }

  /** Camera to world from world to camera in the other convention (+Z ahead, y down). */
  static Pose pose(Se3_F64 there) {
    double[] r = new double[9];
    for (int row = 0; row < 3; row++) {
      for (int column = 0; column < 3; column++) {
        double sign = (row == 0 ? 1 : -1) * (column == 0 ? 1 : -1);
        r[3 * column + row] = sign * there.R.get(row, column); // transposed: camera to world
      }
    }
    Rotation turn = Rotation.fromRows(r);
    Vec3 t = new Vec3(there.T.x, -there.T.y, -there.T.z);
    return new Pose(turn.apply(t).times(-1), turn);
  }
}
