package flarvo.desktop.stop.proof;

import flarvo.desktop.state.SendState;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.TextCopy;
import flarvo.dispatch.Delivery;
import flarvo.proof.Check;
import flarvo.proof.DriftReport;
import flarvo.proof.ProofReport;
import flarvo.report.Note;
import java.io.File;
import java.util.Locale;
import javafx.collections.MapChangeListener;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The evidence for one delivery: drift, and every check with what was expected and found. */
public final class ProofDesk extends Desk {

  private final Session session;
  private final ComboBox<String> delivery = new ComboBox<>();
  private final Label max = number("–");
  private final Label rms = number("–");
  private final Label worst = number("–");
  private final VBox checks = new VBox();
  private final VBox losses = new VBox(4);
  private final SuspectPart suspects;
  private boolean filling;

  public ProofDesk(Session session) {
    super("Proof");
    this.session = session;
    suspects = new SuspectPart(session);
    delivery.setPrefWidth(186);
    delivery.getStyleClass().add("small-field");
    delivery.setOnAction(e -> choose());
    max.setId("max-drift");
    max.getStyleClass().add("figure");
    Button worstFrame = new Button("Go to worst frame");
    worstFrame.getStyleClass().add("small-button");
    worstFrame.setOnAction(e -> goToWorst());
    Button copy = new Button("Copy as text");
    copy.getStyleClass().add("small-button");
    copy.setOnAction(e -> copy());
    worstFrame.setMinWidth(Region.USE_PREF_SIZE);
    copy.setMinWidth(Region.USE_PREF_SIZE);
    getChildren()
        .addAll(
            row("Delivery", delivery),
            heading("Drift, read back from disk"),
            row("largest", max),
            row("RMS", rms),
            row("worst", worst),
            new HBox(8, worstFrame, copy),
            suspects,
            heading("Checks"),
            checks,
            heading("Lost or changed"),
            losses);
    // A project that is dropped elsewhere is opened; on this desk a file is checked.
    setOnDragOver(
        e -> {
          if (e.getDragboard().hasFiles() && session.isOpen()) {
            e.acceptTransferModes(TransferMode.COPY);
            e.consume();
          }
        });
    setOnDragDropped(
        e -> {
          if (session.isOpen()) {
            suspects.check(e.getDragboard().getFiles().stream().map(File::toPath).toList());
            e.setDropCompleted(true);
            e.consume();
          }
        });
    session.chosen().addListener((o, a, b) -> fill());
    session.state().addListener((o, a, b) -> fill());
    session.sending().states().addListener((MapChangeListener<Object, Object>) c -> fill());
    fill();
  }

  /** Of the chosen delivery; null where it was not sent. */
  ProofReport proof() {
    Delivery d = session.chosen().get();
    SendState s = d == null ? null : session.sending().states().get(d);
    return s == null ? null : s.proof().orElse(null);
  }

  private void choose() {
    int i = delivery.getSelectionModel().getSelectedIndex();
    if (!filling && i >= 0) {
      session.chosen().set(session.state().get().deliveries().get(i));
    }
  }

  void goToWorst() {
    ProofReport p = proof();
    if (p != null && p.drift().isPresent()) {
      DriftReport d = p.drift().get();
      session.playhead().goTo(d.worstFrame());
      session.selection().clear();
      session.selection().add(d.worstTracker());
    }
  }

  void copy() {
    ProofReport p = proof();
    if (p == null) {
      return;
    }
    StringBuilder s = new StringBuilder(p.sentence()).append('\n');
    for (Check c : p.checks()) {
      s.append(c.holds() ? "PASS" : "FAIL").append('\t').append(c.name()).append('\t');
      s.append(c.expected()).append('\t').append(c.found()).append('\n');
    }
    TextCopy.copy(session, "Proof", s.toString());
  }

  private void fill() {
    filling = true;
    checks.getChildren().clear();
    losses.getChildren().clear();
    if (!session.isOpen()) {
      delivery.getItems().clear();
      say("No shot open. A proof needs a sent delivery.");
      filling = false;
      return;
    }
    delivery
        .getItems()
        .setAll(session.state().get().deliveries().stream().map(Delivery::name).toList());
    Delivery now = session.chosen().get();
    if (now != null) {
      delivery.getSelectionModel().select(session.state().get().deliveries().indexOf(now));
    }
    filling = false;
    ProofReport p = proof();
    if (p == null || p.drift().isEmpty()) {
      max.setText("–");
      rms.setText("–");
      worst.setText("–");
      say(
          session.chosen().get() == null
              ? "No deliveries. Add one in Dispatch."
              : "This delivery has not been sent. Send it in Dispatch; the proof is made from"
                  + " the file on disk.");
      return;
    }
    DriftReport d = p.drift().get();
    max.setText(String.format(Locale.ROOT, "%.6f px", d.maxPx()));
    rms.setText(String.format(Locale.ROOT, "%.6f px", d.rmsPx()));
    worst.setText(d.worstTracker() + " at " + d.worstFrame());
    say(
        "The delivery "
            + p.sentence()
            + ". Rings are the source, crosses the recipient; "
            + d.compared()
            + " projections were compared.");
    p.checks().forEach(c -> checks.getChildren().add(line(c)));
    for (Note n : p.losses()) {
      Label l = new Label(n.kind().word() + ": " + n);
      l.setWrapText(true);
      l.getStyleClass().add("note");
      losses.getChildren().add(l);
    }
    if (p.losses().isEmpty()) {
      losses.getChildren().add(new Label("Nothing."));
    }
  }

  private static HBox line(Check c) {
    Label mark = new Label(c.holds() ? "✓" : "×");
    mark.setMinWidth(16);
    mark.getStyleClass().add(c.holds() ? "holds" : "over");
    Label name = new Label(words(c.name()));
    name.setMinWidth(112);
    name.getStyleClass().add("quiet");
    Label found = number(c.holds() ? c.found() : c.found() + ", not " + c.expected());
    found.setMinWidth(40);
    found.setTooltip(new Tooltip("expected " + c.expected() + ", found " + c.found()));
    HBox row = new HBox(4, mark, name, found);
    row.setMinHeight(Region.USE_PREF_SIZE);
    row.setAccessibleText(
        words(c.name()) + (c.holds() ? " holds, " : " does not hold, ") + c.found());
    return row;
  }

  /** {@code firstFrame} as people write it. */
  private static String words(String name) {
    return name.replaceAll("([A-Z])", " $1").toLowerCase(Locale.ROOT);
  }
}
