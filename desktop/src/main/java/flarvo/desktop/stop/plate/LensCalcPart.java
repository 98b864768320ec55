package flarvo.desktop.stop.plate;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.lens.FieldOfView;
import flarvo.report.InputError;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.WorldShot;
import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;

/**
 * Focal length, film back, angle of view and pixels of a lens: two of them make the rest. It begins
 * with the shot's own lens at its first frame, and changes nothing of the shot.
 */
final class LensCalcPart extends VBox {

  private final Session session;
  private final TextField focal = field("calc-focal", "Focal length in millimetres");
  private final TextField back = field("calc-back", "Film back's width in millimetres");
  private final TextField across = field("calc-across", "Horizontal angle of view in degrees");
  private final TextField on = field("calc-on", "Another film back's width in millimetres");
  private final Label says = Desk.wrapped();
  private String began = "";

  LensCalcPart(Session session) {
    super(6);
    setId("lens-calc");
    this.session = session;
    says.setId("calc-says");
    for (TextField f : List.of(focal, back, across)) {
      f.setPromptText("open");
    }
    on.setPromptText("mm");
    for (TextField f : List.of(focal, back, across, on)) {
      f.textProperty().addListener((o, a, b) -> work());
    }
    getChildren()
        .addAll(
            Desk.heading("Lens calculator"),
            Desk.row("Focal length", focal),
            Desk.row("Film back", back),
            Desk.row("Angle across", across),
            Desk.row("On another back", on),
            says);
    session.shot().addListener((o, a, b) -> begin(b));
    begin(session.shot().get());
  }

  private static TextField field(String id, String accessible) {
    TextField f = Fields.small(id, "", accessible, 90);
    f.getStyleClass().add("number");
    return f;
  }

  /** Another shot brings its own lens; what was typed for the same one stays. */
  private void begin(WorldShot shot) {
    if (shot.name().equals(began)) {
      return;
    }
    began = shot.name();
    focal.setText("");
    back.setText("");
    across.setText("");
    shot.camera()
        .ifPresent(
            c -> {
              Optics o = c.optics().at(c.frames().first());
              focal.setText(number(o.focalLengthMm()));
              back.setText(number(o.filmWidthMm()));
            });
    work();
  }

  private void work() {
    PictureSize picture = session.shot().get().picture();
    try {
      FieldOfView.Given g = new FieldOfView.Given();
      typed(focal).ifPresent(g::focalMm);
      typed(back).ifPresent(g::backMm);
      typed(across).ifPresent(g::acrossDegrees);
      says.setText(words(FieldOfView.of(picture, g), typed(on)));
    } catch (InputError e) {
      says.setText(e.reason() + ". " + e.advice() + ".");
    } catch (NumberFormatException e) {
      says.setText("Numbers only, such as 35 or 24.576.");
    }
  }

  private static OptionalDouble typed(TextField f) {
    String t = f.getText().strip();
    return t.isEmpty() ? OptionalDouble.empty() : OptionalDouble.of(Double.parseDouble(t));
  }

  private static String words(FieldOfView s, OptionalDouble other) {
    StringBuilder b = new StringBuilder();
    s.focalMm().ifPresent(v -> b.append(number(v)).append(" mm"));
    s.backMm()
        .ifPresent(
            v ->
                b.append(b.length() > 0 ? " on " : "Film back ")
                    .append(number(v))
                    .append(" × ")
                    .append(number(s.backHeightMm().orElseThrow()))
                    .append(" mm"));
    b.append(b.length() > 0 ? ". " : "")
        .append(
            String.format(
                Locale.ROOT,
                "%.3f° across, %.3f° down, %.3f° diagonal; focal length %.2f px.",
                s.acrossDegrees(),
                s.downDegrees(),
                s.diagonalDegrees(),
                s.focalPixels()));
    other.ifPresent(
        w ->
            b.append(" The same on ")
                .append(number(w))
                .append(" mm: ")
                .append(number(s.focalOn(w)))
                .append(" mm."));
    return b.toString();
  }

  private static String number(double v) {
    return String.format(Locale.ROOT, "%.4f", v).replaceAll("\\.?0+$", "");
  }
}
