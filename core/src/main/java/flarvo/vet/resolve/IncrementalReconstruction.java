package flarvo.vet.resolve;

import boofcv.alg.geo.robust.RansacCalibrated;
import boofcv.factory.geo.ConfigPnP;
import boofcv.factory.geo.FactoryMultiViewRobust;
import boofcv.struct.geo.Point2D3D;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Vec3;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.adjust.Bundle;
import flarvo.vet.adjust.CameraFit;
import flarvo.vet.adjust.PointFit;
import flarvo.vet.adjust.RobustLoss;
import flarvo.vet.adjust.Tracks;
import flarvo.work.Progress;
import georegression.struct.point.Point2D_F64;
import georegression.struct.point.Point3D_F64;
import georegression.struct.se.Se3_F64;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** A reconstruction that grows from a first pair: cameras from points, points from cameras. */
final class IncrementalReconstruction {

  /** A tracker is taken in when its rays open by this much; grows stricter cameras later. */
  private static final double OPEN_RADIANS = Math.toRadians(1.2);

  private static final double POINT_PX = 3;
  private static final double CAMERA_PX = 4;
  private static final int FEWEST_POINTS = 6;
  private static final double ADJUST_AFTER_GROWING = 1.3;

  /** Points lie so far from their cameras, in the middle; metres, were it a solve in metres. */
  private static final double USUAL_DISTANCE = 10;

  private final Bundle b;
  private final Tracks t;
  private final boolean[] cameraIn;
  private final boolean[] pointIn;
  private final int[][] rowsOf; // of each camera
  private final int[][] pointsOf;
  private final CameraFit cameraFit;
  private final PointFit pointFit = new PointFit();
  private final AdjustOptions.Focal focal;
  private final Progress progress;
  private final double[] begun; // focal lengths, pixels
  private int camerasIn;

  /**
   * @param optics focal lengths to begin with; a copy is taken
   * @param focal how the focal lengths may move once some cameras stand
   */
  IncrementalReconstruction(Bundle optics, Tracks t, AdjustOptions.Focal focal, Progress progress) {
    this.b = optics.copy();
    this.t = t;
    this.focal = focal;
    cameraFit = new CameraFit(zooms());
    this.progress = progress;
    begun = new double[t.cameras()];
    for (int i = 0; i < begun.length; i++) {
      begun[i] = optics.focalPx(i);
    }
    cameraIn = new boolean[t.cameras()];
    pointIn = new boolean[t.points()];
    int[] count = new int[t.cameras()];
    for (int row = 0; row < t.rows(); row++) {
      count[t.camera(row)]++;
    }
    rowsOf = new int[t.cameras()][];
    pointsOf = new int[t.cameras()][];
    for (int i = 0; i < count.length; i++) {
      rowsOf[i] = new int[count[i]];
      pointsOf[i] = new int[count[i]];
    }
    Arrays.fill(count, 0);
    for (int j = 0; j < t.points(); j++) {
      for (int row = t.firstRow(j); row < t.firstRow(j) + t.seen(j); row++) {
        int i = t.camera(row);
        rowsOf[i][count[i]] = row;
        pointsOf[i][count[i]++] = j;
      }
    }
  }

  private boolean zooms() {
    return focal == AdjustOptions.Focal.PER_FRAME;
  }

  Bundle bundle() {
    return b;
  }

  boolean[] cameras() {
    return cameraIn;
  }

  boolean[] points() {
    return pointIn;
  }

  /**
   * The focal length, in pixels, that the first camera would have begun with had it been known what
   * the cameras that stand came to.
   */
  double firstFocalPx() {
    double[] change = new double[camerasIn];
    int n = 0;
    for (int i = 0; i < cameraIn.length; i++) {
      if (cameraIn[i]) {
        change[n++] = b.focalPx(i) / begun[i];
      }
    }
    Arrays.sort(change);
    return begun[0] * change[n / 2];
  }

  int camerasIn() {
    return camerasIn;
  }

  /** Begins with a pair; false where it holds too little. */
  boolean begin(InitialPair.Pair pair) {
    Pose move = InitialPair.move(b, t, pair);
    if (move == null) {
      return false;
    }
    b.setPose(pair.from(), Pose.IDENTITY);
    b.setPose(pair.to(), move);
    in(pair.from());
    in(pair.to());
    int held = placePoints();
    if (held < Math.max(FEWEST_POINTS, pair.count() / 3)) {
      return false;
    }
    adjust(12);
    held = placePoints();
    return held >= Math.max(FEWEST_POINTS, pair.count() / 3);
  }

