package flarvo.desktop.window;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.StopModule;
import flarvo.desktop.stop.Tips;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javafx.application.Platform;
import javafx.beans.InvalidationListener;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The strip across the top: the shot's name, and the stops as stations on a drawn line. */
final class LineBar extends HBox {

  private final Session session;
  private final Map<StopModule, Station> stations = new LinkedHashMap<>();
  private final Label shot = new Label("No shot");
  private final Label production = new Label("");
  private final Button undo = tool("Undo");
  private final Button redo = tool("Redo");
  private final Set<StopModule> changed = new HashSet<>();

  LineBar(Session session, List<StopModule> stops, Runnable find, Runnable keys) {
    this.session = session;
    getStyleClass().add("line-bar");
    setAlignment(Pos.CENTER_LEFT);
    shot.getStyleClass().add("shot-name");
    production.getStyleClass().add("quiet");
    VBox name = new VBox(production, shot);
    name.setAlignment(Pos.CENTER_LEFT);
    name.setMinWidth(116);
    name.setPrefWidth(206);
    HBox track = new HBox();
    track.setAlignment(Pos.CENTER);
    HBox.setHgrow(track, Priority.ALWAYS);
    for (StopModule s : stops) {
      boolean last = stations.size() + 1 == stops.size();
      Station station = new Station(s, stations.size() + 1, last, session);
      stations.put(s, station);
      HBox.setHgrow(station, Priority.ALWAYS);
      track.getChildren().add(station);
    }
    undo.setOnAction(e -> session.undo());
    redo.setOnAction(e -> session.redo());
    Button theme = tool("Light");
    theme.setOnAction(e -> session.view().theme().set(session.view().theme().get().other()));
    session.view().theme().addListener((o, a, b) -> theme.setText(capital(b.other().word())));
    Tips.on(theme, "Switch theme (Ctrl+T)");
    Button search = tool("Find");
    Tips.on(search, "Find any action or object by name (Ctrl+K)");
    search.setOnAction(e -> find.run());
    Button help = tool("Keys");
    Tips.on(help, "Shortcuts (?)");
    help.setOnAction(e -> keys.run());
    Region gap = new Region();
    gap.setMinWidth(10);
    getChildren().addAll(name, track, gap, undo, redo, search, keysAndTheme(help, theme));
    for (StopModule m : stops) {
      InvalidationListener again = o -> soon(m);
      m.factDependsOn().forEach(o -> o.addListener(again));
    }
    session.state().addListener((o, a, b) -> refresh());
    session.stop().addListener((o, a, b) -> refresh());
    session.view().theme().addListener((o, a, b) -> refresh());
    session.project().holder().addListener((o, a, b) -> refresh());
    session.project().loading().addListener((o, a, b) -> refresh());
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

  /** A fact whose grounds change several times in a pulse is written once. */
  private void soon(StopModule m) {
    changed.add(m);
    if (changed.size() == 1) {
      Platform.runLater(
          () -> {
            changed.forEach(this::show);
            changed.clear();
          });
    }
  }

  private void show(StopModule m) {
    stations.get(m).show(m.fact(), session.stop().get().equals(m.id()));
  }

  private void refresh() {
    boolean open = session.isOpen();
    shot.setText(
        open
            ? session.state().get().name()
            : session.project().loading().get() ? "Opening…" : "No shot");
    String readOnly = session.project().holder().get() == null ? "" : " (read-only)";
    production.setText(
        session.project().file().map(p -> p.name() + readOnly).orElse(open ? "not saved" : ""));
    stations.keySet().forEach(this::show);
    undo.setDisable(session.undoTitle().isEmpty());
    redo.setDisable(session.redoTitle().isEmpty());
    Tips.on(undo, session.undoTitle().map(t -> "Undo: " + t).orElse("Nothing to undo"));
    Tips.on(redo, session.redoTitle().map(t -> "Redo: " + t).orElse("Nothing to redo"));
  }

  private static String capital(String s) {
    return s.substring(0, 1).toUpperCase(java.util.Locale.ROOT) + s.substring(1);
  }
}
