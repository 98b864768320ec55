package flarvo.project;

import flarvo.dispatch.Delivery;
import flarvo.scene.Rate;
import flarvo.scene.Similarity;
import java.util.ArrayList;
import java.util.List;

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

  /** Lays the solve's first frame on a plate frame. */
  record RuleFirstFrame(int plateFrame) implements ShotEdit {
    @Override
    public ShotState apply(ShotState s) {
      return s.withShot(s.shot().startingAt(plateFrame));
    }

    @Override
    public String title() {
      return "first frame is " + plateFrame;
    }
  }

  record RuleRate(Rate rate) implements ShotEdit {
    @Override
    public ShotState apply(ShotState s) {
      return s.withShot(s.shot().withRate(rate));
    }

    @Override
    public String title() {
      return "rate is " + rate.display();
    }
  }

  record SetLevel(Similarity level) implements ShotEdit {
    @Override
    public ShotState apply(ShotState s) {
      return s.withShot(s.shot().withLevel(level));
    }

    @Override
    public String title() {
      return "set level";
    }
  }
}
