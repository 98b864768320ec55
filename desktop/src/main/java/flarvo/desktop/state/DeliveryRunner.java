package flarvo.desktop.state;

import flarvo.decision.ShotState;
import flarvo.desktop.work.Lane;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.DeliveryPlace;
import flarvo.plate.match.PlateCheck;
import flarvo.proof.Handover;
import flarvo.proof.ProofReport;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.collections.FXCollections;
import javafx.collections.ObservableMap;

/** Deliveries on their way out: written beside the window, read back and proven. */
public final class DeliveryRunner {

  private final Session session;
  private final ObservableMap<Delivery, SendState> states = FXCollections.observableHashMap();

  private final MeasuredPlates.Memo plates = new MeasuredPlates.Memo();

  DeliveryRunner(Session session) {
    this.session = session;
  }

  /** How far each delivery is; none where it was not sent since the shot changed. */
  public ObservableMap<Delivery, SendState> states() {
    return states;
  }

  /** Folder that deliveries are written into. */
  public Path deliveryFolder() {
    Path base = session.project().file().map(p -> p.folder()).orElse(Path.of("").toAbsolutePath());
    return base.resolve("deliveries");
  }

  public void sendAll() {
    if (!session.isOpen()) {
      session.message().set("No shot open");
    } else if (session.state().get().deliveries().isEmpty()) {
      session.message().set("No deliveries yet; add one in Dispatch");
    }
    session.state().get().deliveries().forEach(this::send);
  }

  /** Writes a delivery in the background, reads it back and proves it. */
  public void send(Delivery delivery) {
    SendState now = states.get(delivery);
    if (now != null && now.stage() == SendState.Stage.SENDING) {
      return;
    }
    ShotState from = session.state().get();
    Path folder = deliveryFolder();
    Worked<List<PlateCheck>> shown = session.store().now().get().get(MeasuredPlates.SLOT);
    Optional<List<PlateCheck>> known =
        shown.current() ? Optional.ofNullable(shown.value()) : Optional.empty();
    SendState sending = SendState.sending();
    states.put(delivery, sending);
    session
        .jobs()
        .run(
            Lane.SEND,
            "Sending " + delivery.name(),
            p ->
                SendState.sent(
                    Handover.send(
                        from.staged(),
                        delivery,
                        DeliveryPlace.in(folder, delivery.fileName()),
                        ProofReport.USUAL_LIMIT_PX,
                        known.orElseGet(() -> plates.of(MeasuredPlates.Input.of(from), p)),
                        p)),
            done -> finished(delivery, sending, done),
            why -> finished(delivery, sending, SendState.failed(why)));
  }

  /** What became of a shot that was changed meanwhile says nothing of the present one. */
  @SuppressWarnings("ReferenceEquality") // the state of this very sending, which a change clears
  private void finished(Delivery delivery, SendState sending, SendState became) {
    boolean current = states.get(delivery) == sending;
    String said =
        delivery.name()
            + " "
            + became.message()
            + (current ? "" : " (of the shot as it was before its last change)");
    if (current) {
      states.put(delivery, became);
    }
    session.message().set(said);
    session.project().happened(said);
  }
}
