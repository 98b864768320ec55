package flarvo.receive;

import flarvo.format.FileCamera;
import flarvo.scene.Observations;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * What is known while claims are weighed: the claims, the conflicts found so far, and the rulings
 * that are taken, each proposal as soon as it is made.
 */
final class Weighing {

  /** A reading must beat the standing one by this factor to be proposed for its evidence. */
  static final double BETTER = 0.7;

  private final ReceivedSet set;
  private final Rulings rulings;
  private final List<Claim<?>> claims;
  private final List<Conflict> conflicts = new ArrayList<>();
  private Rulings taken;
  private ReadingTrials trials;

  /**
   * @param rulings that the user made
   * @param taken what stands at first; proposals are added to it
   * @param features to measure on where no 2D tracks came
   */
  Weighing(
      ReceivedSet set,
      List<Claim<?>> claims,
      Rulings rulings,
      Rulings taken,
      Observations features) {
    this.set = set;
    this.claims = claims;
    this.rulings = rulings;
    this.taken = taken;
    this.trials = new ReadingTrials(set, taken, features);
  }

  ReceivedSet set() {
    return set;
  }

  List<Conflict> conflicts() {
    return conflicts;
  }

  Rulings taken() {
    return taken;
  }

  /** What readings are measured on, for eyes. */
  String measuredOn() {
    return trials.onFeatures() ? "the features of the plates" : "the 2D tracks";
  }

  ReadingTrials trials() {
    return trials;
  }

  <T> List<Claim<T>> about(Fact<T> fact) {
    return Claim.about(fact, claims);
  }

  <T> List<Claim<T>> said(Fact<T> fact) {
    return about(fact).stream().filter(c -> !c.assumed()).toList();
  }

  void conflict(
      Fact<?> fact, String sentence, String proposal, String reason, List<Evidence> evidence) {
    boolean ruled = rulings.of(fact).isPresent();
    conflicts.add(new Conflict(fact, sentence, proposal, reason, evidence, ruled));
    if (!ruled && !proposal.isEmpty()) {
      taken = taken.with(fact, proposal);
      trials = trials.under(taken);
    }
  }

  private static String px(double v) {
    return String.format(Locale.ROOT, v < 10 ? "%.2f px" : "%.0f px", v);
  }

  /** Ends a reason with what was measured. */
  static String measured(String reason, List<Evidence> evidence) {
    if (evidence.size() < 2) {
      return reason;
    }
    Evidence best = evidence.get(0);
    Evidence worst = evidence.get(evidence.size() - 1);
    return reason
        + "; measured: "
        + px(best.errorPx())
        + " under '"
        + best.reading()
        + "', "
        + px(worst.errorPx())
        + " under '"
        + worst.reading()
        + "'";
  }

  /** "a says x; b says y", each with its place. */
  static String list(List<? extends Claim<?>> claims) {
    return claims.stream()
        .map(c -> c.source() + " states " + c.text() + " (" + c.place() + ")")
        .distinct()
        .collect(Collectors.joining("; "));
  }

  /** The camera that the shot has, under what is taken so far. */
  Optional<FileCamera> camera() {
    IntakeOptions options = taken.over(set.base());
    return cameras()
        .filter(c -> options.camera().map(n -> n.equals(c.camera().name())).orElse(true))
        .findFirst();
  }

  Stream<FileCamera> cameras() {
    return set.files(taken.over(set.base())).stream().flatMap(f -> f.scene().cameras().stream());
  }

  static double of(List<Evidence> evidence, String ruling) {
    return evidence.stream()
        .filter(e -> e.ruling().equals(ruling))
        .mapToDouble(Evidence::errorPx)
        .findFirst()
        .orElse(Double.MAX_VALUE);
  }

  <T> Optional<Claim<T>> logged(Fact<T> fact) {
    Set<String> logs =
        set.logs().stream().map(l -> l.path().getFileName().toString()).collect(Collectors.toSet());
    return about(fact).stream().filter(c -> logs.contains(c.source())).findFirst();
  }
}
