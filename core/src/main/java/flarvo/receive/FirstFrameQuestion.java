package flarvo.receive;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.PlateSequence;
import flarvo.suspect.Hypotheses;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Where the camera's first frame lies among the plates. */
final class FirstFrameQuestion {

  /** Frames are counted otherwise by a whole number of them. */
  private static final ReadingTrials.Open OTHERWISE =
      new ReadingTrials.Open() {
        @Override
        public Hypotheses.Question question() {
          return Hypotheses.Question.FRAMES;
        }

        @Override
        public Optional<String> ruling(String stands, Hypotheses.Tried change) {
          return change.value().contains(".")
              ? Optional.empty()
              : Optional.of(
                  Integer.toString(Integer.parseInt(stands) + Integer.parseInt(change.value())));
        }

        @Override
        public String words(String ruling) {
          return "first frame on " + ruling;
        }
      };

  private final Weighing w;

  FirstFrameQuestion(Weighing w) {
    this.w = w;
  }

  void firstFrame() {
    Optional<FrameRange> keyed = w.camera().map(c -> c.camera().frames());
    Optional<FrameRange> plates = w.set().mainPlate().map(PlateSequence::frames);
    Optional<FrameRange> target =
        plates.or(
            () ->
                w.set().logs().stream().map(ShotLog::frames).flatMap(Optional::stream).findFirst());
    boolean tracked = target.isEmpty();
    if (tracked) {
      target = tracks().filter(t -> keyed.isPresent() && !holds(keyed.get(), t));
    }
    if (keyed.isEmpty()) {
      return;
    }
    if (target.isEmpty() || keyed.get().equals(target.get())) {
      countedOtherwise(keyed.get());
      return;
    }
    FrameRange k = keyed.get();
    FrameRange t = target.get();
    String whose =
        plates.isPresent() ? "the plates are " : tracked ? "the 2D tracks are " : "the log states ";
    int offset = t.first() - k.first();
    String sentence =
        "the camera has "
            + k.count()
            + " frames at "
            + k.first()
            + "–"
            + k.last()
            + ", "
            + whose
            + t.first()
            + "–"
            + t.last();
    Map<String, String> readings = new LinkedHashMap<>();
    readings.put(Integer.toString(t.first()), "first frame on " + t.first());
    readings.put(Integer.toString(k.first()), "as the camera counts");
    readings.put(Integer.toString(t.first() + 1), "one later");
    readings.put(Integer.toString(t.first() - 1), "one earlier");
    List<Evidence> evidence = w.trials().of(Fact.FIRST_FRAME, readings, OTHERWISE);
    String proposal = Integer.toString(t.first());
    String reason =
        k.count() == t.count()
            ? "equally many frames, so an offset of " + signed(offset)
            : k.count() > t.count()
                ? "the camera's range is longer than the shot, as a range that a program sets by"
                    + " itself; its first key on the first plate"
                : "the camera is shorter than the plates; its first key on the first plate";
    if (!evidence.isEmpty()
        && evidence.get(0).errorPx() < Weighing.BETTER * Weighing.of(evidence, proposal)) {
      proposal = evidence.get(0).ruling();
      reason = w.measuredOn() + " fit best there";
    }
    w.conflict(Fact.FIRST_FRAME, sentence, proposal, Weighing.measured(reason, evidence), evidence);
  }

  /** Nothing that is stated contradicts; the 2D tracks may. */
  private void countedOtherwise(FrameRange k) {
    String stands = Integer.toString(k.first());
    Optional<String> named = w.trials().named(Fact.FIRST_FRAME, stands, OTHERWISE);
    if (named.isEmpty()) {
      return;
    }
    String proposal = named.get();
    Map<String, String> readings = new LinkedHashMap<>();
    readings.put(proposal, OTHERWISE.words(proposal));
    readings.put(stands, "as the camera counts");
    List<Evidence> evidence = w.trials().of(Fact.FIRST_FRAME, readings);
    int by = Integer.parseInt(proposal) - k.first();
    w.conflict(
        Fact.FIRST_FRAME,
        "the camera has its frames at "
            + k.first()
            + "–"
            + k.last()
            + "; according to "
            + w.measuredOn()
            + " it is "
            + (Math.abs(by) == 1 ? "one frame" : Math.abs(by) + " frames")
            + (by < 0 ? " late" : " early"),
        proposal,
        Weighing.measured("best fit to " + w.measuredOn(), evidence),
        evidence);
  }

  /**
   * Frames in which anything was tracked: all that is known of the plates where nobody names them.
   */
  private Optional<FrameRange> tracks() {
    int first = Integer.MAX_VALUE;
    int last = Integer.MIN_VALUE;
    for (ReceivedFile f : w.set().files()) {
      Observations o = f.scene().observations();
      for (int row = 0; row < o.size(); row++) {
        first = Math.min(first, o.frame(row));
        last = Math.max(last, o.frame(row));
      }
    }
    return first > last ? Optional.empty() : Optional.of(new FrameRange(first, last));
  }

  private static boolean holds(FrameRange all, FrameRange part) {
    return all.contains(part.first()) && all.contains(part.last());
  }

  private static String signed(int i) {
    return (i >= 0 ? "+" : "") + i;
  }
}
