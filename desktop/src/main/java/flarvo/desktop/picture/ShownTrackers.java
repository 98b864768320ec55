package flarvo.desktop.picture;

import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.vet.Reprojection;
import java.util.Arrays;

/** A shot's trackers side by side, without a look-up by name for each in each frame. */
final class ShownTrackers {

  private Shot shot;
  private Reprojection errors;
  private String[] names = {};
  private double[] xyz = {};
  private int[] from = {}; // rows of the observations; −1 for a tracker that was never seen
  private int[] to = {};
  private double[] rms = {};
  private int[] live = {};
  private int firstFrame;

  /** Made anew where shot or errors are others. */
  @SuppressWarnings("ReferenceEquality")
  ShownTrackers of(Shot s, Reprojection e) {
    if (s != shot || e != errors) {
      shot = s;
      errors = e;
      fill();
    }
    return this;
  }

  private void fill() {
    int n = shot.trackerCount();
    names = new String[n];
    xyz = new double[3 * n];
    from = new int[n];
    to = new int[n];
    rms = new double[n];
    firstFrame = shot.frames().first();
    live = new int[shot.frames().count()];
    Observations o = shot.observations();
    int k = 0;
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        names[k] = t.names().get(i);
        xyz[3 * k] = t.x(i);
        xyz[3 * k + 1] = t.y(i);
        xyz[3 * k + 2] = t.z(i);
        from[k] = o.firstRow(names[k]);
        to[k] = o.endRow(names[k]);
        rms[k] = errors == null ? 0 : errors.trackerRmsPx(names[k]);
        for (int row = Math.max(0, from[k]); row < to[k]; row++) {
          int f = o.frame(row) - firstFrame;
          if (f >= 0 && f < live.length) {
            live[f]++;
          }
        }
        k++;
      }
    }
    if (o.isEmpty()) {
      Arrays.fill(live, n);
    }
  }

  int size() {
    return names.length;
  }

  String name(int i) {
    return names[i];
  }

  double x(int i) {
    return xyz[3 * i];
  }

  double y(int i) {
    return xyz[3 * i + 1];
  }

  double z(int i) {
    return xyz[3 * i + 2];
  }

  /** RMS error in pixels; NaN where it is not known. */
  double rmsPx(int i) {
    return rms[i];
  }

  /** The tracker's row of the observations at a frame, or −1. */
  int row(int i, int frame) {
    if (from[i] < 0) {
      return -1;
    }
    Observations o = shot.observations();
    // Most trackers live without gaps: look where the frame should be first.
    int guess = from[i] + frame - o.frame(from[i]);
    if (guess >= from[i] && guess < to[i] && o.frame(guess) == frame) {
      return guess;
    }
    if (frame < o.frame(from[i]) || frame > o.frame(to[i] - 1)) {
      return -1;
    }
    return o.row(names[i], frame);
  }

  /** How many are seen at a frame. */
  int live(int frame) {
    int f = frame - firstFrame;
    return f >= 0 && f < live.length ? live[f] : 0;
  }
}
