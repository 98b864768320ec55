package flarvo.desktop.stop.proof;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.proof.DriftReport;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;

/** How far what is compared is off, with the worst frames to go to, and the limit. */
final class DriftPart extends VBox {

  private static final int WORST = 4;

  private final Session session;
  private final ProofWork work;
  private final Label max = Desk.number("–");
  private final Label rms = Desk.number("–");
  private final TextField limit = Fields.small("proof-limit", "", "Largest drift in pixels", 72);
  private final VBox worst = new VBox(0);

  DriftPart(Session session, ProofWork work) {
    super(6);
    this.session = session;
    this.work = work;
    max.setId("max-drift");
    max.getStyleClass().add("figure");
    worst.setId("worst-frames");
    limit.setOnAction(e -> typed());
    getChildren()
        .addAll(
            Desk.heading("Drift, read back from disk"),
            Desk.row("Largest", max),
            Desk.row("RMS", rms),
            Desk.row("Limit (px)", limit),
            worst);
    work.now().addListener((o, a, b) -> fill());
    session.view().proofLimitPx().addListener((o, a, b) -> fill());
    fill();
  }

  private void typed() {
    OptionalDouble v = Fields.number(session, limit, "drift in pixels");
    if (v.isPresent() && v.getAsDouble() > 0) {
      session.view().proofLimitPx().set(v.getAsDouble());
      session.sending().proveAgain();
    } else if (v.isPresent()) {
      session.message().set("The limit is a number of pixels over zero");
    }
    fill();
  }

  Optional<DriftReport> drift() {
    Compared c = work.now().get();
    return c == null ? Optional.empty() : c.drift().filter(d -> d.compared() > 0);
  }

  void goToWorst() {
    drift().ifPresent(d -> goTo(d, d.worstFrame()));
  }

  private void goTo(DriftReport d, int frame) {
    session.playhead().goTo(frame);
    session.selection().clear();
    session.selection().add(d.worstTracker(frame));
  }

  private void fill() {
    limit.setText(plain(session.view().proofLimitPx().get()));
    worst.getChildren().clear();
    Optional<DriftReport> d = drift();
    max.setText(d.map(x -> px(x.maxPx())).orElse("–"));
    rms.setText(d.map(x -> px(x.rmsPx())).orElse("–"));
    boolean over = d.map(x -> !(x.maxPx() <= session.view().proofLimitPx().get())).orElse(false);
    max.getStyleClass().remove("over");
    if (over) {
      max.getStyleClass().add("over");
    }
    d.ifPresent(this::list);
  }

  private void list(DriftReport d) {
    for (int f : d.worstFrames(WORST)) {
      Button link =
          new Button(
              String.format(Locale.ROOT, "frame %d  %s  %s", f, d.worstTracker(f), px(d.maxPx(f))));
      link.getStyleClass().addAll("row-button", "number");
      link.setAccessibleText("Go to frame " + f);
      link.setOnAction(e -> goTo(d, f));
      link.setMaxWidth(Double.MAX_VALUE);
      worst.getChildren().add(link);
    }
  }

  private static String px(double v) {
    return Double.isInfinite(v)
        ? "behind the camera"
        : String.format(Locale.ROOT, v >= 10 ? "%.2f px" : "%.6f px", v);
  }

  private static String plain(double v) {
    return String.format(Locale.ROOT, "%.6f", v).replaceAll("0+$", "").replaceAll("\\.$", "");
  }
}
