package flarvo.desktop.stop;

import flarvo.desktop.session.Session;
import flarvo.project.ShotEdit;
import flarvo.project.ShotState;
import flarvo.scene.Optics;
import flarvo.scene.PlateSequence;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import java.util.Locale;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;

/** What came in, and the two rulings that can be made so far: first frame and rate. */
public final class ReceiveDesk extends Desk {

  private final Session session;
  private final VBox facts = new VBox(4);
  private final TextField first = field("First plate frame");
  private final TextField rate = field("Rate");

  public ReceiveDesk(Session session) {
    super("Receive");
    this.session = session;
    first.setId("rule-first");
    rate.setId("rule-rate");
    first.setOnAction(e -> ruleFirst());
    rate.setOnAction(e -> ruleRate());
    getChildren()
        .addAll(
            heading("Rulings"),
            row("First plate frame", first),
            row("Rate", rate),
            heading("What came in"),
            facts);
    session.state().addListener((o, a, b) -> fill());
    session.loading().addListener((o, a, b) -> fill());
    session.problem().addListener((o, a, b) -> fill());
    fill();
  }

  private static TextField field(String name) {
    TextField f = new TextField();
    f.getStyleClass().addAll("number", "small-field");
    f.setPrefColumnCount(11);
    f.setAccessibleText(name);
    return f;
  }

  private void ruleFirst() {
    try {
      int f = Integer.parseInt(first.getText().trim());
      first.getStyleClass().remove("bad");
      if (f != session.state().get().shot().frames().first()) {
        session.apply(new ShotEdit.RuleFirstFrame(f));
      }
    } catch (NumberFormatException e) {
      bad(first, "'" + first.getText() + "' is no frame; type a whole number such as 1001");
    }
  }

  private void ruleRate() {
    try {
      Rate r = Rate.parse(rate.getText());
      rate.getStyleClass().remove("bad");
      if (!r.equals(session.state().get().shot().rate())) {
        session.apply(new ShotEdit.RuleRate(r));
      }
    } catch (IllegalArgumentException e) {
      bad(rate, e.getMessage());
    }
  }

  private void bad(TextField f, String why) {
    if (!f.getStyleClass().contains("bad")) {
      f.getStyleClass().add("bad");
    }
    session.message().set(why);
  }

  private void fill() {
    ShotState s = session.state().get();
    facts.getChildren().clear();
    first.setDisable(s == null);
    rate.setDisable(s == null);
    if (!session.problem().get().isEmpty()) {
      say(session.problem().get());
      return;
    }
    if (s == null) {
      say(
          session.loading().get()
              ? "Reading the files…"
              : "Nothing has come in. Drop a project, or a solve with its tracks and plates, on"
                  + " the window; or start with './flarvo demo'.");
      return;
    }
    Shot shot = s.shot();
    first.setText(Integer.toString(shot.frames().first()));
    rate.setText(shot.rate().toString());
    int offset = shot.frames().first() - shot.sourceFirstFrame();
    say(
        offset == 0
            ? "The solve's file numbers its frames as the plate does."
            : "The solve's file starts at "
                + shot.sourceFirstFrame()
                + "; it is laid on plate frame "
                + shot.frames().first()
                + ", an offset of "
                + (offset > 0 ? "+" : "")
                + offset
                + ".");
    add("frames", shot.frames().toString());
    add("rate", shot.rate().display() + " fps");
    add("picture", shot.picture().toString());
    shot.camera()
        .ifPresent(
            c -> {
              Optics o = c.optics().at(c.frames().first());
              add("camera", c.name());
              add(
                  "film back",
                  String.format(Locale.ROOT, "%.3f × %.3f mm", o.filmWidthMm(), o.filmHeightMm()));
              add("focal length", String.format(Locale.ROOT, "%.3f mm", o.focalLengthMm()));
            });
    add("trackers", Integer.toString(shot.trackerCount()));
    add("2D observations", Integer.toString(shot.observations().size()));
    for (PlateSequence p : shot.plates()) {
      add(p.role().word(), p.pattern());
    }
  }

  private void add(String name, String value) {
    facts.getChildren().add(row(name, number(value)));
  }
}
