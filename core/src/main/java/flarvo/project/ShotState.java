package flarvo.project;

import flarvo.dispatch.Delivery;
import flarvo.level.LevelScene;
import flarvo.level.Levelling;
import flarvo.level.Stated;
import flarvo.receive.Fact;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.stage.Staging;
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
 * @param staging what was stated of the level, and what was built on it
 * @param whole the shot before anything was culled or refined
 */
public record ShotState(
    Shot shot,
    List<Delivery> deliveries,
    Optional<ReceivedSet> received,
    Rulings rulings,
    Vetting vetting,
    Staging staging,
    Shot whole) {

  public ShotState {
    deliveries = List.copyOf(deliveries);
  }

  /** A shot that nobody has vetted. */
  public ShotState(
      Shot shot, List<Delivery> deliveries, Optional<ReceivedSet> received, Rulings rulings) {
    this(shot, deliveries, received, rulings, Vetting.NONE, Staging.NONE, shot);
  }

  public ShotState(Shot shot, List<Delivery> deliveries) {
    this(shot, deliveries, Optional.empty(), Rulings.NONE);
  }

  /** A level set by hand; what is stated of it holds on. It stands beside solve and vetting. */
  public ShotState withLevel(Similarity level) {
    return new ShotState(
            shot.withLevel(level),
            deliveries,
            received,
            rulings,
            vetting,
            staging,
            whole.withLevel(level))
        .asStated();
  }

  public ShotState withVetting(Vetting v) {
    return new ShotState(v.applied(whole), deliveries, received, rulings, v, staging, whole)
        .asStated();
  }

  public ShotState withStaging(Staging s) {
    return new ShotState(shot, deliveries, received, rulings, vetting, s, whole).asStated();
  }

  public ShotState withDeliveries(List<Delivery> d) {
    return new ShotState(shot, d, received, rulings, vetting, staging, whole);
  }

  /** As recipients get it: with everything that was built on it. */
  public Shot staged() {
    return staging.applied(shot);
  }

  /** The level that the statements make of the trackers as they stand now. */
  private ShotState asStated() {
    if (staging.statements().stream().noneMatch(Stated::on)) {
      return this;
    }
    Similarity level =
        Levelling.of(new LevelScene(shot), staging.statements(), shot.level()).level();
    return level.equals(shot.level())
        ? this
        : new ShotState(
            shot.withLevel(level),
            deliveries,
            received,
            rulings,
            vetting,
            staging,
            whole.withLevel(level));
  }

  /** The shot made anew from other files; rulings and level stay. */
  public ShotState withReceived(ReceivedSet r) {
    return new ShotState(shot, deliveries, Optional.of(r), rulings, vetting, staging, whole)
        .withRulings(rulings);
  }

  /**
   * Another solve of the same shot in this one's place, standing where this one stands: everything
   * that was placed keeps its place in the world. What was stated is kept, but no longer counts;
   * what was left out by name stays so.
   *
   * @param other the other solve
   * @param onto from its space to this one's
   */
  public ShotState withSolve(ReceivedSet r, Shot other, Similarity onto) {
    Shot made = other.withLevel(shot.level().after(onto));
    Vetting v = Vetting.NONE.withCulled(vetting.culled());
    Staging s =
        staging
            .following(shot)
            .moved(onto.inverse())
            .withStatements(staging.statements().stream().map(t -> t.switched(false)).toList());
    return new ShotState(v.applied(made), deliveries, Optional.of(r), rulings, v, s, made);
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
    return new ShotState(v.applied(made), deliveries, received, r, v, staging, made).asStated();
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
