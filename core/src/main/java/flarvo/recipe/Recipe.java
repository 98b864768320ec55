package flarvo.recipe;

import flarvo.decision.AsItStood;
import flarvo.decision.Decision;
import flarvo.decision.DecisionEntry;
import flarvo.decision.DecisionHistory;
import flarvo.decision.DispatchDecision;
import flarvo.decision.LevelDecision;
import flarvo.decision.ReceiveDecision;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.PathPattern;
import flarvo.proof.ProofReport;
import java.util.ArrayList;
import java.util.List;

/**
 * What is done to a shot, and what goes out of it.
 *
 * @param project fills {@code {project}} in file names
 * @param decisions in their order, without what they came to on the shot that they were made on
 * @param deliveries their file names are patterns, see {@link PathPattern}
 * @param limitPx largest drift with which a delivery holds, pixels of the shot's picture
 */
public record Recipe(
    String project, List<Decision> decisions, List<Delivery> deliveries, double limitPx) {

  public Recipe {
    decisions = List.copyOf(decisions);
    deliveries = List.copyOf(deliveries);
    if (!(limitPx > 0 && Double.isFinite(limitPx))) {
      throw new IllegalArgumentException("the limit of drift is a number above zero, in pixels");
    }
    for (Delivery d : deliveries) {
      PathPattern.check(d.fileName());
    }
  }

  /**
   * A recipe made of a shot.
   *
   * @param said what of the shot's decisions was left out, and what may not suit other shots
   */
  public record Made(Recipe recipe, List<String> said) {
    public Made {
      said = List.copyOf(said);
    }
  }

  /** Each shot's own proposals in place of rulings that were made on one shot. */
  public Recipe takingProposals() {
    List<Decision> d = new ArrayList<>(List.of(new ReceiveDecision.AcceptProposals()));
    decisions.stream()
        .filter(
            x ->
                !(x instanceof ReceiveDecision.Rule)
                    && !(x instanceof ReceiveDecision.AcceptProposals))
        .forEach(d::add);
    return new Recipe(project, d, deliveries, limitPx);
  }

  /**
   * The decisions of a shot that count, and its board as it stands. In file names, the shot's name
   * and the format's extension become patterns.
   */
  public static Made of(String project, DecisionHistory h) {
    List<Decision> kept = new ArrayList<>();
    List<String> said = new ArrayList<>();
    for (DecisionEntry e : h.log().counting()) {
      Decision d = e.decision();
      if (d instanceof DispatchDecision) {
        continue; // the board as it stands says it all
      }
      if (e.problem().isPresent()) {
        said.add("left out: " + e.title() + ": it was not applied on this shot either");
      } else if (d instanceof AsItStood) {
        said.add("left out: " + e.title() + ": an older project, which kept no decisions");
      } else if (!d.files().isEmpty()) {
        said.add("left out: " + e.title() + ": it names a file of this shot");
      } else {
        kept.add(d);
        if (d instanceof LevelDecision.MoveLevel) {
          said.add("kept: " + e.title() + ", though it was placed on this shot's solve");
        }
      }
    }
    String shot = h.present().name();
    List<Delivery> board =
        h.present().deliveries().stream().map(d -> PathPattern.generalised(d, shot)).toList();
    return new Made(new Recipe(project, kept, board, ProofReport.USUAL_LIMIT_PX), said);
  }
}
