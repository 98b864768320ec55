package flarvo.project;

import flarvo.dispatch.Delivery;
import flarvo.receive.Fact;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.vet.RefinedSolve;
import flarvo.vet.Vetting;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A shot, what it was made of, what was ruled, what was decided when it was vetted, and what is to
 * be sent of it; every change is a {@link ShotEdit}.
 *
 * @param shot as everybody sees it: {@code whole} with {@code vetting} applied
 * @param received empty for a shot that came from no files
 * @param whole the shot before anything was culled or refined
 */
public record ShotState(
    Shot shot,
    List<Delivery> deliveries,
    Optional<ReceivedSet> received,
    Rulings rulings,
    Vetting vetting,
    Shot whole) {

  public ShotState {
    deliveries = List.copyOf(deliveries);
  }

  /** A shot that nobody has vetted. */
  public ShotState(
      Shot shot, List<Delivery> deliveries, Optional<ReceivedSet> received, Rulings rulings) {
    this(shot, deliveries, received, rulings, Vetting.NONE, shot);
  }

  public ShotState(Shot shot, List<Delivery> deliveries) {
    this(shot, deliveries, Optional.empty(), Rulings.NONE);
  }

  /** The level stands beside solve and vetting alike. */
  public ShotState withLevel(Similarity level) {
    return new ShotState(
        shot.withLevel(level), deliveries, received, rulings, vetting, whole.withLevel(level));
  }

  public ShotState withVetting(Vetting v) {
    return new ShotState(v.applied(whole), deliveries, received, rulings, v, whole);
  }

  public ShotState withDeliveries(List<Delivery> d) {
    return new ShotState(shot, d, received, rulings, vetting, whole);
  }

  /** The shot made anew from other files; rulings and level stay. */
  public ShotState withReceived(ReceivedSet r) {
    return new ShotState(shot, deliveries, Optional.of(r), rulings, vetting, whole)
        .withRulings(rulings);
  }

  /**
   * The shot made anew from what came in, under other rulings; its level stays. What was culled
   * stays so by name; a refined solve stays only where the solve that it refines is still the same,
   * perhaps on other frames.
   */
  public ShotState withRulings(Rulings r) {
    Shot made =
        received.isPresent()
            ? received.get().shot(whole.name(), r).withLevel(whole.level())
            : ruledDirectly(r);
    Vetting v = vetting.withSolve(vetting.solve().flatMap(s -> carried(s, made)).orElse(null));
    return new ShotState(v.applied(made), deliveries, received, r, v, made);
  }

  private Optional<RefinedSolve> carried(RefinedSolve solve, Shot made) {
    int by = made.frames().first() - whole.frames().first();
    boolean same =
        made.picture().equals(whole.picture())
            && made.trackers().equals(whole.trackers())
            && made.camera().equals(whole.camera().map(c -> c.shifted(by)));
    return same ? Optional.of(solve.shifted(by)) : Optional.empty();
  }

  private Shot ruledDirectly(Rulings r) {
    Shot s = whole;
    for (Map.Entry<Fact, String> e : r.texts().entrySet()) {
      Object v = e.getKey().parse(e.getValue());
      if (e.getKey() == Fact.RATE) {
        s = s.withRate((Rate) v);
      } else if (e.getKey() == Fact.FIRST_FRAME) {
        s = s.startingAt((Integer) v);
      }
    }
    return s;
  }
}
