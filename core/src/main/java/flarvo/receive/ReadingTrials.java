package flarvo.receive;

import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.suspect.Hypotheses;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Measures readings of a fact: each is tried as a ruling and held against the 2D tracks that came,
 * or against features that were followed in the plates where none came.
 */
final class ReadingTrials {

  /** Below this, noise or a lens that was not removed may be the cause. */
  private static final double FAR_PX = 2;

  private static final double FITS_PX = 1.5;
  private static final double FAR_BETTER = 0.25;

  private final ReceivedSet set;
  private final Rulings rulings;
  private final Observations features;
  private final boolean tracked;
  private final boolean measurable;
  private final Map<Rulings, Double> measured; // several questions try the same

  ReadingTrials(ReceivedSet set, Rulings rulings, Observations features) {
    this(set, rulings, features, new HashMap<>());
  }

  private ReadingTrials(
      ReceivedSet set, Rulings rulings, Observations features, Map<Rulings, Double> measured) {
    this.measured = measured;
    this.set = set;
    this.rulings = rulings;
    this.features = features;
    this.tracked =
        set.files().stream().map(f -> f.scene().observations()).anyMatch(o -> !o.isEmpty());
    this.measurable =
        (tracked || !features.isEmpty())
            && set.files().stream().anyMatch(f -> !f.scene().cameras().isEmpty());
  }

  /** Whether features of the plates take the place of 2D tracks, of which none came. */
  boolean onFeatures() {
    return !tracked && !features.isEmpty();
  }

  ReadingTrials under(Rulings others) {
    return new ReadingTrials(set, others, features, measured);
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
          double px = errorPx(rulings.with(fact, ruling));
          if (!Double.isNaN(px)) {
            out.add(new Evidence(words, ruling, px));
          }
        });
    out.sort(Comparator.comparingDouble(Evidence::errorPx));
    return out;
  }

  /** What the tracks are asked about a fact beyond what anybody states. */
  interface Open {
    Hypotheses.Question question();

    /** The ruling that a change of the one that stands comes to; empty where it is none. */
    Optional<String> ruling(String stands, Hypotheses.Tried change);

    /** A ruling that the tracks name, for eyes. */
    String words(String ruling);
  }

  /**
   * The same, with the reading that the tracks name where none of these fits.
   *
   * @param readings that reading is added to them
   */
  List<Evidence> of(Fact<?> fact, Map<String, String> readings, Open open) {
    List<Evidence> stated = of(fact, readings);
    Optional<String> named =
        stated.stream().findFirst().flatMap(e -> named(fact, e.ruling(), open));
    if (named.isEmpty()) {
      return stated;
    }
    readings.put(named.get(), open.words(named.get()));
    return of(fact, readings);
  }

  /**
   * The ruling that the tracks name in the place of one that stands, where they leave no doubt:
   * what stands is far off, and with the change it fits.
   */
  Optional<String> named(Fact<?> fact, String stands, Open open) {
    if (!measurable) {
      return Optional.empty();
    }
    try {
      Shot shot = set.shot("", rulings.with(fact, stands));
      Observations tracks = tracks(shot, features);
      double as = Hypotheses.errorPx(shot, tracks);
      if (!(as > FAR_PX)) {
        return Optional.empty();
      }
      return Hypotheses.of(shot, tracks, open.question()).stream()
          .filter(t -> open.ruling(stands, t).isPresent())
          .findFirst()
          .filter(t -> t.errorPx() < FITS_PX && t.errorPx() < FAR_BETTER * as)
          .flatMap(t -> open.ruling(stands, t));
    } catch (InputError e) {
      return Optional.empty(); // as below
    }
  }

  /** Under the rulings as they are; NaN where nothing can be measured. */
  double errorPx() {
    return measurable ? errorPx(rulings) : Double.NaN;
  }

  private double errorPx(Rulings tried) {
    return measured.computeIfAbsent(tried, r -> errorPx(set, r, features));
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
      double px = Hypotheses.errorPx(shot, tracks(shot, features));
      // As far off as can be is no measurement: the camera has no frames where there are tracks.
      return px < shot.picture().width() ? px : Double.NaN;
    } catch (InputError e) {
      return Double.NaN; // this reading lacks something that another fact still has to settle
    }
  }

  private static Observations tracks(Shot shot, Observations features) {
    return shot.observations().isEmpty() ? features : shot.observations();
  }
}
