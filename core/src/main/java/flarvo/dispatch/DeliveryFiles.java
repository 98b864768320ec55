package flarvo.dispatch;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** The files that a delivery is made of. */
public final class DeliveryFiles {

  private DeliveryFiles() {}

  /**
   * The delivery's own file first, then those that its format writes beside it, then what else lies
   * beside it; whether they are there or not.
   */
  public static List<Path> of(Outgoing from, Delivery d, Path file) {
    List<Path> all = new ArrayList<>(List.of(file));
    all.addAll(beside(from, d, file));
    return all;
  }

  /** The same without the delivery's own file. */
  public static List<Path> beside(Outgoing from, Delivery d, Path file) {
    List<Path> all = new ArrayList<>(Dispatcher.companions(from.shot(d.contents()), d, file));
    all.addAll(Sidecars.of(from, d, file).files());
    return all;
  }
}
