package flarvo.desktop.stop.plate;

import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.lens.Lens;
import flarvo.lens.LensModel;
import flarvo.lens.LensTrack;
import flarvo.lens.Normalisation;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;

/** A lens's values, to be typed; a small form that begins with the lens in use. */
final class TypedLens extends VBox {

  private final ComboBox<String> model = new ComboBox<>();
  private final ComboBox<String> unit = new ComboBox<>();
  private final VBox terms = new VBox(4);
  private final List<TextField> fields = new ArrayList<>();
  private final TextField centreX = field("lens-centre-x", "Centre across", 0.5);
  private final TextField centreY = field("lens-centre-y", "Centre down", 0.5);
  private final TextField focal = field("lens-focal", "Focal length over film width", Double.NaN);
  private final Label wrong = Desk.wrapped();

  /**
   * @param start the lens in use
   * @param done told of a lens that makes sense
   */
  TypedLens(Optional<LensTrack> start, Consumer<Lens> done) {
    super(4);
    model.getItems().setAll(List.of(LensModel.values()).stream().map(LensModel::title).toList());
    model.getStyleClass().add("small-field");
    model.setId("lens-model");
    unit.getItems().setAll(List.of(Normalisation.values()).stream().map(n -> n.code()).toList());
    unit.getStyleClass().add("small-field");
    unit.setId("lens-unit");
    Lens begin = start.map(LensTrack::base).orElse(Lens.centred(LensModel.RADIAL.neutral()));
    model.setValue(begin.distortion().model().title());
    unit.setValue(begin.normalisation().code());
    centreX.setText(number(begin.centreX()));
    centreY.setText(number(begin.centreY()));
    focal.setText(Double.isNaN(begin.focal()) ? "" : number(begin.focal()));
    fill(begin.distortion().coefficients());
    model.setOnAction(e -> fill(new double[0]));
    wrong.setId("lens-wrong");
    wrong.getStyleClass().add("attention");
    wrong.managedProperty().bind(wrong.textProperty().isNotEmpty());
    getChildren()
        .addAll(
            Desk.row("Model", model),
            Desk.row("Normalised by", unit),
            terms,
            Desk.row("Centre across", centreX),
            Desk.row("Centre down", centreY),
            Desk.row("Focal / film width", focal),
            wrong,
            Fields.button("lens-use", "Use these values", () -> use(done)));
  }

  private static TextField field(String id, String accessible, double value) {
    return Fields.small(id, Double.isNaN(value) ? "" : number(value), accessible, 96);
  }

  private static String number(double v) {
    return String.format(Locale.ROOT, "%.8f", v).replaceAll("0+$", "").replaceAll("\\.$", "");
  }

  private LensModel chosen() {
    return List.of(LensModel.values()).get(model.getItems().indexOf(model.getValue()));
  }

  private void fill(double[] values) {
    LensModel m = chosen();
    fields.clear();
    terms.getChildren().clear();
    for (int i = 0; i < m.coefficients().size(); i++) {
      String name = m.coefficients().get(i);
      TextField f = field("lens-" + name, name, i < values.length ? values[i] : m.neutral(name));
      fields.add(f);
      terms.getChildren().add(Desk.row(name, f));
    }
  }

  private void use(Consumer<Lens> done) {
    wrong.setText("");
    try {
      double[] k = new double[fields.size()];
      for (int i = 0; i < k.length; i++) {
        k[i] = number(fields.get(i));
      }
      done.accept(
          new Lens(
              chosen().make(k),
              Normalisation.of(unit.getValue()).orElseThrow(),
              number(centreX),
              number(centreY),
              focal.getText().isBlank() ? Double.NaN : number(focal)));
    } catch (IllegalArgumentException e) {
      String why = e.getMessage();
      wrong.setText(why.substring(0, 1).toUpperCase(Locale.ROOT) + why.substring(1) + ".");
    }
  }

  private static double number(TextField f) {
    try {
      return Double.parseDouble(f.getText().trim());
    } catch (NumberFormatException e) {
      throw new IllegalArgumentException("'" + f.getText() + "' is not a number", e);
    }
  }
}
