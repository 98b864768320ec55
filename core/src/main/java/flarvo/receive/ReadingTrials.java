package flarvo.receive;

import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.vet.Reprojection;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Measures readings of a fact: each is tried as a ruling and held against the 2D tracks. */
final class ReadingTrials {

  private final ReceivedSet set;
  private final Rulings rulings;
  private final boolean measurable;

  ReadingTrials(ReceivedSet set, Rulings rulings) {
    this.set = set;
    this.rulings = rulings;
    this.measurable =
        set.files().stream().map(f -> f.scene().observations()).anyMatch(o -> !o.isEmpty())
            && set.files().stream().anyMatch(f -> !f.scene().cameras().isEmpty())
            && set.files().stream().anyMatch(f -> !f.scene().trackers().isEmpty());
  }

  ReadingTrials under(Rulings others) {
    return new ReadingTrials(set, others);
  }

  /**
   * @param readings ruling as typed, to words for eyes
   * @return best first; empty where nothing can be measured
   */
  List<Evidence> of(Fact<?> fact, Map<String, String> readings) {
    List<Evidence> out = new ArrayList<>();
    if (!measurable) {
      return out;
    }
    new LinkedHashMap<>(readings)
        .forEach(
            (ruling, words) -> {
              double px = medianPx(rulings.with(fact, ruling));
              if (!Double.isNaN(px)) {
                out.add(new Evidence(words, ruling, px));
              }
            });
    out.sort(Comparator.comparingDouble(Evidence::medianPx));
    return out;
  }

  /** Under the rulings as they are. */
  double medianPx() {
    return measurable ? medianPx(rulings) : Double.NaN;
  }

  /** NaN where nothing can be measured under these rulings. */
  private double medianPx(Rulings r) {
    try {
      Shot shot = set.shot("", r);
      return Reprojection.of(shot).map(Reprojection::medianPx).orElse(Double.NaN);
    } catch (InputError e) {
      return Double.NaN; // this reading lacks something that another fact still has to settle
    }
  }
}
