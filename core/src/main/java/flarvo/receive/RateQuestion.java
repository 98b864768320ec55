package flarvo.receive;

import flarvo.scene.Rate;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** Which rate the shot has. */
final class RateQuestion {

  /** Rates that readers fall back on; a scene file that says one may only mean that. */
  private static final Set<Rate> USUAL_FALLBACKS = Set.of(Rate.FPS_24, Rate.FPS_25, Rate.FPS_30);

  private final Weighing w;

  RateQuestion(Weighing w) {
    this.w = w;
  }

  void rate() {
    List<Claim<Rate>> all = w.about(Fact.RATE);
    Set<Optional<Rate>> values = new LinkedHashSet<>();
    all.forEach(c -> values.add(c.value()));
    if (all.isEmpty() || (values.size() == 1 && !w.said(Fact.RATE).isEmpty())) {
      return;
    }
    Claim<Rate> best = all.get(0);
    for (Claim<Rate> c : all) {
      best = weight(c) > weight(best) ? c : best;
    }
    if (values.size() == 1) {
      w.conflict(
          Fact.RATE,
          "no file states a rate",
          best.text(),
          best.text() + " is " + best.place() + "; ask the sender",
          List.of());
      return;
    }
    Claim<Rate> chosen = best;
    List<Claim<Rate>> against =
        all.stream().filter(c -> !c.value().equals(chosen.value())).toList();
    boolean fallback = against.stream().allMatch(c -> c.assumed() || isFallback(c));
    String reason =
        (fallback ? against.get(0).text() + " may be a default; " : "")
            + best.source()
            + " states "
            + best.text()
            + " ("
            + best.place()
            + ")";
    w.conflict(
        Fact.RATE, Weighing.list(all), best.value().orElseThrow().toString(), reason, List.of());
  }

  private boolean isFallback(Claim<Rate> c) {
    return USUAL_FALLBACKS.contains(c.value().orElseThrow())
        && w.logged(Fact.RATE).filter(c::equals).isEmpty();
  }

  /** How much a claim of a rate is worth. */
  private int weight(Claim<Rate> c) {
    if (c.assumed()) {
      return 0;
    }
    if (w.logged(Fact.RATE).filter(c::equals).isPresent()) {
      return 3;
    }
    return USUAL_FALLBACKS.contains(c.value().orElseThrow()) ? 1 : 2;
  }
}
