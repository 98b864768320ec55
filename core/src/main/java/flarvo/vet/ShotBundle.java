package flarvo.vet;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.PixelIntrinsics;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.SimilarityFit;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.vet.adjust.Bundle;
import flarvo.vet.adjust.Tracks;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Between a shot, with names and millimetres, and a bundle, with numbers and pixels. */
final class ShotBundle {

  final Bundle bundle;
  final Tracks tracks;

  /** Trackers of the bundle's points, in their order. */
  final List<String> names;

  private final Shot shot;
  private final ShotCamera camera;
  private final boolean tripod;
  private final Vec3 tripodCentre;

  private ShotBundle(
      Shot shot, ShotCamera camera, boolean tripod, Bundle bundle, Tracks tracks, List<String> n) {
    this.shot = shot;
    this.camera = camera;
    this.tripod = tripod;
    this.bundle = bundle;
    this.tracks = tracks;
    this.names = n;
    tripodCentre = meanCentre(camera);
  }

  /**
   * The first camera and every tracker that two frames or more see.
   *
   * @param without trackers that take no part; those that move take none either
   * @param tripod points become directions from the middle of all centres
   */
  static ShotBundle of(Shot shot, Set<String> without, boolean tripod) {
    ShotCamera camera = shot.camera().orElseThrow();
    FrameRange frames = camera.frames();
    PictureSize picture = shot.picture();
    Vec3 middle = meanCentre(camera);
    Observations o = shot.observations();
    Tracks.Builder tracks = new Tracks.Builder(frames.count());
    List<String> names = new ArrayList<>();
    List<Vec3> points = new ArrayList<>();
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size() && !t.moves(); i++) {
        String name = t.names().get(i);
        if (without.contains(name) || rowsWithin(o, name, frames) < 2) {
          continue;
        }
        Vec3 p = t.position(i);
        if (tripod) {
          Vec3 way = p.minus(middle);
          p = way.length() > 0 ? way.normalized() : new Vec3(0, 0, -1);
        }
        names.add(name);
        points.add(p);
        for (int row = o.firstRow(name); row < o.endRow(name); row++) {
          if (frames.contains(o.frame(row))) {
            tracks.see(o.frame(row) - frames.first(), o.x(row), o.y(row));
          }
        }
        tracks.endPoint();
      }
    }
    Bundle b = new Bundle(frames.count(), names.size());
    for (int f = frames.first(); f <= frames.last(); f++) {
      int i = f - frames.first();
      Pose pose = camera.poses().at(f);
      b.setPose(i, tripod ? new Pose(Vec3.ZERO, pose.rotation()) : pose);
      setOptics(b, i, camera.optics().at(f), picture);
    }
    for (int j = 0; j < points.size(); j++) {
      b.setPoint(j, points.get(j));
    }
    return new ShotBundle(shot, camera, tripod, b, tracks.build(), names);
  }

  static void setOptics(Bundle b, int i, Optics o, PictureSize picture) {
    PixelIntrinsics k = PixelIntrinsics.of(o, picture);
    b.setOptics(i, k.fx(), k.fy() / k.fx(), k.cx(), k.cy());
  }

  private static int rowsWithin(Observations o, String name, FrameRange frames) {
    int n = 0;
    for (int row = o.firstRow(name); row >= 0 && row < o.endRow(name); row++) {
      n += frames.contains(o.frame(row)) ? 1 : 0;
    }
    return n;
  }

  private static Vec3 meanCentre(ShotCamera c) {
    Vec3 sum = Vec3.ZERO;
    for (int f = c.frames().first(); f <= c.frames().last(); f++) {
      sum = sum.plus(c.poses().at(f).position());
    }
    return sum.times(1.0 / c.frames().count());
  }

  /**
   * The solve that an adjusted bundle stands for, laid on the start by the similarity that moves it
   * least, so that a level set before still holds. Trackers that took no part keep their pixel in
   * the frames that see them: they are triangulated anew, or move with the rest where that fails.
   */
  RefinedSolve solved(Bundle adjusted, String how) {
    Similarity back = tripod ? turnBack(adjusted) : layBack(adjusted);
    FrameRange frames = camera.frames();
    PoseTrack poses =
        bridged(PoseTrack.of(frames, f -> back.apply(adjusted.pose(f - frames.first()))));
    OpticsTrack optics = OpticsTrack.of(frames, f -> optics(adjusted, f - frames.first(), f));
    ShotCamera moved = camera.withPoses(poses).withOptics(optics);
    ResidualDistortion rest = new ResidualDistortion(adjusted.k1(), adjusted.k2(), adjusted.k3());
    Map<String, Vec3> places = new HashMap<>();
    Map<String, Vec3> before = TrackerSet.stillPositions(shot.trackers());
    for (int j = 0; j < names.size(); j++) {
      Vec3 p = adjusted.point(j);
      if (tripod) {
        // The distance of a tripod's tracker is nobody's knowledge; it stays what it was.
        p = p.times(before.get(names.get(j)).minus(tripodCentre).length());
      }
      places.put(names.get(j), back.apply(p));
    }
    Observations straight = rest.straightened(shot.observations(), moved, shot.picture());
    Triangulation triangulation = new Triangulation(moved, shot.picture(), straight);
    for (Map.Entry<String, Vec3> e : before.entrySet()) {
      if (!places.containsKey(e.getKey())) {
        places.put(
            e.getKey(),
            tripod
                ? e.getValue()
                : triangulation.refined(e.getKey(), e.getValue()).orElse(e.getValue()));
      }
    }
    return new RefinedSolve(moved, places, rest, tripod, how);
  }

  /**
   * Turned as the cameras turned, as large as most points say, and where the cameras stood: strays
   * and far points, which an adjustment may move as they like, hardly count.
   */
  private Similarity layBack(Bundle b) {
    Rotation turn = turn(b);
    Vec3 from = Vec3.ZERO;
    Vec3 to = Vec3.ZERO;
    for (int i = 0; i < b.cameras(); i++) {
      from = from.plus(b.pose(i).position());
      to = to.plus(bundle.pose(i).position());
    }
    from = from.times(1.0 / b.cameras());
    to = to.times(1.0 / b.cameras());
    double[] ratio = new double[b.points()];
    int n = 0;
    for (int j = 0; j < b.points(); j++) {
      double d = b.point(j).minus(from).length();
      double r = bundle.point(j).minus(to).length() / d;
      if (r > 0 && Double.isFinite(r)) {
        ratio[n++] = r;
      }
    }
    Arrays.sort(ratio, 0, n);
    double scale = n == 0 ? 1 : ratio[n / 2];
    return new Similarity(scale, turn, to.minus(turn.apply(from).times(scale)));
  }

  /** A tripod may only turn back, and stands where it stood. */
  private Similarity turnBack(Bundle b) {
    return new Similarity(1, turn(b), tripodCentre);
  }

  private Rotation turn(Bundle b) {
    List<Vec3> from = new ArrayList<>();
    List<Vec3> to = new ArrayList<>();
    for (int i = 0; i < b.cameras(); i++) {
      for (Vec3 axis : List.of(new Vec3(1, 0, 0), new Vec3(0, 1, 0), new Vec3(0, 0, 1))) {
        from.add(b.pose(i).rotation().apply(axis));
        to.add(bundle.pose(i).rotation().apply(axis));
      }
    }
    return SimilarityFit.turnOf(from, to);
  }

  /** Frames that see too little to stand keep their place between the neighbours they had. */
  private PoseTrack bridged(PoseTrack poses) {
    FrameRange frames = camera.frames();
    int[] rows = new int[frames.count()];
    for (int row = 0; row < tracks.rows(); row++) {
      rows[tracks.camera(row)]++;
    }
    boolean[] seen = new boolean[frames.count()];
    for (int i = 0; i < seen.length; i++) {
      seen[i] = rows[i] >= InterpolatedFrames.fewest(tripod);
    }
    return PoseTrack.of(
        frames,
        f -> {
          int i = f - frames.first();
          if (seen[i]) {
            return poses.at(f);
          }
          int near = nearest(seen, i);
          if (near < 0) {
            return camera.poses().at(f);
          }
          // The step from the nearest seen frame, as it was before.
          Pose was = camera.poses().at(frames.first() + near);
          Pose own = camera.poses().at(f);
          Pose now = poses.at(frames.first() + near);
          Rotation turn = was.rotation().inverse().after(own.rotation());
          Vec3 shift = was.toLocal(own.position());
          return new Pose(now.toWorld(shift), now.rotation().after(turn));
        });
  }

  private static int nearest(boolean[] seen, int i) {
    for (int d = 1; d < seen.length; d++) {
      if (i - d >= 0 && seen[i - d]) {
        return i - d;
      }
      if (i + d < seen.length && seen[i + d]) {
        return i + d;
      }
    }
    return -1;
  }

  private Optics optics(Bundle b, int i, int frame) {
    Optics o = camera.optics().at(frame);
    PictureSize size = shot.picture();
    if (sameOptics(b, i)) {
      return o;
    }
    return new Optics(
        b.focalPx(i) * o.filmWidthMm() / size.width(),
        o.filmWidthMm(),
        o.filmHeightMm(),
        (b.centreX(i) / size.width() - 0.5) * o.filmWidthMm(),
        (0.5 - b.centreY(i) / size.height()) * o.filmHeightMm());
  }

  /** What was held keeps its very digits. */
  private boolean sameOptics(Bundle b, int i) {
    return b.focalPx(i) == bundle.focalPx(i)
        && b.centreX(i) == bundle.centreX(i)
        && b.centreY(i) == bundle.centreY(i);
  }
}
