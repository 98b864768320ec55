package flarvo.desktop.state;

import flarvo.dispatch.Delivery;
import java.util.List;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/** Which deliveries are selected: one that desk and proof are about, and maybe more beside it. */
final class DeliveryChoice {

  private final ObjectProperty<Delivery> one = new SimpleObjectProperty<>();
  private final ObservableList<Delivery> rows = FXCollections.observableArrayList();

  DeliveryChoice() {
    one.addListener(
        (o, a, b) -> {
          if (b == null) {
            rows.clear();
          } else if (!rows.contains(b)) {
            rows.setAll(List.of(b));
          }
        });
  }

  ObjectProperty<Delivery> one() {
    return one;
  }

  ObservableList<Delivery> rows() {
    return rows;
  }

  /**
   * Selects several.
   *
   * @param of what desk and proof are about, one of them
   */
  void choose(Delivery of, List<Delivery> all) {
    if (!rows.equals(all)) {
      rows.setAll(all);
    }
    one.set(of);
  }

  /** Only what is on the board is selected; something is, where there is anything. */
  void follow(List<Delivery> board) {
    rows.retainAll(board);
    if (one.get() == null || !board.contains(one.get())) {
      one.set(board.isEmpty() ? null : board.get(0));
    }
  }
}
