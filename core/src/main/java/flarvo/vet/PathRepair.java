package flarvo.vet;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TimeSampler;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** Mends the camera's path where it was chosen, and nowhere else; points stay as they are. */
public final class PathRepair {

  private static final int HALVINGS = 30;

  private PathRepair() {}

  /**
   * A mended path.
   *
   * @param touched frames whose pose is another now
   * @param movedPx how far the picture moved at each touched frame (RMS over its trackers)
   * @param beforeFramesPx RMS error of each touched frame, as it was; NaN where nothing is seen
   * @param movedMaxPx largest of {@code movedPx}
   * @param beforePx RMS error over the chosen frames, as it was
   */
  public record Repair(
      ShotCamera camera,
      List<Integer> touched,
      double[] movedPx,
      double[] beforeFramesPx,
      double movedMaxPx,
      double beforePx,
      double afterPx,
      String how) {}

  /**
   * Smooths a range: each pose goes towards the mean of its neighbours, again and again, but never
   * so far that the picture moves by more than the limit.
   *
   * @param strength times that neighbours are averaged
   */
  public static Repair smooth(
      Shot shot, FrameRange chosen, int strength, double limitPx, Progress progress) {
    ShotCamera camera = shot.camera().orElseThrow();
    FrameRange frames = camera.frames();
    requireInside(chosen, frames);
    if (!(limitPx > 0)) {
      throw InputError.words("the limit must be over 0 px, not " + limitPx, "");
    }
    Pose[] smooth = poses(camera);
    for (int pass = 0; pass < strength; pass++) {
      progress.step(pass, strength + chosen.count());
      Pose[] before = smooth.clone();
      for (int f = chosen.first(); f <= chosen.last(); f++) {
        int i = f - frames.first();
        if (i > 0 && i + 1 < before.length) {
          Pose middle = PathJumps.between(before[i - 1], before[i + 1]);
          smooth[i] = PathJumps.between(before[i], middle);
        }
      }
    }
    List<double[]>[] live = PathJumps.live(shot, frames);
    Pose[] out = poses(camera);
    for (int f = chosen.first(); f <= chosen.last(); f++) {
      int i = f - frames.first();
      progress.step(strength + f - chosen.first(), strength + chosen.count());
      out[i] = within(shot, camera, f, smooth[i], live[i], limitPx);
    }
    return repair(
        shot,
        camera,
        out,
        live,
        String.format(Locale.ROOT, "smoothed %s, by at most %.2f px", chosen, limitPx));
  }

  /** As far towards a pose as the limit lets the picture move. */
  private static Pose within(
      Shot shot, ShotCamera camera, int frame, Pose to, List<double[]> live, double limitPx) {
    Pose from = camera.poses().at(frame);
    if (PathJumps.moved(shot, camera, frame, to, live) <= limitPx) {
      return to;
    }
    double lo = 0;
    double hi = 1;
    for (int k = 0; k < HALVINGS; k++) {
      double mid = (lo + hi) / 2;
      if (PathJumps.moved(shot, camera, frame, blend(from, to, mid), live) <= limitPx) {
        lo = mid;
      } else {
        hi = mid;
      }
    }
    return blend(from, to, lo);
  }

  private static Pose blend(Pose a, Pose b, double s) {
    return new Pose(
        a.position().times(1 - s).plus(b.position().times(s)), a.rotation().slerp(b.rotation(), s));
  }

