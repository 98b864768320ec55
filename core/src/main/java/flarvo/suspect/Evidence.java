package flarvo.suspect;

import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * Observed pixels that a scene is measured against, frame after frame: a sample, even over frames
 * and trackers, which is as good for a median as all of them and quick to try hundreds of times.
 */
final class Evidence {

  final PictureSize picture;
  final int[] frames; // rising, one each
  final int[] begin; // first row of each frame, and the number of rows
  final int[] point; // of each row
  final double[] x;
  final double[] y;

  private Evidence(PictureSize picture, List<int[]> rows, Observations o, int[] pointOf) {
    this.picture = picture;
    point = new int[rows.size()];
    x = new double[rows.size()];
    y = new double[rows.size()];
    int[] all = new int[rows.size()];
    int[] starts = new int[rows.size() + 1];
    int n = 0;
    for (int i = 0; i < rows.size(); i++) {
      int row = rows.get(i)[1];
      if (i == 0 || rows.get(i)[0] != rows.get(i - 1)[0]) {
        starts[n] = i;
        all[n++] = rows.get(i)[0];
      }
      point[i] = pointOf[rows.get(i)[2]];
      x[i] = o.x(row);
      y[i] = o.y(row);
    }
    starts[n] = rows.size();
    frames = Arrays.copyOf(all, n);
    begin = Arrays.copyOf(starts, n + 1);
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
    Map<Integer, List<int[]>> byFrame = new TreeMap<>();
    for (int t = 0; t < o.names().size(); t++) {
      if (pointOf[t] < 0) {
        continue;
      }
      String name = o.names().get(t);
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        byFrame
            .computeIfAbsent(o.frame(row), f -> new ArrayList<>())
            .add(new int[] {o.frame(row), row, t});
      }
    }
    List<List<int[]>> all = List.copyOf(byFrame.values());
    List<int[]> rows = new ArrayList<>();
    for (List<int[]> frame : evenly(all, most)) {
      // Another start in each frame, so that not the same few tracks stand for all.
      List<int[]> turned = new ArrayList<>(frame);
      java.util.Collections.rotate(turned, frame.get(0)[0]);
      rows.addAll(evenly(turned, each));
    }
    return new Evidence(picture, rows, o, pointOf);
  }

  private static <T> List<T> evenly(List<T> all, int most) {
    if (all.size() <= most) {
      return all;
    }
    List<T> out = new ArrayList<>(most);
    for (int i = 0; i < most; i++) {
      out.add(all.get((int) ((i + 0.5) * all.size() / most)));
    }
    return out;
  }
}
