package flarvo.decision;

import flarvo.dispatch.Delivery;
import flarvo.report.InputError;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What goes to whom. */
public sealed interface DispatchDecision extends Decision {

  @Override
  default boolean changesTheShot() {
    return false;
  }

  /** Adds a delivery at the end of the board. */
  @DecisionCode("add-delivery")
  record AddDelivery(Delivery delivery) implements DispatchDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      List<Delivery> d = new ArrayList<>(s.deliveries());
      d.add(delivery);
      return Applied.whole(s.withDeliveries(d));
    }

    @Override
    public String title() {
      return "add delivery " + delivery.name();
    }
  }

  /**
   * Removes a delivery.
   *
   * @param index its row on the board, from 0
   */
  @DecisionCode("remove-delivery")
  record RemoveDelivery(int index, String name) implements DispatchDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      List<Delivery> d = new ArrayList<>(s.deliveries());
      d.remove(row(d, index, name));
      return Applied.whole(s.withDeliveries(d));
    }

    @Override
    public String title() {
      return "remove delivery " + name;
    }
  }

  /**
   * Puts another delivery in the place of one.
   *
   * @param index its row on the board, from 0
   * @param what is different, for the title
   */
  @DecisionCode("change-delivery")
  record ChangeDelivery(int index, String name, Delivery to, String what)
      implements DispatchDecision {
    /** The name stays. */
    public ChangeDelivery(int index, Delivery to, String what) {
      this(index, to.name(), to, what);
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      List<Delivery> d = new ArrayList<>(s.deliveries());
      d.set(row(d, index, name), to);
      return Applied.whole(s.withDeliveries(d));
    }

    @Override
    public String title() {
      return "change " + what + " of " + to.name();
    }
  }

  /** The row of that name: the one meant, or the only one elsewhere. */
  private static int row(List<Delivery> all, int index, String name) {
    if (index >= 0 && index < all.size() && all.get(index).name().equals(name)) {
      return index;
    }
    for (int i = 0; i < all.size(); i++) {
      if (all.get(i).name().equals(name)) {
        return i;
      }
    }
    throw InputError.words("delivery " + name + " not found", "Choose another delivery");
  }
}