  /**
   * Throws poses away and bridges them from the frames that stay: a cubic for the place, the
   * shortest turn for the rotation.
   */
  public static Repair bridge(Shot shot, Set<Integer> deleted, Progress progress) {
    ShotCamera camera = shot.camera().orElseThrow();
    FrameRange frames = camera.frames();
    TreeSet<Integer> gone = new TreeSet<>(deleted);
    if (gone.isEmpty()) {
      throw InputError.words("no frame is chosen", "Choose the frames to bridge");
    }
    requireInside(new FrameRange(gone.first(), gone.last()), frames);
    if (gone.contains(frames.first()) || gone.contains(frames.last())) {
      throw InputError.words(
          "frame "
              + (gone.contains(frames.first()) ? frames.first() : frames.last())
              + " is at the end of the shot and has nothing beyond it to bridge to",
          "Leave the first and the last frame standing");
    }
    Pose[] old = poses(camera);
    Pose[] out = old.clone();
    for (int f : gone) {
      progress.step(0, 0);
      int before = f - 1;
      while (gone.contains(before)) {
        before--;
      }
      int after = f + 1;
      while (gone.contains(after)) {
        after++;
      }
      double s = (f - before) / (double) (after - before);
      Pose a = old[before - frames.first()];
      Pose b = old[after - frames.first()];
      Vec3 inSlope = slope(old, gone, frames, before, -1, after - before);
      Vec3 outSlope = slope(old, gone, frames, after, 1, after - before);
      Vec3 straight = b.position().minus(a.position());
      out[f - frames.first()] =
          TimeSampler.across(
              a,
              b,
              inSlope == null ? straight : inSlope,
              outSlope == null ? straight : outSlope,
              s);
    }
    return repair(
        shot,
        camera,
        out,
        PathJumps.live(shot, frames),
        "bridged " + gone.size() + (gone.size() == 1 ? " frame" : " frames"));
  }

  /** How the camera moves at a kept frame, scaled to the gap; from the side away from it. */
  private static Vec3 slope(
      Pose[] old, Set<Integer> gone, FrameRange frames, int at, int side, int gap) {
    int beyond = at + side;
    if (!frames.contains(beyond) || gone.contains(beyond)) {
      return null;
    }
    Vec3 d =
        old[beyond - frames.first()]
            .position()
            .minus(old[at - frames.first()].position())
            .times(side);
    return d.times(gap);
  }

  private static void requireInside(FrameRange chosen, FrameRange all) {
    if (!all.contains(chosen.first()) || !all.contains(chosen.last())) {
      throw InputError.words(
          "frames " + chosen + " are not all in the camera's " + all, "Choose frames of the shot");
    }
  }

  private static Pose[] poses(ShotCamera c) {
    Pose[] p = new Pose[c.frames().count()];
    Arrays.setAll(p, i -> c.poses().at(c.frames().first() + i));
    return p;
  }

  private static Repair repair(
      Shot shot, ShotCamera camera, Pose[] out, List<double[]>[] live, String how) {
    FrameRange frames = camera.frames();
    ShotCamera mended = camera.withPoses(PoseTrack.of(frames, f -> out[f - frames.first()]));
    TreeSet<Integer> touched = new TreeSet<>();
    double[] moved = new double[frames.count()];
    for (int f = frames.first(); f <= frames.last(); f++) {
      int i = f - frames.first();
      if (!out[i].equals(camera.poses().at(f))) {
        moved[touched.size()] = PathJumps.moved(shot, camera, f, out[i], live[i]);
        touched.add(f);
      }
    }
    moved = Arrays.copyOf(moved, touched.size());
    Optional<Reprojection> before = Reprojection.of(shot);
    return new Repair(
        mended,
        List.copyOf(touched),
        moved,
        touched.stream()
            .mapToDouble(f -> before.map(r -> r.frameRmsPx(f)).orElse(Double.NaN))
            .toArray(),
        Arrays.stream(moved).max().orElse(0),
        rms(before, touched),
        rms(Reprojection.of(shot.withCameras(List.of(mended))), touched),
        how);
  }

  /** Error over some frames; NaN where nothing is seen in them. */
  private static double rms(Optional<Reprojection> errors, Set<Integer> frames) {
    return errors
        .map(
            r -> {
              double sum = 0;
              int n = 0;
              for (int f : frames) {
                if (r.live(f) > 0) {
                  sum += r.frameRmsPx(f) * r.frameRmsPx(f) * r.live(f);
                  n += r.live(f);
                }
              }
              return n == 0 ? Double.NaN : Math.sqrt(sum / n);
            })
        .orElse(Double.NaN);
  }
}
