package flarvo.project;

import flarvo.dispatch.Delivery;
import flarvo.receive.Fact;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.stage.Staging;
import flarvo.vet.Vetting;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** One decision of the user about a shot: a value that turns one state into the next. */
public sealed interface ShotEdit {

  ShotState apply(ShotState state);

  /** What undo and redo call it. */
  String title();

  record AddDelivery(Delivery delivery) implements ShotEdit {
    @Override
    public ShotState apply(ShotState s) {
      List<Delivery> d = new ArrayList<>(s.deliveries());
      d.add(delivery);
      return s.withDeliveries(d);
    }

    @Override
    public String title() {
      return "add delivery " + delivery.name();
    }
  }

  record RemoveDelivery(int index, String name) implements ShotEdit {
    @Override
    public ShotState apply(ShotState s) {
      List<Delivery> d = new ArrayList<>(s.deliveries());
      d.remove(index);
      return s.withDeliveries(d);
    }

    @Override
    public String title() {
      return "remove delivery " + name;
    }
  }

  record ChangeDelivery(int index, Delivery to, String what) implements ShotEdit {
    @Override
    public ShotState apply(ShotState s) {
      List<Delivery> d = new ArrayList<>(s.deliveries());
      d.set(index, to);
      return s.withDeliveries(d);
    }

    @Override
    public String title() {
      return "change " + what + " of " + to.name();
    }
  }

  /**
   * Decides one fact.
   *
   * @param text as it is typed; null takes the ruling back
   */
  record Rule(Fact fact, String text) implements ShotEdit {
    @Override
    public ShotState apply(ShotState s) {
      return s.withRulings(s.rulings().with(fact, text));
    }

    @Override
    public String title() {
      String name = fact.title().toLowerCase(Locale.ROOT);
      return text == null ? "take back the ruling on " + name : name + " is " + text;
    }
  }

  /** Decides many facts in one step, such as all that was proposed. */
  record RuleAll(Rulings rulings) implements ShotEdit {
    @Override
    public ShotState apply(ShotState s) {
      return s.withRulings(rulings);
    }

    @Override
    public String title() {
      return "take all proposals";
    }
  }

  /** Other files, or the same files read otherwise. */
  record Receive(ReceivedSet received, String title) implements ShotEdit {
    @Override
    public ShotState apply(ShotState s) {
      return s.withReceived(received);
    }
  }

  /** A level by hand. */
  record SetLevel(Similarity level, String title) implements ShotEdit {
    public SetLevel(Similarity level) {
      this(level, "set level");
    }

    @Override
    public ShotState apply(ShotState s) {
      return s.withLevel(level);
    }
  }

  /** Other statements, gauges, stand-ins, locators or depths. */
  record Stage(Staging staging, String title) implements ShotEdit {
    @Override
    public ShotState apply(ShotState s) {
      return s.withStaging(staging);
    }
  }

  /** Another solve laid on the one that stands. */
  record LayOn(ReceivedSet received, Shot other, Similarity onto, String title)
      implements ShotEdit {
    @Override
    public ShotState apply(ShotState s) {
      return s.withSolve(received, other, onto);
    }
  }

  /** Other decisions about the solve: what is culled, weighed, refined, mended, marked. */
  record Vet(Vetting vetting, String title) implements ShotEdit {
    @Override
    public ShotState apply(ShotState s) {
      return s.withVetting(vetting);
    }
  }
}
