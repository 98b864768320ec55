package flarvo.desktop.line;

import flarvo.desktop.session.Session;
import flarvo.desktop.session.Stop;
import java.util.EnumMap;
import java.util.Map;
import javafx.collections.MapChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The strip across the top: the shot's name, and the six stops as stations on a drawn line. */
public final class LineBar extends HBox {

  private final Session session;
  private final StopFacts facts;
  private final Map<Stop, Station> stations = new EnumMap<>(Stop.class);
  private final Label shot = new Label("No shot");
  private final Label production = new Label("");
  private final Button undo = tool("Undo");
  private final Button redo = tool("Redo");

  public LineBar(Session session, Runnable find, Runnable keys) {
    this.session = session;
    this.facts = new StopFacts(session);
    getStyleClass().add("line-bar");
    setAlignment(Pos.CENTER_LEFT);
    shot.getStyleClass().add("shot-name");
    production.getStyleClass().add("quiet");
    VBox name = new VBox(production, shot);
    name.setAlignment(Pos.CENTER_LEFT);
    name.setMinWidth(206);
    name.setPrefWidth(206);
    HBox track = new HBox();
    track.setAlignment(Pos.CENTER);
    HBox.setHgrow(track, Priority.ALWAYS);
    for (Stop s : Stop.values()) {
      Station station = new Station(s, session);
      stations.put(s, station);
      HBox.setHgrow(station, Priority.ALWAYS);
      track.getChildren().add(station);
    }
    undo.setOnAction(e -> session.undo());
    redo.setOnAction(e -> session.redo());
    Button theme = tool("Light");
    theme.setOnAction(e -> session.view().theme().set(session.view().theme().get().other()));
    session.view().theme().addListener((o, a, b) -> theme.setText(capital(b.other().word())));
    theme.setTooltip(new Tooltip("Change between dark and light (Ctrl+T)"));
    Button search = tool("Find");
    search.setTooltip(new Tooltip("Find any action or object by name (Ctrl+K)"));
    search.setOnAction(e -> find.run());
    Button help = tool("Keys");
    help.setTooltip(new Tooltip("The keys of this stop (?)"));
    help.setOnAction(e -> keys.run());
    Region gap = new Region();
    gap.setMinWidth(10);
    getChildren().addAll(name, track, gap, undo, redo, search, keysAndTheme(help, theme));
    session.level().reading().addListener((o, a, b) -> refresh());
    session.state().addListener((o, a, b) -> refresh());
    session.ledger().addListener((o, a, b) -> refresh());
    session.stop().addListener((o, a, b) -> refresh());
    session.view().theme().addListener((o, a, b) -> refresh());
    session.sending().states().addListener((MapChangeListener<Object, Object>) c -> refresh());
    session.loading().addListener((o, a, b) -> refresh());
    refresh();
  }

  private static HBox keysAndTheme(Button help, Button theme) {
    HBox b = new HBox(help, theme);
    b.setAlignment(Pos.CENTER);
    return b;
  }

  private static Button tool(String text) {
    Button b = new Button(text);
    b.getStyleClass().add("bar-button");
    b.setMinWidth(Region.USE_PREF_SIZE);
    return b;
  }

  private void refresh() {
    boolean open = session.state().get() != null;
    shot.setText(
        open
            ? session.state().get().shot().name()
            : session.loading().get() ? "Opening…" : "No shot");
    production.setText(session.project().map(p -> p.name()).orElse(open ? "not saved" : ""));
    stations.forEach((s, station) -> station.show(facts.of(s), session.stop().get() == s));
    undo.setDisable(session.undoTitle().isEmpty());
    redo.setDisable(session.redoTitle().isEmpty());
    undo.setTooltip(
        new Tooltip(session.undoTitle().map(t -> "Undo: " + t).orElse("Nothing to undo")));
    redo.setTooltip(
        new Tooltip(session.redoTitle().map(t -> "Redo: " + t).orElse("Nothing to redo")));
  }

  private static String capital(String s) {
    return s.substring(0, 1).toUpperCase(java.util.Locale.ROOT) + s.substring(1);
  }
}
