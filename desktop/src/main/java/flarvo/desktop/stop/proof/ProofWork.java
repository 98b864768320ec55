package flarvo.desktop.stop.proof;

import flarvo.decision.ShotState;
import flarvo.desktop.state.SendState;
import flarvo.desktop.state.Session;
import flarvo.desktop.work.Lane;
import flarvo.dispatch.Delivery;
import flarvo.proof.ProofReport;
import flarvo.recipient.Foretelling;
import flarvo.recipient.PlainImport;
import flarvo.scene.Shot;
import flarvo.scene.WorldShot;
import java.nio.file.Path;
import java.util.Optional;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.MapChangeListener;

/**
 * What the open shot is compared with at Proof: a delivery, its plain import, or a checked file.
 */
final class ProofWork {

  /** What there is to compare with. */
  enum Against {
    DELIVERY("The delivery"),
    PLAIN_IMPORT("Its plain import"),
    CHECKED("The checked file"),
    MENDED("The same, mended");

    private final String label;

    Against(String label) {
      this.label = label;
    }

    String label() {
      return label;
    }
  }

  private final Session session;
  private final ObjectProperty<Against> against = new SimpleObjectProperty<>(Against.DELIVERY);
  private final ReadOnlyObjectWrapper<Compared> now = new ReadOnlyObjectWrapper<>();
  private final ObjectProperty<Compared> checked = new SimpleObjectProperty<>();
  private final ObjectProperty<Compared> mended = new SimpleObjectProperty<>();
  private SendState imported;
  private Compared plain;
  private ShotState built;
  private WorldShot source;

  ProofWork(Session session) {
    this.session = session;
    session.chosen().addListener((o, a, b) -> follow());
    session.sending().states().addListener((MapChangeListener<Object, Object>) c -> follow());
    against.addListener((o, a, b) -> follow());
    checked.addListener((o, a, b) -> follow());
    mended.addListener((o, a, b) -> follow());
  }

  ObjectProperty<Against> against() {
    return against;
  }

  /** Null where there is nothing. */
  ReadOnlyObjectProperty<Compared> now() {
    return now.getReadOnlyProperty();
  }

  /** A file that somebody sent; null takes it away. */
  ObjectProperty<Compared> checked() {
    return checked;
  }

  /** That file with its cause undone; null where none was found. */
  ObjectProperty<Compared> mended() {
    return mended;
  }

  /** Of the chosen delivery; null where it was not sent. */
  SendState sent() {
    Delivery d = session.chosen().get();
    return d == null ? null : session.sending().states().get(d);
  }

  /** Its proof; null where it was not sent. */
  ProofReport proof() {
    SendState s = sent();
    return s == null ? null : s.proof().orElse(null);
  }

  /** The open shot with what was built on it, levelled; without trackers and observations. */
  @SuppressWarnings("ReferenceEquality") // states never change
  WorldShot geometry() {
    ShotState state = session.state().get();
    if (state != built) {
      built = state;
      Shot staged = state.staged();
      source =
          staged
              .withTrackers(java.util.List.of())
              .withObservations(flarvo.scene.Observations.NONE)
              .levelled();
    }
    return source;
  }

  private void follow() {
    SendState s = sent();
    switch (against.get()) {
      case DELIVERY -> now.set(s == null ? null : asSent(s));
      case PLAIN_IMPORT -> now.set(s == null ? null : plainImport(s));
      case CHECKED -> now.set(checked.get());
      case MENDED -> now.set(mended.get());
    }
  }

  private Compared asSent(SendState s) {
    String name = session.chosen().get().name();
    return s.seen()
        .map(there -> new Compared(name, there, s.proof().flatMap(ProofReport::drift)))
        .orElse(null);
  }

  /** Null until it has been tried; it is tried once for each file that was sent. */
  @SuppressWarnings("ReferenceEquality") // one state a sending
  private Compared plainImport(SendState s) {
    if (s == imported) {
      return plain;
    }
    imported = s;
    plain = null;
    Optional<Path> file = s.sent().map(x -> x.file());
    if (file.isEmpty()) {
      return null;
    }
    Delivery d = session.chosen().get();
    Shot staged = session.state().get().outgoing().shot(d.contents());
    session
        .jobs()
        .run(
            Lane.DECIDE,
            "Importing " + file.get().getFileName() + " with nothing set",
            p -> Foretelling.open(staged, d, file.get(), Foretelling.recipient(d), p),
            r -> imported(s, d, r),
            why -> session.message().set(why));
    return null;
  }

  @SuppressWarnings("ReferenceEquality")
  private void imported(SendState of, Delivery d, PlainImport r) {
    if (of == imported) {
      plain = new Compared(d.name() + ", plain import", r.seen(), r.drift());
      follow();
    }
  }
}
