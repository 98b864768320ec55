package flarvo.desktop.stop.level;

import flarvo.convention.SignedAxis;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.level.LevelReading;
import flarvo.level.Stated;
import flarvo.level.Statement;
import flarvo.scene.Vec3;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** What is known of the place: statements of the selected trackers, and what is left of each. */
public final class StatePart extends VBox {

  private final Session session;
  private final LevelWork level;
  private final VBox list = new VBox(4);
  private final Label selected = Desk.wrapped();
  private final TextField height =
      Fields.small("state-height", "0 m", "Height of what they lie on", 70);
  private final TextField distance =
      Fields.small("state-distance", "0.6 m", "Distance from the first to the second", 70);
  private final ComboBox<SignedAxis> axis = new ComboBox<>();

  StatePart(Session session, LevelWork level) {
    super(6);
    this.session = session;
    this.level = level;
    axis.getItems().setAll(SignedAxis.values());
    axis.setValue(SignedAxis.POSITIVE_X);
    axis.setId("state-axis");
    axis.setAccessibleText("Axis");
    axis.getStyleClass().add("small-field");
    list.setId("statements");
    FlowPane ways =
        new FlowPane(
            6,
            6,
            Fields.button("state-origin", "Origin", this::origin),
            Fields.button("state-ground", "On the ground", this::ground),
            Fields.button("state-along", "Along axis", this::along),
            Fields.button("state-wall", "Wall facing axis", this::wall),
            Fields.button("state-upright", "Vertical", this::upright),
            Fields.button("state-apart", "Distance", this::apart));
    getChildren()
        .addAll(
            Desk.heading("Statements on selection"),
            selected,
            ways,
            Desk.row("axis", axis),
            Desk.row("ground height", height),
            Desk.row("distance", distance),
            list);
    session
        .selection()
        .addListener((javafx.collections.SetChangeListener<String>) c -> selection());
    level.now().addListener((o, a, b) -> fill());
    selection();
    fill();
  }

  private List<String> chosen() {
    return List.copyOf(session.selection());
  }

  private void selection() {
    List<String> s = chosen();
    selected.setText(
        s.isEmpty()
            ? "Click trackers; Shift-click adds. Order matters."
            : s.size() == 1
                ? s.get(0)
                : s.size() == 2
                    ? "from " + s.get(0) + " to " + s.get(1)
                    : s.size() + " trackers, the first is " + s.get(0));
  }

  private void say(String words) {
    session.message().set(words);
  }

  private void origin() {
    if (chosen().size() == 1) {
      level.state(new Statement.At(chosen().get(0), Vec3.ZERO));
    } else {
      say("Select one tracker as the origin");
    }
  }

  private void ground() {
    if (chosen().isEmpty()) {
      say("Select the trackers that lie on it first");
      return;
    }
    Fields.metres(session, height)
        .ifPresent(h -> level.state(new Statement.OnGround(Set.copyOf(chosen()), h)));
  }

  private void wall() {
    if (chosen().isEmpty()) {
      say("Select the trackers that lie on it first");
      return;
    }
    level.state(new Statement.OnWall(Set.copyOf(chosen()), axis.getValue()));
  }

  private boolean isPair() {
    if (chosen().size() != 2) {
      say("Select two trackers: from the first to the second");
    }
    return chosen().size() == 2;
  }

  private void along() {
    if (isPair()) {
      level.state(new Statement.Along(chosen().get(0), chosen().get(1), axis.getValue()));
    }
  }

  private void upright() {
    if (isPair()) {
      level.state(new Statement.Vertical(chosen().get(0), chosen().get(1)));
    }
  }

  private void apart() {
    if (isPair()) {
      Fields.metres(session, distance)
          .ifPresent(d -> level.state(new Statement.Distance(chosen().get(0), chosen().get(1), d)));
    }
  }

  private void fill() {
    list.getChildren().clear();
    LevelReading r = level.reading();
    if (r == null || r.lines().isEmpty()) {
      Label none = Desk.wrapped();
      none.setText("No statements yet. Three statements level most shots.");
      list.getChildren().add(none);
      return;
    }
    for (int i = 0; i < r.lines().size(); i++) {
      list.getChildren().add(line(i, r.lines().get(i)));
    }
  }

  private VBox line(int i, LevelReading.Line l) {
    CheckBox on = new CheckBox();
    on.setSelected(l.stated().on());
    on.setAccessibleText("Counts: " + l.stated().what().words());
    on.setOnAction(
        e ->
            level.change(
                i,
                t -> t.switched(on.isSelected()),
                (on.isSelected() ? "count: " : "do not count: ") + l.stated().what().words()));
    Label words = Desk.wrapped();
    words.setText(l.stated().what().words());
    words.setOnMouseClicked(
        e -> {
          session.selection().clear();
          session.selection().addAll(l.stated().what().trackers());
        });
    words.setMaxWidth(Double.MAX_VALUE);
    HBox.setHgrow(words, Priority.ALWAYS);
    Button gone = Fields.button("unstate-" + i, "Remove", () -> level.unstate(i));
    HBox top = new HBox(6, on, words, gone);
    top.setAlignment(Pos.CENTER_LEFT);
    Label left = Desk.number(residual(l));
    left.getStyleClass().add("quiet");
    left.setMinWidth(Region.USE_PREF_SIZE);
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    Label weight = new Label(weight(l.stated().weight()));
    weight.getStyleClass().addAll("quiet", "number");
    Button less = Fields.button("weight-less-" + i, "−", () -> weigh(i, l.stated(), 0.5));
    Button more = Fields.button("weight-more-" + i, "+", () -> weigh(i, l.stated(), 2));
    less.setAccessibleText("Less weight");
    more.setAccessibleText("More weight");
    HBox foot = new HBox(6, left, gap, weight, less, more);
    foot.setAlignment(Pos.CENTER_LEFT);
    VBox box = new VBox(2, top, foot);
    l.problem()
        .ifPresent(
            p -> {
              Label problem = Desk.wrapped();
              problem.setText("! " + p);
              problem.getStyleClass().add("over");
              box.getChildren().add(problem);
            });
    box.getStyleClass().add("statement");
    return box;
  }

  private void weigh(int i, Stated t, double by) {
    level.change(
        i,
        s -> s.weighing(Math.max(1e-3, Math.min(1e3, s.weight() * by))),
        "weigh " + weight(t.weight() * by) + ": " + t.what().words());
  }

  private static String weight(double w) {
    return "× " + (w == Math.rint(w) ? Long.toString((long) w) : Double.toString(w));
  }

  private static String residual(LevelReading.Line l) {
    if (Double.isNaN(l.metres())) {
      return "off";
    }
    return String.format(
        Locale.ROOT,
        "%.4f m%s",
        l.metres(),
        Double.isNaN(l.px()) ? "" : String.format(Locale.ROOT, " · %.2f px", l.px()));
  }
}
