package flarvo.desktop.session;

import flarvo.convention.Dialect;
import flarvo.decision.ShotState;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.proof.Proof;
import flarvo.proof.ProofReport;
import flarvo.scene.Shot;
import java.nio.file.Path;
import java.util.Optional;
import javafx.collections.FXCollections;
import javafx.collections.ObservableMap;

/** Deliveries on their way out: written beside the window, read back and proven. */
public final class DeliveryRunner {

  private final Session session;
  private final ObservableMap<Delivery, SendState> states = FXCollections.observableHashMap();

  DeliveryRunner(Session session) {
    this.session = session;
  }

  /** How far each delivery is; none where it was not sent since the shot changed. */
  public ObservableMap<Delivery, SendState> states() {
    return states;
  }

  /** Folder that deliveries are written into. */
  public Path deliveryFolder() {
    Path base = session.project().map(p -> p.folder()).orElse(Path.of("").toAbsolutePath());
    return base.resolve("deliveries");
  }

  public void sendAll() {
    if (session.state().get() != null) {
      session.state().get().deliveries().forEach(this::send);
    }
  }

  /** Writes a delivery in the background, reads it back and proves it. */
  @SuppressWarnings("ReferenceEquality")
  public void send(Delivery delivery) {
    SendState now = states.get(delivery);
    if (now != null && now.stage() == SendState.Stage.SENDING) {
      return;
    }
    ShotState from = session.state().get();
    Shot shot = from.staged();
    Path file = deliveryFolder().resolve(delivery.fileName());
    states.put(delivery, SendState.sending());
    session
        .jobs()
        .run(
            "Sending " + delivery.name(),
            p -> {
              Dispatcher.Sent sent = Dispatcher.send(shot, delivery, file, p);
              Dialect to = delivery.dialect();
              ProofReport proof = Proof.of(shot, file, to, ProofReport.USUAL_LIMIT_PX, p);
              return new SendState(
                  SendState.Stage.SENT,
                  proof.sentence(),
                  Optional.of(sent),
                  Optional.of(proof),
                  Proof.seenByRecipient(shot, file, to, p));
            },
            done -> {
              // A change of the shot meanwhile makes this result one of the past.
              if (session.state().get().shot() == from.shot()
                  && session.state().get().staging().equals(from.staging())) {
                states.put(delivery, done);
              }
              session.message().set(delivery.name() + " " + done.message());
              session.happened(delivery.name() + " " + done.message());
            },
            why -> {
              states.put(delivery, SendState.failed(why));
              session.message().set(why);
            });
  }
}
