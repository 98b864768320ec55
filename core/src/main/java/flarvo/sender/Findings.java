package flarvo.sender;

import flarvo.convention.Dialect;
import flarvo.sender.Readings.Reading;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;

/** How each part of a dialect is known, as it is found out. */
final class Findings {

  /** What fits as well as the best, within the noise of the evidence. */
  private static final double ALIKE = 1.04;

  private static final double ALIKE_PX = 0.02;

  private final List<Finding> all = new ArrayList<>();

  static boolean isAlike(double error, double best) {
    return error <= best * ALIKE + ALIKE_PX;
  }

  void add(String part, String value, Known known, String why) {
    all.add(new Finding(part, value, known, why));
  }

  /** Adds to what is said of the part that came last, where it was measured. */
  void unless(String otherwise) {
    Finding f = all.get(all.size() - 1);
    if (f.known() == Known.MEASURED) {
      all.set(
          all.size() - 1,
          new Finding(f.part(), f.value(), f.known(), f.why() + ", unless " + otherwise));
    }
  }

  List<Finding> all() {
    return List.copyOf(all);
  }

  /** Whether a part has one value only, as far as is known. */
  boolean isSure(String part) {
    return all.stream().anyMatch(f -> f.part().equals(part) && f.known() != Known.OPEN);
  }

  /**
   * A part of which readings have several values: how well each fits.
   *
   * @param value the chosen reading's
   * @param word the part of a dialect, in words
   */
  void compare(String part, String value, List<Reading> readings, Function<Dialect, String> word) {
    Map<String, Double> errors = new LinkedHashMap<>();
    readings.forEach(r -> errors.merge(word.apply(r.dialect()), r.error(), Math::min));
    double own = errors.getOrDefault(value, Double.NaN);
    double best = errors.values().stream().mapToDouble(e -> e).min().orElse(own);
    String alike =
        errors.entrySet().stream()
            .filter(e -> !e.getKey().equals(value) && isAlike(e.getValue(), best))
            .map(Map.Entry::getKey)
            .collect(Collectors.joining("; "));
    Optional<Double> next =
        errors.entrySet().stream()
            .filter(e -> !e.getKey().equals(value))
            .map(Map.Entry::getValue)
            .min(Double::compare);
    if (best > SenderReport.FITS_PX && next.isPresent()) {
      add(part, value, Known.OPEN, String.format(Locale.ROOT, "nothing fits: %.2f px", best));
    } else if (next.isEmpty()) {
      add(part, value, Known.STATED, "the files can be read in no other way");
    } else if (errors.values().stream().allMatch(e -> isAlike(e, best))) {
      add(part, value, Known.OPEN, Finding.NO_MATTER);
    } else if (!alike.isEmpty()) {
      add(part, value, Known.OPEN, "as good: " + alike);
    } else {
      add(
          part,
          value,
          Known.MEASURED,
          String.format(Locale.ROOT, "%.2f px, the next best %.2f px", own, next.get()));
    }
  }
}
