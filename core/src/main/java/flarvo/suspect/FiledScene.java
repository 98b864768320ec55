package flarvo.suspect;

import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.PixelIntrinsics;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Camera and points as a file has them, read into the canonical space, as plain numbers.
 *
 * @param first frame of the first pose
 * @param positions three a frame, camera centres
 * @param quaternions four a frame (w x y z), camera to world
 * @param intrinsics four a frame: fx, fy, cx, cy in pixels
 * @param filmWidthMm of the first frame
 * @param points three each; none where the file has none
 * @param names of the points
 */
record FiledScene(
    int first,
    double[] positions,
    double[] quaternions,
    double[] intrinsics,
    double filmWidthMm,
    double[] points,
    List<String> names) {

  int count() {
    return positions.length / 3;
  }

  static FiledScene of(ShotCamera camera, List<TrackerSet> trackers, PictureSize picture) {
    PoseTrack poses = camera.poses();
    OpticsTrack optics = camera.optics();
    int n = poses.frames().count();
    double[] p = new double[3 * n];
    double[] q = new double[4 * n];
    double[] k = new double[4 * n];
    for (int i = 0; i < n; i++) {
      int f = poses.frames().first() + i;
      put(poses.at(f), p, q, i);
      PixelIntrinsics in = PixelIntrinsics.of(optics.at(f), picture);
      k[4 * i] = in.fx();
      k[4 * i + 1] = in.fy();
      k[4 * i + 2] = in.cx();
      k[4 * i + 3] = in.cy();
    }
    List<String> names = new ArrayList<>();
    List<Vec3> at = new ArrayList<>();
    for (TrackerSet t : trackers) {
      for (int i = 0; i < t.size() && !t.moves(); i++) {
        names.add(t.names().get(i));
        at.add(t.position(i));
      }
    }
    double[] xyz = new double[3 * at.size()];
    for (int i = 0; i < at.size(); i++) {
      xyz[3 * i] = at.get(i).x();
      xyz[3 * i + 1] = at.get(i).y();
      xyz[3 * i + 2] = at.get(i).z();
    }
    double width = optics.at(poses.frames().first()).filmWidthMm();
    return new FiledScene(poses.frames().first(), p, q, k, width, xyz, names);
  }

  private static void put(Pose pose, double[] p, double[] q, int i) {
    Vec3 v = pose.position();
    Rotation r = pose.rotation();
    p[3 * i] = v.x();
    p[3 * i + 1] = v.y();
    p[3 * i + 2] = v.z();
    q[4 * i] = r.w();
    q[4 * i + 1] = r.x();
    q[4 * i + 2] = r.y();
    q[4 * i + 3] = r.z();
  }

  Pose pose(int i) {
    return new Pose(
        new Vec3(positions[3 * i], positions[3 * i + 1], positions[3 * i + 2]),
        Rotation.normalized(
            quaternions[4 * i],
            quaternions[4 * i + 1],
            quaternions[4 * i + 2],
            quaternions[4 * i + 3]));
  }

  /** Other rotations and positions on the same frames. */
  FiledScene withPoses(List<Pose> poses) {
    double[] p = new double[positions.length];
    double[] q = new double[quaternions.length];
    for (int i = 0; i < poses.size(); i++) {
      put(poses.get(i), p, q, i);
    }
    return new FiledScene(first, p, q, intrinsics, filmWidthMm, points, names);
  }

  FiledScene withPositions(double[] p) {
    return new FiledScene(first, p, quaternions, intrinsics, filmWidthMm, points, names);
  }

  FiledScene withPoints(double[] xyz, List<String> called) {
    return new FiledScene(first, positions, quaternions, intrinsics, filmWidthMm, xyz, called);
  }

  /** The numbers of points by name. */
  Map<String, Integer> numbers() {
    Map<String, Integer> out = new LinkedHashMap<>();
    for (int i = 0; i < names.size(); i++) {
      out.putIfAbsent(names.get(i), i);
    }
    return out;
  }
}