  private void in(int camera) {
    if (!cameraIn[camera]) {
      cameraIn[camera] = true;
      camerasIn++;
    }
  }

  /** Takes in camera after camera, for as long as one can be held. */
  void grow(int step) {
    int adjustedAt = camerasIn;
    boolean[] refused = new boolean[cameraIn.length];
    while (true) {
      progress.step(camerasIn, cameraIn.length);
      int next = next(refused, step);
      if (next < 0) {
        break;
      }
      if (!resect(next)) {
        refused[next] = true;
        continue;
      }
      in(next);
      placeNewPoints(next);
      if (camerasIn >= ADJUST_AFTER_GROWING * adjustedAt || camerasIn == adjustedAt + 12) {
        adjust(8);
        placePoints();
        adjustedAt = camerasIn;
        Arrays.fill(refused, false);
      }
    }
    adjust(20);
    placePoints();
  }

  /** The camera outside that sees most of what stands; with a step, only every so many. */
  private int next(boolean[] refused, int step) {
    int best = -1;
    int most = FEWEST_POINTS - 1;
    for (int i = 0; i < cameraIn.length; i++) {
      if (!cameraIn[i] && !refused[i] && i % step == 0) {
        int known = known(i);
        if (known > most) {
          most = known;
          best = i;
        }
      }
    }
    return best;
  }

  private int known(int camera) {
    int n = 0;
    for (int j : pointsOf[camera]) {
      n += pointIn[j] ? 1 : 0;
    }
    return n;
  }

  private boolean resect(int camera) {
    int n = known(camera);
    int[] rows = new int[n];
    int[] points = new int[n];
    int k = 0;
    for (int r = 0; r < rowsOf[camera].length; r++) {
      if (pointIn[pointsOf[camera][r]]) {
        rows[k] = rowsOf[camera][r];
        points[k++] = pointsOf[camera][r];
      }
    }
    b.setPose(camera, guess(b, camera));
    double began = b.focalPx(camera);
    if (zooms()) {
      began *= focalChange(b, camera);
      focal(camera, began);
    }
    RobustLoss loss = RobustLoss.cauchy(2);
    if (cameraFit.fit(b, t, camera, rows, points, loss, 30) < CAMERA_PX) {
      return true;
    }
    focal(camera, began);
    Pose sampled = sampled(camera, rows, points);
    if (sampled == null) {
      return false;
    }
    b.setPose(camera, sampled);
    focal(camera, began);
    return cameraFit.fit(b, t, camera, rows, points, loss, 30) < CAMERA_PX;
  }

  private void focal(int camera, double px) {
    b.setOptics(camera, px, b.ratio(camera), b.centreX(camera), b.centreY(camera));
  }

  /** By what the nearest camera's focal length was found other than it began. */
  private double focalChange(Bundle of, int camera) {
    int near = nearest(camera, 1, -1);
    return of.focalPx(near) / begun[near];
  }

  /** Where the neighbours' move would have led, or the nearest neighbour. */
  private Pose guess(Bundle of, int camera) {
    int near = nearest(camera, 1, -1);
    Pose a = of.pose(near);
    int second = nearest(camera, 2, near);
    if (second < 0 || Math.abs(second - camera) > 6 || second == near) {
      return a;
    }
    Pose c = of.pose(second);
    double s = (camera - near) / (double) (near - second);
    if (s <= -1 || s > 2) {
      return a;
    }
    Vec3 at = a.position().plus(a.position().minus(c.position()).times(s));
    Rotation turn =
        s >= 0 ? c.rotation().slerp(a.rotation(), 1 + s) : a.rotation().slerp(c.rotation(), -s);
    return new Pose(at, turn);
  }

  private int nearest(int camera, int rank, int not) {
    for (int d = 1; d < cameraIn.length; d++) {
      for (int i : new int[] {camera - d, camera + d}) {
        if (i >= 0 && i < cameraIn.length && cameraIn[i] && i != not) {
          return i;
        }
      }
    }
    return rank == 1 ? camera : -1;
  }

