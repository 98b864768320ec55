package flarvo.trace;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import java.util.Arrays;
import java.util.Comparator;
import java.util.IntSummaryStatistics;
import java.util.List;
import java.util.Locale;
import java.util.stream.IntStream;

/** What following comes to: the features that were seen long enough, or why there are none. */
final class TraceResult {

  /** Frames a feature has to be seen on, or all of a shorter plate. */
  private static final int SHORTEST = 5;

  /** Frames beside the one in which a feature is lost, in which its place is not to be trusted. */
  private static final int DOUBTFUL = 2;

  /** Brightness, of 255, that a black plate does not reach. */
  private static final float DARK = 8;

  /** A solve needs so many. */
  static final int FEWEST = 8;

  private final List<Feature> all;
  private final FrameRange frames;
  private final int read;
  private final float brightest;
  private final List<TraceNote> notes;

  /**
   * @param all features that were found
   * @param read frames that were there
   * @param brightest of what was read, of 255
   * @param notes on what was noticed; is added to
   */
  TraceResult(
      List<Feature> all, FrameRange frames, int read, float brightest, List<TraceNote> notes) {
    this.all = all;
    this.frames = frames;
    this.read = read;
    this.brightest = brightest;
    this.notes = notes;
  }

  /**
   * What was followed, with what was noticed.
   *
   * @throws InputError where too little could be followed, with the reason
   */
  Traced traced() {
    int least = Math.min(SHORTEST, Math.max(2, read));
    Observations.Builder b = new Observations.Builder();
    int kept = 0;
    int width = Math.max(3, String.valueOf(all.size()).length());
    for (Feature f : all) {
      int[] rows = withoutEnds(f, onOneSide(f));
      if (rows.length >= least) {
        String name = String.format(Locale.ROOT, "f%0" + width + "d", ++kept);
        for (int row : rows) {
          b.add(name, f.frame(row), f.x(row) + 0.5, f.y(row) + 0.5);
        }
      }
    }
    if (kept < FEWEST) {
      throw nothing(kept, least);
    }
    Observations o = b.build();
    thin(o);
    notes.sort(Comparator.comparingInt(TraceNote::frame));
    return new Traced(o, notes);
  }

  /** The rows of a feature between two cuts, where it has the most: none goes across. */
  private int[] onOneSide(Feature f) {
    int[] cuts =
        notes.stream()
            .filter(n -> n.kind() == TraceNote.Kind.CUT)
            .mapToInt(TraceNote::frame)
            .toArray();
    int[] best = {};
    for (int part = 0; part <= cuts.length; part++) {
      int from = part == 0 ? Integer.MIN_VALUE : cuts[part - 1];
      int to = part == cuts.length ? Integer.MAX_VALUE : cuts[part];
      int[] rows =
          IntStream.range(0, f.rows()).filter(r -> f.frame(r) >= from && f.frame(r) < to).toArray();
      best = rows.length > best.length ? rows : best;
    }
    return best;
  }

  /**
   * Rows in any order, without the first and last frames if it was lost there: what ends a feature
   * disturbs its pattern on the frames before, where places are up to twice as far off. Where it
   * goes out of the picture nothing does.
   */
  private int[] withoutEnds(Feature f, int[] rows) {
    IntSummaryStatistics s = Arrays.stream(rows).map(f::frame).summaryStatistics();
    int from = s.getMin() + (f.lostBefore ? DOUBTFUL : 0);
    int to = s.getMax() - (f.live() || f.wentOut ? 0 : DOUBTFUL);
    return Arrays.stream(rows)
        .filter(r -> f.frame(r) >= from && f.frame(r) <= to && !f.isDropped(r))
        .toArray();
  }

  private InputError nothing(int kept, int least) {
    if (read < 2) {
      return InputError.words(
          "of frames " + frames + " " + (read == 0 ? "none" : "only one") + " can be read",
          "Check that the plates are there");
    }
    if (all.isEmpty()) {
      return InputError.words(
          "the plates have no detail to follow that stands out of their grain"
              + (brightest < DARK ? ", they are black" : ""),
          "Check that these are the right plates, and what the mask covers");
    }
    return InputError.words(
        String.format(
            Locale.ROOT,
            "%d features were found, and %d could be followed for %d frames; a solve needs %d",
            all.size(),
            kept,
            least,
            FEWEST),
        "The picture may be noise, or move too fast; ask for larger patterns or be less strict");
  }

  private void thin(Observations o) {
    int[] live = new int[frames.count()];
    for (int row = 0; row < o.size(); row++) {
      live[o.frame(row) - frames.first()]++;
    }
    for (int i = 0; i < live.length; ) {
      int from = i;
      while (i < live.length && live[i] < FEWEST) {
        i++;
      }
      if (i > from) {
        int first = frames.first() + from;
        int last = frames.first() + i - 1;
        notes.add(
            new TraceNote(
                TraceNote.Kind.THIN,
                first,
                (first == last
                        ? "frame " + first + " has"
                        : "frames " + first + "–" + last + " have")
                    + " fewer than "
                    + FEWEST
                    + " features"));
      }
      i++;
    }
  }
}
