package flarvo.dispatch;

import flarvo.convention.FrameMap;
import flarvo.motion.Retime;
import flarvo.report.InputError;
import flarvo.scene.Fraction;
import flarvo.scene.FrameRange;
import flarvo.scene.Rate;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;

/** Which frame of a delivery shows which of the plate's: leaving off, retime and dialect in one. */
public final class DeliveryFrames {

  private DeliveryFrames() {}

  /**
   * By plate frame, the recipient's; a fraction where rates differ, empty where a plate frame is
   * not in the delivery. Of a plate frame that is shown more than once, the first.
   *
   * @param all frames of the shot
   */
  public static IntFunction<Optional<Fraction>> of(Delivery d, FrameRange all, Rate rate) {
    FrameRange sent;
    try {
      sent = d.extract().frames(all);
    } catch (InputError e) {
      return f -> Optional.empty(); // nothing is left
    }
    FrameMap map = d.dialect().frames().mapFor(sent, rate);
    Optional<Retime> retime = d.extract().recast().retime();
    if (retime.isEmpty()) {
      return f -> sent.contains(f) ? Optional.of(map.toRecipient(f)) : Optional.empty();
    }
    Map<Integer, Integer> shown = new HashMap<>();
    for (int f = sent.first(); f <= sent.last(); f++) {
      shown.putIfAbsent((int) Math.round(retime.get().source(f)), f);
    }
    return f -> Optional.ofNullable(shown.get(f)).map(map::toRecipient);
  }
}
