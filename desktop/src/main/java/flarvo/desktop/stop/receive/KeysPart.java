package flarvo.desktop.stop.receive;

import flarvo.decision.ReceiveDecision;
import flarvo.decision.ShotState;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Tips;
import flarvo.desktop.work.Lane;
import flarvo.proof.KeySnapEffect;
import flarvo.receive.ReceivedSet;
import java.util.Locale;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.VBox;

/** Keys that lie between frames: how many, and whether they are snapped. */
final class KeysPart extends VBox {

  private final Session session;
  private final Label says = Desk.wrapped();
  private final Button snap = new Button();
  private boolean snapped;

  KeysPart(Session session) {
    super(6);
    this.session = session;
    setId("keys-between");
    says.setId("keys-says");
    snap.setId("snap-keys");
    snap.getStyleClass().add("small-button");
    snap.setMinWidth(USE_PREF_SIZE);
    Tips.on(snap, "The key nearest to a frame, within half of one, counts as if it lay on it");
    snap.setOnAction(e -> decide());
    managedProperty().bind(visibleProperty());
    getChildren().addAll(Desk.heading("Keys"), says, snap);
  }

  /** Shows the open shot. */
  void fill() {
    Optional<ReceivedSet> set = session.state().get().received();
    int between = session.isOpen() ? set.map(ReceivedSet::keysBetweenFrames).orElse(0) : 0;
    setVisible(between > 0);
    if (!isVisible()) {
      return;
    }
    snapped = set.orElseThrow().base().snapKeys();
    String keys = between == 1 ? "1 key of the camera lies" : between + " keys of the camera lie";
    says.setText(
        keys
            + " between frames, "
            + (snapped ? "and are snapped to them." : "and are interpolated on frames."));
    snap.setText(snapped ? "Read keys as they lie" : "Snap keys to frames");
  }

  private void decide() {
    ShotState s = session.state().get();
    ReceivedSet set = s.received().orElseThrow();
    boolean wanted = !snapped;
    session.store().decide(new ReceiveDecision.SnapKeys(wanted));
    session
        .jobs()
        .run(
            Lane.MEASURE,
            "Measuring what snapping does",
            p -> KeySnapEffect.of(set, s.name(), s.rulings(), p),
            d ->
                d.ifPresent(
                    x ->
                        session
                            .message()
                            .set(
                                String.format(
                                    Locale.ROOT,
                                    wanted
                                        ? "Keys snapped: the picture moves by up to %.3f px"
                                        : "Keys as they lie: the picture moves back by up to %.3f"
                                            + " px",
                                    x.maxPx()))),
            session.message()::set);
  }
}
