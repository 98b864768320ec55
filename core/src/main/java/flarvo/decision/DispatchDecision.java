package flarvo.decision;

import flarvo.dispatch.Delivery;
import flarvo.format.FileNames;
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
   * Adds several deliveries at the end of the board, such as a saved board or that of another shot.
   * A name that is taken gets a number.
   *
   * @param from where they come from, for the title
   */
  @DecisionCode("add-board")
  record AddBoard(String from, List<Delivery> deliveries) implements DispatchDecision {
    public AddBoard {
      deliveries = List.copyOf(deliveries);
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      List<Delivery> all = new ArrayList<>(s.deliveries());
      FileNames names = new FileNames();
      all.forEach(d -> names.unique(d.name()));
      deliveries.forEach(d -> all.add(d.withName(names.unique(d.name()))));
      return Applied.whole(s.withDeliveries(all));
    }

    @Override
    public String title() {
      return "add " + from;
    }
  }

  /**
   * Puts other deliveries in the place of several: one change of many rows.
   *
   * @param names of those that are replaced, which keep their names
   * @param to as many deliveries
   * @param what is different, for the title
   */
  @DecisionCode("change-deliveries")
  record ChangeDeliveries(List<String> names, List<Delivery> to, String what)
      implements DispatchDecision {
    public ChangeDeliveries {
      names = List.copyOf(names);
      to = List.copyOf(to);
      if (names.size() != to.size() || names.isEmpty()) {
        throw new IllegalArgumentException(
            names.size() + " names for " + to.size() + " deliveries");
      }
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      List<Delivery> d = new ArrayList<>(s.deliveries());
      for (int i = 0; i < to.size(); i++) {
        d.set(row(d, -1, names.get(i)), to.get(i));
      }
      return Applied.whole(s.withDeliveries(d));
    }

    @Override
    public String title() {
      return "change " + what + " of " + to.size() + " deliveries";
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

  /** Whether the files of this shot are watched, whatever the user prefers elsewhere. */
  @DecisionCode("watch-files")
  record WatchFiles(boolean watch) implements DispatchDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(s.withWatched(watch));
    }

    @Override
    public String title() {
      return watch ? "watch the shot's files" : "stop watching the shot's files";
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
