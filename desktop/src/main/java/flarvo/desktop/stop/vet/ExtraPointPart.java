package flarvo.desktop.stop.vet;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.scene.WorldShot;
import flarvo.vet.ExtraPoint;
import flarvo.vet.Triangulation;
import java.util.Locale;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Points that are added late: marked by hand, followed along the plate, never pulling. */
public final class ExtraPointPart extends VBox {

  private final Session session;
  private final VetWork vet;
  private final ComboBox<String> name = new ComboBox<>();
  private final Label facts = Desk.wrapped();

  ExtraPointPart(Session session, VetWork vet) {
    super(6);
    this.session = session;
    this.vet = vet;
    name.setEditable(true);
    name.setId("late-name");
    name.setPromptText("name");
    name.setAccessibleText("Extra point");
    name.getStyleClass().add("small-field");
    name.setPrefWidth(112);
    name.getEditor().textProperty().bindBidirectional(vet.point());
    ToggleButton mark = new ToggleButton("Mark");
    mark.setId("late-mark");
    mark.setMinWidth(Region.USE_PREF_SIZE);
    mark.getStyleClass().add("small-button");
    mark.selectedProperty().bindBidirectional(vet.marking());
    Button search = new Button("Track on plate");
    search.setId("late-search");
    search.getStyleClass().add("small-button");
    search.setOnAction(e -> vet.search(vet.point().get().trim()));
    Button remove = new Button("Remove");
    remove.getStyleClass().add("small-button");
    remove.setOnAction(e -> vet.removePoint(vet.point().get().trim()));
    getChildren()
        .addAll(
            Desk.heading("Extra point"),
            Desk.row("Point", new HBox(6, name, mark)),
            facts,
            new HBox(6, search, remove));
    session.state().addListener((o, a, b) -> fill());
    vet.point().addListener((o, a, b) -> facts());
    vet.marking().addListener((o, a, b) -> facts());
    fill();
  }

  private void fill() {
    String now = vet.point().get();
    name.getItems().setAll(vet.vetting().extras().stream().map(ExtraPoint::name).toList());
    vet.point().set(now);
    facts();
  }

  private void facts() {
    Optional<ExtraPoint> p = vet.extra(vet.point().get().trim());
    if (p.isEmpty()) {
      facts.setText(
          vet.marking().get()
              ? "Click the feature in Picture in two frames or more; the loupe magnifies it."
              : "A feature that was not tracked, such as a mark on the floor. It has no weight.");
      return;
    }
    int n = p.get().marks().size();
    String where = n == 1 ? "Marked in one frame; mark it in another." : "";
    WorldShot shot = session.shot().get();
    if (n > 1 && shot != null && shot.camera().isPresent()) {
      where =
          new Triangulation(shot.camera().get(), shot.picture(), shot.observations())
              .of(p.get().name())
              .map(ExtraPointPart::known)
              .orElse("Its rays do not meet in front of the camera.");
    }
    facts.setText(n + (n == 1 ? " mark. " : " marks. ") + where);
  }

  private static String known(Triangulation.Placed k) {
    return String.format(
        Locale.ROOT,
        "Residual %.2f px, parallax %.1f°, ± %.3f m along the view and ± %.3f m across per pixel"
            + " of error.",
        k.rmsPx(),
        Math.toDegrees(k.angle()),
        k.depthError(),
        k.sideError());
  }
}
