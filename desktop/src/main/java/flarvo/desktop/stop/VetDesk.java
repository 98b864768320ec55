package flarvo.desktop.stop;

import flarvo.desktop.session.Session;
import flarvo.vet.Reprojection;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Slider;
import javafx.scene.layout.VBox;

/** How good the solve is: error in pixels, this frame, and the trackers that spoil it. */
public final class VetDesk extends Desk {

  private static final int WORST = 12;

  private final Session session;
  private final Label all = number("");
  private final Label frame = number("");
  private final Label live = number("");
  private final Label over = number("");
  private final VBox worst = new VBox(1);

  public VetDesk(Session session) {
    super("Vet");
    this.session = session;
    Slider stretch = slider("Whiskers", 1, 50, session.view().whiskers());
    Label times = number("");
    session.view().whiskers().addListener((o, a, b) -> times.setText(format(b.doubleValue())));
    times.setText(format(session.view().whiskers().get()));
    Slider limit = slider("Limit in pixels", 0.1, 5, session.view().errorLimitPx());
    Label px = number("");
    session
        .view()
        .errorLimitPx()
        .addListener(
            (o, a, b) -> px.setText(String.format(Locale.ROOT, "%.2f px", b.doubleValue())));
    px.setText(String.format(Locale.ROOT, "%.2f px", session.view().errorLimitPx().get()));
    getChildren()
        .addAll(
            heading("Reprojection error"),
            row("whole shot, RMS", all),
            row("this frame, RMS", frame),
            row("live here", live),
            row("trackers over limit", over),
            heading("Drawing"),
            row("Whiskers", times),
            stretch,
            row("Limit", px),
            limit,
            heading("Worst trackers"),
            worst);
    session.errors().addListener((o, a, b) -> fill());
    session.view().errorLimitPx().addListener((o, a, b) -> fill());
    session.playhead().frame().addListener((o, a, b) -> frame());
    fill();
  }

  private static String format(double stretch) {
    return String.format(Locale.ROOT, "× %.0f", stretch);
  }

  private static Slider slider(
      String name, double lo, double hi, javafx.beans.property.DoubleProperty value) {
    Slider s = new Slider(lo, hi, value.get());
    s.setAccessibleText(name);
    s.valueProperty().bindBidirectional(value);
    return s;
  }

  private void frame() {
    Reprojection r = session.errors().get();
    int f = session.playhead().frame().get();
    if (r == null || !r.frames().contains(f)) {
      frame.setText("–");
      live.setText("–");
      return;
    }
    frame.setText(String.format(Locale.ROOT, "%.3f px", r.frameRmsPx(f)));
    live.setText(Integer.toString(r.live(f)));
  }

  private void fill() {
    Reprojection r = session.errors().get();
    worst.getChildren().clear();
    frame();
    if (r == null) {
      say("There are no 2D tracks to measure the solve with. Bring them in beside the solve.");
      all.setText("–");
      over.setText("–");
      return;
    }
    double limit = session.view().errorLimitPx().get();
    List<String> names =
        session.shot().get().trackers().stream()
            .flatMap(t -> t.names().stream())
            .filter(n -> !Double.isNaN(r.trackerRmsPx(n)))
            .sorted(Comparator.comparingDouble(r::trackerRmsPx).reversed())
            .toList();
    long bad = names.stream().filter(n -> r.trackerRmsPx(n) > limit).count();
    all.setText(String.format(Locale.ROOT, "%.3f px", r.rmsPx()));
    over.setText(bad + " of " + names.size());
    say(
        bad == 0
            ? "Every tracker is within the limit."
            : bad
                + " trackers are over the limit and pull the whole shot's error up. Dropping and"
                + " refining are not built yet; look at them here.");
    for (String n : names.subList(0, Math.min(WORST, names.size()))) {
      Button b =
          new Button(
              String.format(
                  Locale.ROOT,
                  "%-6s %7.2f px  max %7.2f",
                  n,
                  r.trackerRmsPx(n),
                  r.trackerMaxPx(n)));
      b.getStyleClass().addAll("number", "row-button");
      b.setMaxWidth(Double.MAX_VALUE);
      b.setOnAction(
          e -> {
            session.selection().clear();
            session.selection().add(n);
            int row = session.shot().get().observations().firstRow(n);
            if (session.shot().get().observations().row(n, session.playhead().frame().get()) < 0) {
              session.playhead().goTo(session.shot().get().observations().frame(row));
            }
          });
      worst.getChildren().add(b);
    }
  }
}
