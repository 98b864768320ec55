package flarvo.decision;

import flarvo.convention.Dialects;
import flarvo.dispatch.Delivery;
import flarvo.level.SimilarityJson;
import flarvo.receive.Fact;
import flarvo.receive.Rulings;
import flarvo.report.StrictJson;
import flarvo.scene.Rate;
import flarvo.scene.Similarity;
import flarvo.stage.Staging;
import flarvo.vet.RefinedSolve;
import flarvo.vet.Vetting;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.TreeMap;

/** Shots of project files up to version 5, which kept what had come of the decisions. */
public final class OlderProject {

  private OlderProject() {}

  /**
   * What a shot's entry holds, as one decision.
   *
   * @throws IllegalArgumentException with the place of what cannot be read
   */
  public static DecisionLog log(StrictJson shot, Dialects dialects) {
    return log(
        rulings(shot),
        shot.optional("level").map(SimilarityJson::read).orElse(Similarity.IDENTITY),
        shot.optional("vetting").map(VettingJson::read).orElse(Vetting.NONE),
        shot.optional("staging").map(StagingJson::read).orElse(Staging.NONE),
        shot.list("deliveries", new DeliveryJson(dialects)::read));
  }

  /** What was decided by then, as one decision; nothing where nothing was. */
  public static DecisionLog log(
      Rulings rulings,
      Similarity level,
      Vetting vetting,
      Staging staging,
      List<Delivery> deliveries) {
    boolean nothing =
        rulings.equals(Rulings.NONE)
            && level.equals(Similarity.IDENTITY)
            && vetting.equals(Vetting.NONE)
            && staging.equals(Staging.NONE)
            && deliveries.isEmpty();
    if (nothing) {
      return DecisionLog.EMPTY;
    }
    Optional<RefinedSolve> solve = vetting.solve();
    AsItStood was = new AsItStood(rulings, vetting.withSolve(null), staging, deliveries);
    DecisionEntry e =
        new DecisionEntry(
            1,
            was,
            "",
            solve.map(s -> new Outcome.Solve(Set.of(), s, OptionalDouble.empty(), s.how())),
            level.equals(Similarity.IDENTITY) ? Optional.empty() : Optional.of(level),
            Optional.empty(),
            List.of());
    return new DecisionLog("", List.of(e), 1, 2);
  }

  /** Version 1 kept two of them as members of their own. */
  private static Rulings rulings(StrictJson shot) {
    Map<Fact<?>, String> out = new TreeMap<>();
    shot.optionalInteger("plateFirst")
        .ifPresent(f -> out.put(Fact.FIRST_FRAME, Integer.toString(f)));
    shot.optional("rate").ifPresent(r -> out.put(Fact.RATE, Rate.parse(r.text()).toString()));
    shot.optional("rulings").ifPresent(r -> out.putAll(DecisionTypes.rulings(r).texts()));
    return new Rulings(out);
  }
}
