package flarvo.desktop.stop.level;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.desktop.work.Lane;
import flarvo.stage.Gauge;
import flarvo.stage.SlideReading;
import flarvo.stage.StandIn;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Gauges and stand-in geometry: what is set, how large it is, and how far it would slide. */
public final class GaugePart extends VBox {

  private final Session session;
  private final LevelWork level;
  private final BuildWork build;
  private final ComboBox<String> chosen = new ComboBox<>();
  private final TextField size = Fields.small("gauge-size", "1 m", "Size of the gauge", 74);
  private final TextField turn = Fields.small("gauge-turn", "0°", "Turn of the gauge", 62);
  private final TextField height =
      Fields.small("stand-in-height", "0.5 m", "Height of boxes and walls", 74);
  private final TextField group =
      Fields.small("stand-in-group", "", "Group of the next stand-ins", 110);
  private final CheckBox corners = new CheckBox("Corners and middle as locators");
  private final Label slide = Desk.wrapped();
  private boolean filling;

  GaugePart(Session session, LevelWork level, BuildWork build) {
    super(6);
    this.session = session;
    this.level = level;
    this.build = build;
    FlowPane kinds = new FlowPane(6, 6);
    for (Gauge.Kind k : Gauge.Kind.values()) {
      ToggleButton b = new ToggleButton("Place a " + k.word());
      b.setId("gauge-" + k.word());
      b.setMinWidth(Region.USE_PREF_SIZE);
      b.getStyleClass().add("small-button");
      b.setOnAction(e -> build.dropping().set(b.isSelected() ? k : null));
      build.dropping().addListener((o, x, y) -> b.setSelected(y == k));
      kinds.getChildren().add(b);
    }
    chosen.setId("placed");
    chosen.setAccessibleText("Current gauge or stand-in");
    chosen.getStyleClass().add("small-field");
    chosen.setPrefWidth(120);
    chosen.setOnAction(
        e -> {
          if (!filling && chosen.getValue() != null) {
            build.chosen().set(chosen.getValue());
          }
        });
    size.setOnAction(e -> resize());
    turn.setOnAction(e -> turned());
    slide.setId("slide");
    height.textProperty().addListener((o, a, b) -> boxHeight());
    group.textProperty().bindBidirectional(build.group());
    corners.setId("stand-in-corners");
    corners.setOnAction(e -> build.sendCorners(corners.isSelected()));
    getChildren()
        .addAll(
            Desk.heading("Gauges: click a tracker or the ground"),
            kinds,
            Desk.heading("Stand-ins"),
            standIns(build),
            Desk.row("height", height),
            Desk.row("group", group),
            Desk.heading("Current object"),
            new HBox(6, chosen, Fields.button("placed-remove", "Remove", build::removeChosen)),
            new HBox(6, new Label("size"), size, new Label("turn"), turn),
            changes(build),
            corners,
            slide);
    build.chosen().addListener((o, a, b) -> fill());
    session.state().addListener((o, a, b) -> fill());
    session.playhead().frame().addListener((o, a, b) -> slideLater());
    fill();
  }

  private FlowPane standIns(BuildWork build) {
    ToggleButton card = sketch("stand-in-draw", "Draw a card", BuildWork.Sketch.CARD);
    ToggleButton box = sketch("stand-in-box", "Draw a box", BuildWork.Sketch.BOX);
    return new FlowPane(
        6,
        6,
        Fields.button("stand-in-card", "Card through selected", build::card),
        card,
        box,
        Fields.button(
            "stand-in-wall",
            "Wall from two selected",
            () -> Fields.metres(session, height).ifPresent(build::wall)));
  }

  private ToggleButton sketch(String id, String text, BuildWork.Sketch what) {
    ToggleButton b = new ToggleButton(text);
    b.setId(id);
    b.setMinWidth(Region.USE_PREF_SIZE);
    b.getStyleClass().add("small-button");
    b.setOnAction(
        e -> {
          build.sketch().clear();
          build.sketching().set(b.isSelected() ? what : null);
        });
    build.sketching().addListener((o, x, y) -> b.setSelected(y == what));
    return b;
  }

  private FlowPane changes(BuildWork build) {
    Button out =
        Fields.button(
            "stand-in-extrude",
            "Extrude to height",
            () -> Fields.metres(session, height).ifPresent(build::extrude));
    Button snap =
        Fields.button(
            "stand-in-snap", "Snap corner to selected", () -> build.snap(build.chosen().get()));
    Button move = Fields.button("placed-move", "Move to selected", build::moveToSelected);
    return new FlowPane(6, 6, move, out, snap);
  }

  private void boxHeight() {
    try {
      double m = flarvo.convention.Lengths.metres(height.getText());
      build.boxHeight().set(m);
    } catch (IllegalArgumentException e) {
      // half a number, while it is typed
    }
  }

  private void resize() {
    String name = build.chosen().get();
    Fields.metres(session, size).ifPresent(m -> build.resizeGauge(name, m));
  }

  private void turned() {
    String name = build.chosen().get();
    Fields.number(session, turn, "angle in degrees")
        .ifPresent(d -> build.rotateGauge(name, Math.toRadians(d)));
  }

  private void fill() {
    filling = true;
    List<String> names = new ArrayList<>();
    level.staging().gauges().forEach(g -> names.add(g.name()));
    level.staging().standIns().forEach(s -> names.add(s.name()));
    String name = build.chosen().get();
    if (!chosen.getItems().equals(names)) {
      chosen.getItems().setAll(names);
    }
    chosen.setValue(names.contains(name) ? name : null);
    Optional<Gauge> g = level.staging().gauge(name);
    Optional<StandIn> s = level.staging().standIn(name);
    size.setDisable(g.isEmpty());
    turn.setDisable(g.isEmpty());
    g.ifPresent(
        x -> {
          size.setText(String.format(Locale.ROOT, "%.3f m", x.metres()));
          turn.setText(String.format(Locale.ROOT, "%.1f°", Math.toDegrees(x.turn())));
        });
    corners.setDisable(s.isEmpty());
    corners.setSelected(s.map(StandIn::corners).orElse(false));
    filling = false;
    slide();
  }

  /** While it plays nobody reads it. */
  private void slideLater() {
    if (!session.playhead().playing().get()) {
      slide();
    }
  }

  /** Every tracker is looked at, so this is measured beside the window. */
  private void slide() {
    String name = build.chosen().get();
    if (level.now().get() == null || name.isEmpty()) {
      session.jobs().drop(slide);
      slide.setText("Select a placed object to see its slide.");
      return;
    }
    Supplier<Optional<SlideReading>> reading = build.slide();
    session
        .jobs()
        .newest(
            slide,
            Lane.MEASURE,
            "Measuring how far " + name + " slides",
            p -> reading.get(),
            r -> slide.setText(r.map(GaugePart::words).orElse("Out of view at this frame.")),
            session.message()::set);
  }

  private static String words(SlideReading r) {
    StringBuilder b = new StringBuilder();
    b.append("Placed at frame ").append(r.frame()).append(", it slides at most\n");
    for (int i = 0; i < r.errors().length; i++) {
      b.append(
          String.format(
              Locale.ROOT,
              "%s%.0f cm: %.2f px by height, %.2f px by depth",
              i == 0 ? "" : "\n",
              100 * r.errors()[i],
              r.byHeight()[i],
              r.byDepth()[i]));
    }
    b.append(r.vouchers().isEmpty() ? "\nNo tracker nearby confirms its height." : "\nNearby:");
    r.vouchers().forEach(v -> b.append("\n").append(v));
    return b.toString();
  }
}
