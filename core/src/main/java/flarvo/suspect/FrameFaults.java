package flarvo.suspect;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** Frames that are bad by themselves while the rest holds: a jump, or a pose that stood still. */
final class FrameFaults {

  /** Frames that are this many times the usual error are bad. */
  private static final double FAR = 4;

  private static final double LEAST_PX = 1.5;

  /** Fewer observations in a frame could all be strays. */
  private static final int FEWEST = 6;

  private static final double MOST_FRAMES = 0.3;
  private static final double SAME = 1e-9;

  /**
   * @param frames bad ones, of the evidence
   * @param there mean error of the bad ones
   * @param after error without them
   */
  record Fault(
      String code, String value, String says, List<Integer> frames, double there, double after) {}

  private FrameFaults() {}

  /** Empty where no frames, or most, are bad. */
  static Optional<Fault> of(TriedScene s, Evidence e, TriedScene.Bench b) {
    double[] each = new double[e.frames.length];
    for (int f = 0; f < each.length; f++) {
      boolean enough = e.begin[f + 1] - e.begin[f] >= FEWEST;
      each[f] = enough ? s.error(e, f, b) : Double.NaN;
    }
    double[] known = Arrays.stream(each).filter(d -> !Double.isNaN(d)).sorted().toArray();
    if (known.length < 6) {
      return Optional.empty();
    }
    double usual = known[known.length / 2];
    List<Integer> bad = new ArrayList<>();
    double sum = 0;
    double far = 0;
    for (int f = 0; f < each.length; f++) {
      if (each[f] > Math.max(FAR * usual, usual + LEAST_PX)) {
        bad.add(e.frames[f]);
        far += each[f];
      } else if (!Double.isNaN(each[f])) {
        sum += each[f];
      }
    }
    if (bad.isEmpty() || bad.size() > MOST_FRAMES * known.length) {
      return Optional.empty();
    }
    double after = sum / (known.length - bad.size());
    double there = far / bad.size();
    String frames = ranges(bad);
    boolean frozen = bad.stream().allMatch(f -> stands(s, f));
    return Optional.of(
        frozen
            ? new Fault(
                "frozen-frame",
                frames,
                "The camera stands still at " + frames + " while it moves before and after",
                bad,
                there,
                after)
            : new Fault(
                "bad-range", frames, "Only frames " + frames + " are off", bad, there, after));
  }

  /** Whether a pose is that of the frame before or after, to the last digit. */
  private static boolean stands(TriedScene s, int frame) {
    int i = (int) Math.round(s.knobs.frameStart + s.knobs.frameStep * frame) - s.file.first();
    return same(s.file, i, i - 1) || same(s.file, i, i + 1);
  }

  private static boolean same(FiledScene f, int i, int j) {
    if (i < 0 || j < 0 || i >= f.count() || j >= f.count()) {
      return false;
    }
    double d = 0;
    for (int a = 0; a < 3; a++) {
      d = Math.max(d, Math.abs(f.positions()[3 * i + a] - f.positions()[3 * j + a]));
    }
    for (int a = 0; a < 4; a++) {
      d = Math.max(d, Math.abs(f.quaternions()[4 * i + a] - f.quaternions()[4 * j + a]));
    }
    return d < SAME;
  }

  private static String ranges(List<Integer> frames) {
    StringBuilder out = new StringBuilder();
    int i = 0;
    while (i < frames.size()) {
      int j = i;
      while (j + 1 < frames.size() && frames.get(j + 1) == frames.get(j) + 1) {
        j++;
      }
      out.append(out.isEmpty() ? "" : ", ").append(frames.get(i));
      if (j > i) {
        out.append('-').append(frames.get(j));
      }
      i = j + 1;
    }
    return out.toString();
  }
}
