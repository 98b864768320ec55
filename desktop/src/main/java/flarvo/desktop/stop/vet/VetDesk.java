package flarvo.desktop.stop.vet;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.scene.FrameRange;
import flarvo.vet.Coverage;
import flarvo.vet.Measures;
import flarvo.vet.Reprojection;
import flarvo.vet.SolveKind;
import flarvo.vet.Vetting;
import java.util.List;
import java.util.Locale;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.IntegerProperty;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.Slider;
import javafx.scene.control.TextField;

/** How good the solve is, and what makes it better, in the order of work. */
public final class VetDesk extends Desk {

  /** A field of the picture is worth a word when it is empty for this share of the shot. */
  private static final double HOLE = 0.5;

  private static final double MOST_LIMIT_PX = 1000;

  private final Session session;
  private final VetWork vet;
  private final Label all = number("");
  private final Label frame = number("");
  private final Label live = number("");
  private final Label over = number("");
  private final Label cover = number("");
  private final Label kind = wrapped();
  private final Label hole = wrapped();
  private final Label jumps = wrapped();
  private final Label came = wrapped();
  private final Button back = new Button("Revert to received solve");

  public VetDesk(Session session, VetWork vet) {
    super("Vet");
    this.session = session;
    this.vet = vet;
    back.getStyleClass().add("small-button");
    back.setId("solve-as-came");
    back.setOnAction(e -> vet.revertSolve());
    Button table = new Button("Tracker table");
    table.setId("show-table");
    table.getStyleClass().add("small-button");
    table.setOnAction(e -> session.view().tableShown().set(!session.view().tableShown().get()));
    getChildren()
        .addAll(
            row("error, RMS", all),
            row("this frame, RMS", frame),
            row("live this frame", live),
            row("trackers over limit", over),
            row("frame coverage", cover),
            kind,
            hole,
            jumps,
            came,
            back,
            table,
            new CullPart(session, vet),
            new RefinePart(session, vet),
            new PathPart(session, vet),
            new ExtraPointPart(session, vet),
            new GroupPart(session, vet),
            heading("Drawing"),
            row("Limit, typed", limit()));
    slider("Limit", 0.05, 5, session.view().errorLimitPx(), "%.2f px");
    slider("Whiskers", 1, 50, session.view().whiskers(), "× %.0f");
    trails(session.view().trails());
    CheckBox rings = new CheckBox("Scale rings by error");
    rings.selectedProperty().bindBidirectional(session.view().errorRings());
    getChildren().add(rings);
    session.errors().addListener((o, a, b) -> fill());
    vet.measures().addListener((o, a, b) -> fill());
    vet.kind().addListener((o, a, b) -> fill());
    session.view().errorLimitPx().addListener((o, a, b) -> fill());
    session.ledger().addListener((o, a, b) -> fill());
    session.playhead().frame().addListener((o, a, b) -> frame());
    fill();
  }

  private static void text(Label l, String words) {
    l.setText(words);
    l.setVisible(!words.isEmpty());
    l.setManaged(!words.isEmpty());
  }

  private void slider(String name, double lo, double hi, DoubleProperty value, String format) {
    Slider s = new Slider(lo, hi, value.get());
    s.valueProperty().bindBidirectional(value);
    Label now = number(String.format(Locale.ROOT, format, value.get()));
    value.addListener(
        (o, a, b) -> now.setText(String.format(Locale.ROOT, format, b.doubleValue())));
    getChildren().addAll(row(name, now), s);
    s.setAccessibleText(name);
  }

  /** The graph's line can be dragged too; all three are one number. */
  private TextField limit() {
    DoubleProperty px = session.view().errorLimitPx();
    TextField f =
        Fields.small("error-limit", "", "Limit of the error in pixels, as the graph's line", 78);
    Runnable show = () -> f.setText(String.format(Locale.ROOT, "%.2f px", px.get()));
    show.run();
    px.addListener((o, a, b) -> show.run());
    f.setOnAction(
        e -> {
          String t = f.getText().trim().replaceAll("\\s*px$", "");
          if (t.matches("[0-9]*\\.?[0-9]+") && Double.parseDouble(t) > 0) {
            px.set(Math.min(MOST_LIMIT_PX, Double.parseDouble(t)));
          } else {
            session.message().set("A limit is a number of pixels over 0, such as 0.8");
          }
          show.run();
        });
    return f;
  }

