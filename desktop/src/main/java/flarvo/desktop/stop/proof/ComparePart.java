package flarvo.desktop.stop.proof;

import flarvo.desktop.state.Comparison;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import java.util.List;
import javafx.beans.property.Property;
import javafx.scene.control.ComboBox;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;

/** What the shot is compared with, and how both share the picture. */
final class ComparePart extends VBox {

  ComparePart(Session session, ProofWork work) {
    super(6);
    ComboBox<ProofWork.Against> against =
        choice(
            "compare-with",
            List.of(ProofWork.Against.values()),
            work.against(),
            a -> a == null ? "" : a.label());
    ComboBox<Comparison> shown =
        choice(
            "compare-how",
            List.of(Comparison.values()),
            session.view().comparison(),
            c -> c == null ? "" : c.label());
    getChildren().addAll(Desk.row("Compared with", against), Desk.row("Picture", shown));
  }

  private interface Words<T> {
    String of(T value);
  }

  private static <T> ComboBox<T> choice(String id, List<T> all, Property<T> value, Words<T> words) {
    ComboBox<T> box = new ComboBox<>();
    box.setId(id);
    box.setPrefWidth(186);
    box.getStyleClass().add("small-field");
    box.getItems().setAll(all);
    box.setConverter(
        new StringConverter<>() {
          @Override
          public String toString(T v) {
            return words.of(v);
          }

          @Override
          public T fromString(String s) {
            return value.getValue();
          }
        });
    box.valueProperty().bindBidirectional(value);
    return box;
  }
}
