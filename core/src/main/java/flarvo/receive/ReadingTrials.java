package flarvo.receive;

import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.suspect.Hypotheses;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;

/**
 * Measures readings of a fact: each is tried as a ruling and held against the 2D tracks that came,
 * or against features that were followed in the plates where none came.
 */
final class ReadingTrials {

  /** What is nearer may be a lens that nobody took out, or noise. */
  private static final double FAR_PX = 2;

  private static final double FITS_PX = 1.5;
  private static final double FAR_BETTER = 0.25;

  private final ReceivedSet set;
  private final Rulings rulings;
  private final Observations features;
  private final boolean measurable;

  ReadingTrials(ReceivedSet set, Rulings rulings, Observations features) {
    this.set = set;
    this.rulings = rulings;
    this.features = features;
    this.measurable =
        (!features.isEmpty()
                || set.files().stream()
                    .map(f -> f.scene().observations())
                    .anyMatch(o -> !o.isEmpty()))
            && set.files().stream().anyMatch(f -> !f.scene().cameras().isEmpty());
  }

  ReadingTrials under(Rulings others) {
    return new ReadingTrials(set, others, features);
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
    readings.forEach(
        (ruling, words) -> {
          double px = errorPx(set, rulings.with(fact, ruling), features);
          if (!Double.isNaN(px)) {
            out.add(new Evidence(words, ruling, px));
          }
        });
    out.sort(Comparator.comparingDouble(Evidence::errorPx));
    return out;
  }

  /**
   * The change that answers a question under a ruling, where the tracks leave no doubt: what stands
   * is far off, and with the change it fits.
   *
   * @param which of the changes may be proposed
   */
  Optional<Hypotheses.Tried> clear(
      Fact<?> fact,
      String ruling,
      Hypotheses.Question question,
      Predicate<Hypotheses.Tried> which) {
    if (!measurable) {
      return Optional.empty();
    }
    try {
      Shot shot = set.shot("", rulings.with(fact, ruling));
      Observations tracks = tracks(shot, features);
      double as = Hypotheses.errorPx(shot, tracks);
      if (!(as > FAR_PX)) {
        return Optional.empty();
      }
      return Hypotheses.of(shot, tracks, question).stream()
          .filter(which)
          .findFirst()
          .filter(t -> t.errorPx() < FITS_PX && t.errorPx() < FAR_BETTER * as);
    } catch (InputError e) {
      return Optional.empty(); // as below
    }
  }

  /** Under the rulings as they are; NaN where nothing can be measured. */
  double errorPx() {
    return measurable ? errorPx(set, rulings, features) : Double.NaN;
  }

  /**
   * The error of what came under some rulings, as suspects are measured.
   *
   * @param features to measure on where no 2D tracks came
   * @return NaN where nothing can be measured
   */
  static double errorPx(ReceivedSet set, Rulings rulings, Observations features) {
    try {
      Shot shot = set.shot("", rulings);
      return Hypotheses.errorPx(shot, tracks(shot, features));
    } catch (InputError e) {
      return Double.NaN; // this reading lacks something that another fact still has to settle
    }
  }

  private static Observations tracks(Shot shot, Observations features) {
    return shot.observations().isEmpty() ? features : shot.observations();
  }
}
