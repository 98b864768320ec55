package flarvo.suspect;

import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import java.util.Arrays;
import java.util.BitSet;
import java.util.stream.IntStream;

/**
 * Observed pixels that a scene is measured against, frame after frame: a sample, even over frames
 * and trackers, which is as good for a median as all of them and quick to try hundreds of times.
 */
final class Evidence {

  /** Frames that lie so many times as far apart as there are rows are sorted, not counted. */
  private static final int CLOSE = 4;

  final PictureSize picture;
  final int[] frames; // rising, one each
  final int[] begin; // first row of each frame, and the number of rows
  final int[] point; // of each row
  final double[] x;
  final double[] y;

  private Evidence(
      PictureSize picture, int[] frames, int[] begin, int[] point, double[] x, double[] y) {
    this.picture = picture;
    this.frames = frames;
    this.begin = begin;
    this.point = point;
    this.x = x;
    this.y = y;
  }

  /** Number of rows. */
  int size() {
    return point.length;
  }

  /**
   * Samples tracks.
   *
   * @param pointOf for each of the tracks' names, the number of its point; negative leaves it out
   * @param most frames, evenly over those in which anything is observed
   * @param each tracks a frame, evenly
   */
  static Evidence of(Observations o, int[] pointOf, PictureSize picture, int most, int each) {
    int[] rows = new int[o.size()];
    int[] pointAt = new int[o.size()];
    int n = 0;
    for (int t = 0; t < pointOf.length; t++) {
      if (pointOf[t] >= 0) {
        String name = o.names().get(t);
        for (int row = o.firstRow(name); row < o.endRow(name); row++) {
          rows[n] = row;
          pointAt[n++] = pointOf[t];
        }
      }
    }
    int[] all = frames(o, rows, n);
    int[] begins = new int[all.length + 1]; // in the order of frames, then of tracks
    int[] index = new int[n];
    int place = 0;
    for (int i = 0; i < n; i++) {
      int frame = o.frame(rows[i]);
      // Of one track they rise, mostly by one.
      place = place < all.length && all[place] == frame ? place : Arrays.binarySearch(all, frame);
      index[i] = place++;
      begins[index[i] + 1]++;
    }
    for (int f = 0; f < all.length; f++) {
      begins[f + 1] += begins[f];
    }
    int[] sorted = new int[n];
    int[] next = begins.clone();
    for (int i = 0; i < n; i++) {
      sorted[next[index[i]]++] = i;
    }
    int[] chosen = evenly(all.length, most);
    int[] frames = new int[chosen.length];
    int[] begin = new int[chosen.length + 1];
    for (int f = 0; f < chosen.length; f++) {
      frames[f] = all[chosen[f]];
      begin[f + 1] = begin[f] + Math.min(each, begins[chosen[f] + 1] - begins[chosen[f]]);
    }
    int size = begin[chosen.length];
    int[] point = new int[size];
    double[] x = new double[size];
    double[] y = new double[size];
    for (int f = 0; f < chosen.length; f++) {
      int from = begins[chosen[f]];
      int count = begins[chosen[f] + 1] - from;
      int at = begin[f];
      for (int k : evenly(count, each)) {
        // Another start in each frame, so that not the same few tracks stand for all.
        int i = sorted[from + Math.floorMod(k - frames[f], count)];
        point[at] = pointAt[i];
        x[at] = o.x(rows[i]);
        y[at++] = o.y(rows[i]);
      }
    }
    return new Evidence(picture, frames, begin, point, x, y);
  }

  /** The frames of some rows, each once, rising. */
  private static int[] frames(Observations o, int[] rows, int n) {
    int first = Integer.MAX_VALUE;
    int last = Integer.MIN_VALUE;
    for (int i = 0; i < n; i++) {
      first = Math.min(first, o.frame(rows[i]));
      last = Math.max(last, o.frame(rows[i]));
    }
    if ((long) last - first > CLOSE * (long) n) {
      return IntStream.range(0, n).map(i -> o.frame(rows[i])).sorted().distinct().toArray();
    }
    BitSet seen = new BitSet();
    for (int i = 0; i < n; i++) {
      seen.set(o.frame(rows[i]) - first);
    }
    int from = first;
    return seen.stream().map(f -> from + f).toArray();
  }

  /** Which of a number of things to take, no more than {@code most} of them. */
  private static int[] evenly(int number, int most) {
    int[] out = new int[Math.min(number, most)];
    for (int i = 0; i < out.length; i++) {
      out[i] = number <= most ? i : (int) ((i + 0.5) * number / most);
    }
    return out;
  }
}