  private void trails(IntegerProperty value) {
    Slider s = new Slider(0, 40, value.get());
    s.setAccessibleText("Trails, frames before and after");
    s.valueProperty().addListener((o, a, b) -> value.set((int) Math.round(b.doubleValue())));
    Label now = number("± " + value.get());
    value.addListener(
        (o, a, b) -> {
          now.setText("± " + b);
          if (Math.round(s.getValue()) != b.intValue()) {
            s.setValue(b.intValue());
          }
        });
    getChildren().addAll(row("Trails", now), s);
  }

  private void frame() {
    Reprojection r = session.errors().get();
    int f = session.playhead().frame().get();
    if (r == null || session.hasOpenClaims() || !r.frames().contains(f) || r.live(f) == 0) {
      frame.setText("–");
      live.setText(r == null ? "–" : "0");
      return;
    }
    frame.setText(String.format(Locale.ROOT, "%.3f px", r.frameRmsPx(f)));
    live.setText(Integer.toString(r.live(f)));
  }

  private void fill() {
    frame();
    Reprojection r = session.errors().get();
    Measures m = vet.measures().get();
    SolveKind k = vet.kind().get();
    Vetting v = vet.vetting();
    text(kind, k == null ? "" : k.reason());
    text(came, v.solve().map(s -> "Current solve: " + s.how() + ".").orElse(""));
    back.setVisible(v.solve().isPresent());
    back.setManaged(v.solve().isPresent());
    if (r == null) {
      say("No 2D tracks to measure against. Add them.");
      all.setText("–");
      over.setText("–");
      cover.setText("–");
      text(hole, "");
      text(jumps, "");
      return;
    }
    if (session.hasOpenClaims()) {
      say(
          "Settle the claims in Receive first. Until then, errors say how the files were read and"
              + " not how good the solve is.");
      all.setText("–");
      over.setText("–");
      cover.setText("–");
      text(hole, "");
      text(jumps, "");
      return;
    }
    all.setText(String.format(Locale.ROOT, "%.3f px", r.rmsPx()));
    if (m == null) {
      say("Measuring the solve…");
      return;
    }
    int bad = m.over(session.view().errorLimitPx().get());
    over.setText(bad + " of " + m.trackers().size());
    cover.setText(String.format(Locale.ROOT, "%.0f%%", 100 * m.cover().meanShare()));
    List<Coverage.Hole> holes = m.cover().holes((int) (HOLE * r.frames().count()));
    text(
        hole,
        holes.isEmpty()
            ? ""
            : "No trackers in the " + holes.get(0).where() + " in " + holes.get(0).frames() + ".");
    List<Integer> out = m.jumps().outliers();
    text(jumps, out.isEmpty() ? "" : "The path jumps at " + listed(out) + ".");
    say(verdict(r, bad));
  }

  private static String listed(List<Integer> frames) {
    String s =
        frames.stream().limit(6).map(Object::toString).reduce((a, b) -> a + ", " + b).orElse("");
    return frames.size() > 6 ? s + " and " + (frames.size() - 6) + " more" : s;
  }

  private String verdict(Reprojection r, int bad) {
    FrameRange f = r.frames();
    int thin = 0;
    for (int i = f.first(); i <= f.last(); i++) {
      thin += r.live(i) < vet.fewest().get() ? 1 : 0;
    }
    String few =
        thin == 0
            ? ""
            : " "
                + thin
                + (thin == 1 ? " frame has" : " frames have")
                + " fewer than "
                + vet.fewest().get()
                + " live trackers.";
    if (bad == 0 && r.rmsPx() <= session.view().errorLimitPx().get()) {
      return "All trackers within limit. Ready to deliver." + few;
    }
    return bad
        + (bad == 1 ? " tracker is" : " trackers are")
        + " over the limit. Cull outliers, refine, and check again; or use Cull and refine."
        + few;
  }
}
