package flarvo.decision;

import flarvo.dispatch.Delivery;
import flarvo.receive.Rulings;
import flarvo.stage.Staging;
import flarvo.vet.RefinedSolve;
import flarvo.vet.Vetting;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A shot as an older project file kept it: the sum of what had been decided, without the steps. Its
 * level, and the refined solve where there is one, are its outcome.
 *
 * @param vetting without a refined solve
 * @param staging what was placed is in the solve space of the files that it was placed in
 */
@DecisionCode("as-it-stood")
public record AsItStood(
    Rulings rulings, Vetting vetting, Staging staging, List<Delivery> deliveries)
    implements Decision {

  public AsItStood {
    deliveries = List.copyOf(deliveries);
    if (vetting.solve().isPresent()) {
      throw new IllegalArgumentException("a refined solve is an outcome, not a decision");
    }
  }

  @Override
  public String title() {
    return "take over older project";
  }

  @Override
  public Applied on(ShotState s, Optional<Outcome> outcome) {
    List<String> missed = new ArrayList<>();
    ShotState next = s.withRulings(rulings).withStaging(staging).withDeliveries(deliveries);
    RefinedSolve solve = outcome.map(o -> ((Outcome.Solve) o).solve()).orElse(null);
    return new Applied(next.withVetting(vetting.withSolve(solve)), missed);
  }

  /** Trackers it names that a shot does not have. */
  List<String> missing(ShotState s) {
    List<String> names = new ArrayList<>(vetting.culledInOrder());
    staging.statements().forEach(t -> names.addAll(t.what().trackers()));
    staging.gauges().forEach(g -> g.tracker().ifPresent(names::add));
    staging.locators().forEach(l -> names.add(l.tracker()));
    return s.missing(names.stream().distinct().toList());
  }
}
