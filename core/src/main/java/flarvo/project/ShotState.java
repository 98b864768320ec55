package flarvo.project;

import flarvo.dispatch.Delivery;
import flarvo.scene.Shot;
import java.util.List;

/** A shot and what is to be sent of it; every change is a {@link ShotEdit}. */
public record ShotState(Shot shot, List<Delivery> deliveries) {

  public ShotState {
    deliveries = List.copyOf(deliveries);
  }

  public ShotState withShot(Shot s) {
    return new ShotState(s, deliveries);
  }

  public ShotState withDeliveries(List<Delivery> d) {
    return new ShotState(shot, d);
  }
}