  private Pose sampled(int camera, int[] rows, int[] points) {
    RansacCalibrated<Se3_F64, Point2D3D> ransac =
        FactoryMultiViewRobust.pnpRansac(new ConfigPnP(), InitialPair.config(300, 3));
    ransac.setIntrinsic(0, InitialPair.pinhole(b, camera));
    List<Point2D3D> list = new ArrayList<>();
    for (int k = 0; k < rows.length; k++) {
      Vec3 ray = b.ray(camera, t.x(rows[k]), t.y(rows[k]));
      Vec3 p = b.point(points[k]);
      list.add(
          new Point2D3D(
              new Point2D_F64(-ray.x() / ray.z(), ray.y() / ray.z()),
              // The world keeps its axes; only the camera's differ.
              new Point3D_F64(p.x(), -p.y(), -p.z())));
    }
    if (!ransac.process(list)) {
      return null;
    }
    return InitialPair.pose(ransac.getModelParameters());
  }

  private void placeNewPoints(int camera) {
    for (int j : pointsOf[camera]) {
      if (!pointIn[j]) {
        pointIn[j] = holds(j);
      }
    }
  }

  private boolean holds(int j) {
    return pointFit.place(b, t, j, cameraIn, 12)
        && pointFit.angle() > OPEN_RADIANS
        && pointFit.rmsPx() < POINT_PX;
  }

  /** Every point anew; returns how many stand. */
  private int placePoints() {
    int n = 0;
    for (int j = 0; j < pointIn.length; j++) {
      pointIn[j] = holds(j);
      n += pointIn[j] ? 1 : 0;
    }
    return n;
  }

  private void adjust(int rounds) {
    AdjustOptions o =
        AdjustOptions.USUAL
            .withFocal(camerasIn > 4 ? focal : AdjustOptions.Focal.FIXED)
            .withLoss(RobustLoss.cauchy(1))
            .withTolerance(1e-4)
            .withRounds(rounds);
    BundlePart.adjust(b, t, cameraIn, pointIn, o);
    keepSize();
  }

  /** Nothing in the tracks says how large all is, so an adjustment may shrink it step by step. */
  private void keepSize() {
    double[] far = new double[pointIn.length];
    int n = 0;
    for (int j = 0; j < pointIn.length; j++) {
      if (pointIn[j]) {
        Vec3 eye = null;
        for (int row = t.firstRow(j); eye == null && row < t.firstRow(j) + t.seen(j); row++) {
          eye = cameraIn[t.camera(row)] ? b.pose(t.camera(row)).position() : null;
        }
        far[n++] = b.point(j).minus(eye).length();
      }
    }
    Arrays.sort(far, 0, n);
    if (n == 0 || !(far[n / 2] > 0)) {
      return;
    }
    double k = USUAL_DISTANCE / far[n / 2];
    for (int i = 0; i < cameraIn.length; i++) {
      Pose p = b.pose(i);
      b.setPose(i, new Pose(p.position().times(k), p.rotation()));
    }
    for (int j = 0; j < pointIn.length; j++) {
      b.setPoint(j, b.point(j).times(k));
    }
  }

  /** Whether a camera sees trackers enough to stand, however many of them are known. */
  boolean seesEnough(int camera) {
    return rowsOf[camera].length >= FEWEST_POINTS;
  }

  /**
   * Cameras that could not be resected stand between the one before and the one after, or at the
   * ends where their neighbours' move leads.
   *
   * @param of this reconstruction, adjusted further
   */
  void bridge(Bundle of) {
    int before = -1;
    for (int i = 0; i < cameraIn.length; i++) {
      if (cameraIn[i]) {
        before = i;
        continue;
      }
      int after = i;
      while (after < cameraIn.length && !cameraIn[after]) {
        after++;
      }
      boolean end = before < 0 || after == cameraIn.length;
      of.setPose(i, end ? guess(of, i) : between(of, before, i, after));
      if (zooms()) {
        double px = begun[i] * focalChange(of, i);
        of.setOptics(i, px, of.ratio(i), of.centreX(i), of.centreY(i));
      }
    }
  }

  /** Evenly between two cameras. */
  static Pose between(Bundle of, int before, int camera, int after) {
    Pose a = of.pose(before);
    Pose c = of.pose(after);
    double s = (camera - before) / (double) (after - before);
    return new Pose(
        a.position().plus(c.position().minus(a.position()).times(s)),
        a.rotation().slerp(c.rotation(), s));
  }

  /** Median distance in pixels of all rows that stand. */
  double medianPx() {
    return BundlePart.medianPx(b, t, cameraIn, pointIn);
  }

  int pointsIn() {
    int n = 0;
    for (boolean p : pointIn) {
      n += p ? 1 : 0;
    }
    return n;
  }
}
