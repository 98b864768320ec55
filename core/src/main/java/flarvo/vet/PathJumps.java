package flarvo.vet;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * How jagged the camera's path is: at each frame, by how many pixels the picture would move if the
 * camera stood midway between its neighbours (RMS over trackers that live there).
 */
public final class PathJumps {

  /** A frame stands out when it jumps so many times as far as most frames around it do. */
  private static final double STANDS_OUT = 4;

  /** Below this a jump is never worth a word, in pixels. */
  private static final double QUIET_PX = 0.5;

  /** Trackers that are looked at in one frame, at most. */
  private static final int SAMPLE = 40;

  private static final int AROUND = 6;

  private final FrameRange frames;
  private final double[] px;
  private final List<Integer> outliers;

  private PathJumps(FrameRange frames, double[] px) {
    this.frames = frames;
    this.px = px;
    this.outliers = List.copyOf(standingOut());
  }

  static PathJumps of(Shot shot) {
    ShotCamera camera = shot.camera().orElseThrow();
    FrameRange frames = camera.frames();
    double[] px = new double[frames.count()];
    List<double[]>[] live = live(shot, frames);
    PoseTrack poses = camera.poses();
    for (int f = frames.first() + 1; f < frames.last(); f++) {
      Pose middle = between(poses.at(f - 1), poses.at(f + 1));
      px[f - frames.first()] = moved(shot, camera, f, middle, live[f - frames.first()]);
    }
    return new PathJumps(frames, px);
  }

  static Pose between(Pose a, Pose b) {
    return new Pose(
        a.position().plus(b.position()).times(0.5), a.rotation().slerp(b.rotation(), 0.5));
  }

  /** RMS of the distances in pixels by which points move when the camera takes another pose. */
  static double moved(Shot shot, ShotCamera camera, int frame, Pose other, List<double[]> points) {
    FrameRange one = new FrameRange(frame, frame);
    Pinhole now = new Pinhole(camera, shot.picture()).at(frame);
    ShotCamera elsewhere =
        new ShotCamera(
            camera.name(),
            PoseTrack.of(one, g -> other),
            flarvo.scene.OpticsTrack.constant(one, camera.optics().at(frame)),
            java.util.Optional.empty());
    Pinhole then = new Pinhole(elsewhere, shot.picture()).at(frame);
    double[] a = new double[3];
    double[] b = new double[3];
    double sum = 0;
    int n = 0;
    for (double[] p : points) {
      now.project(p[0], p[1], p[2], a);
      then.project(p[0], p[1], p[2], b);
      double d = Math.hypot(a[0] - b[0], a[1] - b[1]);
      if (!Double.isNaN(d)) {
        sum += d * d;
        n++;
      }
    }
    return n == 0 ? 0 : Math.sqrt(sum / n);
  }

  /** Places of some trackers that live at each frame. */
  @SuppressWarnings({"unchecked", "rawtypes"})
  static List<double[]>[] live(Shot shot, FrameRange frames) {
    List<double[]>[] live = new List[frames.count()];
    Arrays.setAll(live, i -> new ArrayList<>());
    Observations o = shot.observations();
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size() && !t.moves(); i++) {
        String name = t.names().get(i);
        double[] p = {t.x(i), t.y(i), t.z(i)};
        for (int row = o.firstRow(name); row >= 0 && row < o.endRow(name); row++) {
          if (frames.contains(o.frame(row))) {
            List<double[]> at = live[o.frame(row) - frames.first()];
            if (at.size() < SAMPLE) {
              at.add(p);
            }
          }
        }
      }
    }
    return live;
  }

  /** Pixels at a frame; 0 at the ends, where there is nothing to compare with. */
  public double px(int frame) {
    return frames.contains(frame) ? px[frame - frames.first()] : 0;
  }

  /** Frames that jump much farther than those around them. */
  public List<Integer> outliers() {
    return outliers;
  }

  private List<Integer> standingOut() {
    List<Integer> out = new ArrayList<>();
    for (int i = 1; i + 1 < px.length; i++) {
      int from = Math.max(1, i - AROUND);
      int to = Math.min(px.length - 1, i + AROUND + 1);
      double[] near = Arrays.copyOfRange(px, from, to);
      Arrays.sort(near);
      boolean peak = px[i] >= px[i - 1] && px[i] >= px[i + 1];
      if (peak && px[i] > QUIET_PX && px[i] > STANDS_OUT * near[near.length / 2]) {
        out.add(frames.first() + i);
      }
    }
    return out;
  }
}
