package flarvo.format.table;

import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import java.util.Map;
import java.util.TreeMap;

/** A camera whose frames are given here and there; what lies between is interpolated. */
final class SparseCamera {

  private record Row(Pose pose, Optics optics) {}

  private final TreeMap<Integer, Row> rows = new TreeMap<>();

  /** Whether the frame was new. */
  boolean add(int frame, Pose pose, Optics optics) {
    return rows.put(frame, new Row(pose, optics)) == null;
  }

  int given() {
    return rows.size();
  }

  long span() {
    return (long) rows.lastKey() - rows.firstKey() + 1;
  }

  FrameRange frames() {
    return new FrameRange(rows.firstKey(), rows.lastKey());
  }

  PoseTrack poses() {
    return PoseTrack.of(frames(), this::pose);
  }

  OpticsTrack optics() {
    return OpticsTrack.of(frames(), this::optics);
  }

  private double share(int frame, Map.Entry<Integer, Row> a, Map.Entry<Integer, Row> b) {
    return a.getKey().equals(b.getKey())
        ? 0
        : (frame - a.getKey()) / (double) (b.getKey() - a.getKey());
  }

  private Pose pose(int frame) {
    Map.Entry<Integer, Row> a = rows.floorEntry(frame);
    Map.Entry<Integer, Row> b = rows.ceilingEntry(frame);
    double u = share(frame, a, b);
    Pose p = a.getValue().pose;
    Pose q = b.getValue().pose;
    return u == 0
        ? p
        : new Pose(
            p.position().times(1 - u).plus(q.position().times(u)),
            p.rotation().slerp(q.rotation(), u));
  }

  private Optics optics(int frame) {
    Map.Entry<Integer, Row> a = rows.floorEntry(frame);
    Map.Entry<Integer, Row> b = rows.ceilingEntry(frame);
    double u = share(frame, a, b);
    Optics p = a.getValue().optics;
    Optics q = b.getValue().optics;
    return u == 0
        ? p
        : new Optics(
            mix(p.focalLengthMm(), q.focalLengthMm(), u),
            mix(p.filmWidthMm(), q.filmWidthMm(), u),
            mix(p.filmHeightMm(), q.filmHeightMm(), u),
            mix(p.principalXMm(), q.principalXMm(), u),
            mix(p.principalYMm(), q.principalYMm(), u));
  }

  private static double mix(double a, double b, double u) {
    return a + u * (b - a);
  }
}
