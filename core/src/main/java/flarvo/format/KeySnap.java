package flarvo.format;

import flarvo.report.Note;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * Which key stands for a frame. Keys that lie between frames are interpolated where a file is read
 * on frames; snapped, the nearest within half a frame counts as if it lay on the frame.
 */
public final class KeySnap {

  /** How far from a whole frame a key may lie and still be on it, in frames. */
  private static final double GRID = 1e-4;

  private final boolean wanted;
  private double[] keys = {};
  private double[] first; // of the first camera

  /**
   * @param wanted false to read files as they are
   */
  public KeySnap(boolean wanted) {
    this.wanted = wanted;
  }

  /**
   * Goes by the keys of one camera from now on.
   *
   * @param frames where its keys lie, rising, in file frames
   * @param place of the camera in the file
   * @param notes takes what is snapped
   */
  public void goBy(double[] frames, String place, List<Note> notes) {
    double farthest = 0;
    int between = 0;
    for (double f : frames) {
      double off = Math.abs(f - Math.rint(f));
      between += off > GRID ? 1 : 0;
      farthest = Math.max(farthest, off);
    }
    keys = wanted && between > 0 ? frames.clone() : new double[0];
    if (first == null) {
      first = keys;
    }
    if (keys.length > 0) {
      notes.add(
          Note.changed(
              place,
              String.format(
                  Locale.ROOT,
                  "%d of %d keys lay between frames and were snapped, by up to %.4f frames",
                  between,
                  frames.length,
                  farthest)));
    }
  }

  /** Goes by the keys of the first camera, as what hangs in groups does. */
  public void goByFirst() {
    keys = first == null ? new double[0] : first;
  }

  /** The same keys, snapped: what a range of frames is made of. */
  public double[] snapped(double[] frames) {
    return keys.length == 0 ? frames : Arrays.stream(frames).map(Math::rint).toArray();
  }

  /** Where in the file the frame's values are, in file frames. */
  public double at(int frame) {
    if (keys.length == 0) {
      return frame;
    }
    int i = Arrays.binarySearch(keys, frame);
    int above = i >= 0 ? i : -i - 1;
    double best = frame;
    double off = 0.5;
    for (int k = Math.max(0, above - 1); k <= Math.min(keys.length - 1, above); k++) {
      double d = Math.abs(keys[k] - frame);
      if (d < off || d == off && keys[k] > frame) {
        off = d;
        best = keys[k];
      }
    }
    return best;
  }
}
