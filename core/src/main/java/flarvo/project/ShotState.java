package flarvo.project;

import flarvo.dispatch.Delivery;
import flarvo.receive.Fact;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A shot, what it was made of, what was ruled, and what is to be sent of it; every change is a
 * {@link ShotEdit}.
 *
 * @param received empty for a shot that came from no files
 */
public record ShotState(
    Shot shot, List<Delivery> deliveries, Optional<ReceivedSet> received, Rulings rulings) {

  public ShotState {
    deliveries = List.copyOf(deliveries);
  }

  public ShotState(Shot shot, List<Delivery> deliveries) {
    this(shot, deliveries, Optional.empty(), Rulings.NONE);
  }

  public ShotState withShot(Shot s) {
    return new ShotState(s, deliveries, received, rulings);
  }

  public ShotState withDeliveries(List<Delivery> d) {
    return new ShotState(shot, d, received, rulings);
  }

  /** The shot made anew from other files; rulings and level stay. */
  public ShotState withReceived(ReceivedSet r) {
    return new ShotState(shot, deliveries, Optional.of(r), rulings).withRulings(rulings);
  }

  /** The shot made anew from what came in, under other rulings; its level stays. */
  public ShotState withRulings(Rulings r) {
    Shot made =
        received.isPresent()
            ? received.get().shot(shot.name(), r).withLevel(shot.level())
            : ruledDirectly(r);
    return new ShotState(made, deliveries, received, r);
  }

  private Shot ruledDirectly(Rulings r) {
    Shot s = shot;
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
