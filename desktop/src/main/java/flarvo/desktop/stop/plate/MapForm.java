package flarvo.desktop.stop.plate;

import flarvo.decision.PlateDecision;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.lens.Direction;
import flarvo.lens.LensModel;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** What a distortion map does, and the model to fit to it. The map itself says neither. */
final class MapForm extends VBox {

  private static final String STRAIGHT = "undistorted plates";
  private static final String BENT = "original plates";

  private final TextField file = Fields.small("map-file", "", "File of the map", 150);
  private final Label wrong = Desk.wrapped();
  private final ComboBox<String> makes = new ComboBox<>();
  private final ComboBox<String> model = new ComboBox<>();

  /**
   * @param done told what to fit
   */
  MapForm(Consumer<PlateDecision.FitMap> done) {
    super(4);
    wrong.setId("map-wrong");
    wrong.getStyleClass().add("attention");
    wrong.managedProperty().bind(wrong.textProperty().isNotEmpty());
    makes.getItems().setAll(STRAIGHT, BENT);
    makes.setValue(STRAIGHT);
    makes.setId("map-makes");
    makes.getStyleClass().add("small-field");
    model.getItems().setAll(List.of(LensModel.values()).stream().map(LensModel::title).toList());
    model.setValue(LensModel.BROWN_CONRADY.title());
    model.setId("map-model");
    model.getStyleClass().add("small-field");
    getChildren()
        .addAll(
            Desk.row("Map", file),
            Desk.row("It makes", makes),
            Desk.row("Model", model),
            wrong,
            new HBox(
                6,
                Fields.button("map-choose", "Choose map…", this::choose),
                Fields.button("map-fit", "Fit to map", () -> fit(done))));
  }

  private void choose() {
    FileChooser c = new FileChooser();
    c.setTitle("Distortion map");
    c.getExtensionFilters().add(new FileChooser.ExtensionFilter("OpenEXR", "*.exr"));
    Optional.ofNullable(c.showOpenDialog(getScene().getWindow()))
        .ifPresent(f -> file.setText(f.getPath()));
  }

  private void fit(Consumer<PlateDecision.FitMap> done) {
    try {
      Path map = Path.of(file.getText().strip());
      boolean there = !file.getText().isBlank() && Files.isRegularFile(map);
      wrong.setText(there ? "" : "Choose the file of a map.");
      if (there) {
        done.accept(decision(map));
      }
    } catch (InvalidPathException e) {
      wrong.setText("This is no path: " + e.getReason() + ".");
    }
  }

  private PlateDecision.FitMap decision(Path map) {
    return new PlateDecision.FitMap(
        map,
        makes.getValue().equals(STRAIGHT)
            ? Direction.ORIGINAL_TO_UNDISTORTED
            : Direction.UNDISTORTED_TO_ORIGINAL,
        List.of(LensModel.values()).get(model.getItems().indexOf(model.getValue())));
  }
}
