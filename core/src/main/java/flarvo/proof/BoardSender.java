package flarvo.proof;

import flarvo.dispatch.Delivery;
import flarvo.dispatch.Outgoing;
import flarvo.plate.match.PlateCheck;
import flarvo.report.InputError;
import flarvo.work.Cancelled;
import flarvo.work.ParallelProgress;
import flarvo.work.Progress;
import flarvo.work.Workers;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;

/** Sends several deliveries of a shot, some of them at once, and proves each from its file. */
public final class BoardSender {

  /** How many are written or proven at once: each keeps what it reads back in memory until then. */
  public static final int AT_ONCE = 2;

  /**
   * @param file of its own: no two are to share one, nor what lies beside it
   */
  public record Order(Delivery delivery, Path file) {}

  /**
   * @param handover empty where the delivery was not written
   * @param why it was not; else empty
   */
  public record Outcome(Optional<Handover> handover, String why) {}

  private BoardSender() {}

  /**
   * Sends what was ordered. One that fails holds none of the others up.
   *
   * @param plates what was measured of the shot's plates
   * @param limitPx largest drift, in pixels of the shot's picture, with which a delivery still
   *     holds
   * @param progress told by several threads
   * @return what became of each, in their order
   * @throws Cancelled when asked to, after all have ended
   */
  public static List<Outcome> send(
      Outgoing from,
      List<Order> orders,
      double limitPx,
      List<PlateCheck> plates,
      Progress progress) {
    ParallelProgress all = new ParallelProgress(progress, orders.size());
    List<Callable<Optional<Outcome>>> tasks = new ArrayList<>();
    for (Order o : orders) {
      Progress part = all.part(tasks.size());
      tasks.add(
          () -> {
            try {
              return Optional.of(one(from, o, limitPx, plates, part));
            } catch (Cancelled e) {
              return Optional.empty();
            }
          });
    }
    List<Optional<Outcome>> ended = Workers.all(AT_ONCE, "sender", tasks);
    return ended.stream().map(o -> o.orElseThrow(Cancelled::new)).toList();
  }

  private static Outcome one(
      Outgoing from, Order o, double limitPx, List<PlateCheck> plates, Progress progress) {
    if (progress.isCancelled()) {
      throw new Cancelled();
    }
    try {
      Files.createDirectories(o.file().getParent());
      Handover h = Handover.send(from, o.delivery(), o.file(), limitPx, plates, progress);
      progress.at(1, 1);
      return new Outcome(Optional.of(h), "");
    } catch (InputError e) {
      return new Outcome(Optional.empty(), e.getMessage());
    } catch (IOException e) {
      String why = "its folder cannot be made: " + e.getMessage();
      return new Outcome(Optional.empty(), why);
    }
  }
}
