package flarvo.desktop.stop.vet;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.adjust.RobustLoss;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Making the solve fit better: what may move, and the actions. */
public final class RefinePart extends VBox {

  private final Session session;
  private final VetWork vet;
  private final ComboBox<AdjustOptions.Focal> focal = new ComboBox<>();
  private final CheckBox centre = new CheckBox("Principal point");
  private final ComboBox<Integer> lens = new ComboBox<>();
  private final CheckBox forgiving = new CheckBox("Down-weight outliers");
  private final CheckBox tripod = new CheckBox("Nodal: rotation only");
  private final TextField target = new TextField("0.35");
  private final Label said = Desk.wrapped();

  RefinePart(Session session, VetWork vet) {
    super(6);
    this.session = session;
    this.vet = vet;
    focal.getItems().setAll(AdjustOptions.Focal.values());
    focal.setValue(AdjustOptions.Focal.FIXED);
    focal.setId("refine-focal");
    focal.getStyleClass().add("small-field");
    focal.setConverter(Fields.shown(AdjustOptions.Focal::word));
    lens.getItems().setAll(0, 1, 2, 3);
    lens.setValue(0);
    lens.getStyleClass().add("small-field");
    target.getStyleClass().addAll("small-field", "number");
    target.setPrefWidth(58);
    target.setId("refine-target");
    target.setAccessibleText("Target in pixels");
    Button refine = button("refine", "Refine", () -> vet.refine(options()));
    Button both = button("cull-and-refine", "Cull and refine to", this::both);
    Button fresh =
        button(
            "solve-from-tracks",
            "Re-solve from 2D tracks",
            () -> vet.solveFromTracks(focal.getValue() == AdjustOptions.Focal.FIXED));
    said.setId("vet-said");
    vet.said().addListener((o, a, b) -> tell(b));
    vet.kind().addListener((o, a, b) -> tripod.setSelected(b != null && b.tripod()));
    tripod.setSelected(vet.kind().get() != null && vet.kind().get().tripod());
    getChildren()
        .addAll(
            Desk.heading("Refine"),
            Desk.row("Focal length", focal),
            Desk.row("Lens terms", lens),
            centre,
            tripod,
            forgiving,
            refine,
            new HBox(6, both, target, new Label("px")),
            fresh,
            said);
    tell(vet.said().get());
  }

  private void tell(String words) {
    said.setText(words);
    said.setVisible(!words.isEmpty());
    said.setManaged(!words.isEmpty());
  }

  private static Button button(String id, String text, Runnable action) {
    Button b = new Button(text);
    b.setId(id);
    b.getStyleClass().add("small-button");
    b.setOnAction(e -> action.run());
    return b;
  }

  private AdjustOptions options() {
    AdjustOptions o =
        AdjustOptions.USUAL
            .withTripod(tripod.isSelected())
            .withFocal(focal.getValue())
            .withPrincipalPoint(centre.isSelected())
            .withLensTerms(lens.getValue());
    return forgiving.isSelected() ? o.withLoss(RobustLoss.cauchy(1)) : o;
  }

  private void both() {
    String t = target.getText().trim().replaceAll("\\s*px$", "");
    boolean good = t.matches("[0-9]*\\.?[0-9]+") && Double.parseDouble(t) > 0;
    target.getStyleClass().remove("bad");
    if (!good) {
      target.getStyleClass().add("bad");
      session.message().set("The target is a number of pixels, such as 0.35");
      return;
    }
    vet.cullAndRefine(Double.parseDouble(t), options());
  }
}
