package flarvo.desktop.stop.proof;

import flarvo.decision.BuildDecision;
import flarvo.decision.Decision;
import flarvo.decision.ShotState;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Fields;
import flarvo.desktop.stop.Tips;
import flarvo.render.RenderLook;
import flarvo.report.Figures;
import flarvo.report.InputError;
import flarvo.scene.Vec3;
import flarvo.stage.SunDirection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import javafx.collections.SetChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;

/** Where the light of witness pictures comes from: typed, or taken from a shadow in the plate. */
final class LightRow extends HBox {

  private final Session session;
  private final TextField azimuth = Fields.small("light-azimuth", "", "Azimuth of the light", 64);
  private final TextField elevation =
      Fields.small("light-elevation", "", "Elevation of the light", 56);
  private final Button shadow = Fields.button("light-from-shadow", "From shadow", this::fromShadow);

  LightRow(Session session) {
    super(6);
    this.session = session;
    setAlignment(Pos.CENTER_LEFT);
    Label name = new Label("Light");
    name.getStyleClass().add("quiet");
    name.setLabelFor(azimuth);
    Tips.on(
        azimuth, "Azimuth: clockwise from above, 0° from −Z, 90° from +X of the levelled world");
    Tips.on(elevation, "Elevation: over the horizon, 1 to 90°");
    Tips.on(
        shadow,
        "Select two trackers: one that casts a shadow, and one where its shadow lies. The higher"
            + " one is taken as casting it");
    azimuth.setOnAction(e -> typed());
    elevation.setOnAction(e -> typed());
    getChildren().addAll(name, azimuth, elevation, shadow);
    session.state().addListener((o, a, b) -> fill());
    session.selection().addListener((SetChangeListener<String>) c -> enable());
    fill();
  }

  private void fill() {
    enable();
    azimuth.setDisable(!session.isOpen());
    elevation.setDisable(!session.isOpen());
    if (!session.isOpen()) {
      return;
    }
    ShotState s = session.state().get();
    Vec3 light =
        s.staging().light().map(s.level().rotation()::apply).orElse(RenderLook.USUAL.light());
    try {
      SunDirection d = SunDirection.of(light);
      azimuth.setText(Figures.of(Math.rint(10 * d.azimuth()) / 10) + "°");
      elevation.setText(Figures.of(Math.rint(10 * d.elevation()) / 10) + "°");
    } catch (InputError e) {
      // The level was changed under it; what is typed next is right again.
      azimuth.setText("");
      elevation.setText("");
    }
  }

  private void enable() {
    shadow.setDisable(!session.isOpen() || session.selection().size() != 2);
  }

  private void typed() {
    OptionalDouble a = Fields.number(session, azimuth, "angle");
    OptionalDouble e = Fields.number(session, elevation, "angle");
    if (a.isPresent() && e.isPresent()) {
      decide(new BuildDecision.SetLight(a.getAsDouble(), e.getAsDouble()));
    }
  }

  private void decide(Decision d) {
    session.store().decide(d);
  }

  private void fromShadow() {
    ShotState s = session.state().get();
    List<String> two =
        session.selection().stream()
            .map(n -> Map.entry(n, s.place(n).map(s.level()::apply)))
            .filter(x -> x.getValue().isPresent())
            .sorted((x, y) -> Double.compare(height(y.getValue()), height(x.getValue())))
            .map(Map.Entry::getKey)
            .toList();
    if (two.size() != 2) {
      session
          .message()
          .set(
              "Select two trackers that stand still: one that casts a shadow, and one where it lies");
      return;
    }
    decide(new BuildDecision.LightFromShadow(two.get(0), two.get(1)));
  }

  private static double height(Optional<Vec3> place) {
    return place.orElseThrow().y();
  }
}
