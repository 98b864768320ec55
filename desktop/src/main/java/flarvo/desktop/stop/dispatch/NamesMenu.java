package flarvo.desktop.stop.dispatch;

import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BiConsumer;
import java.util.function.Supplier;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.Tooltip;

/** A button that opens a list of names of the shot, of which some are ticked. */
final class NamesMenu extends MenuButton {

  private final Supplier<List<String>> offered;
  private final BiConsumer<String, Boolean> change;
  private Set<String> ticked = Set.of();

  /**
   * @param offered asked for when the list opens
   * @param change takes a name, and whether it is ticked now
   */
  NamesMenu(
      String id, String hint, Supplier<List<String>> offered, BiConsumer<String, Boolean> change) {
    this.offered = offered;
    this.change = change;
    setId(id);
    getStyleClass().add("small-button");
    setTooltip(new Tooltip(hint));
    getItems().add(new MenuItem("")); // an empty menu is never shown, and so never filled
    setOnShowing(e -> fill());
  }

  /** Shows how many names are ticked. */
  void show(Set<String> names) {
    ticked = names;
    setText(names.isEmpty() ? "none" : names.size() == 1 ? "1 by name" : names.size() + " by name");
  }

  private void fill() {
    Set<String> names = new TreeSet<>(offered.get());
    names.addAll(ticked); // what an earlier solve had can be taken back
    if (names.isEmpty()) {
      MenuItem none = new MenuItem("Nothing with a name goes along");
      none.setDisable(true);
      getItems().setAll(none);
      return;
    }
    getItems().setAll(names.stream().map(this::item).toList());
  }

  private CheckMenuItem item(String name) {
    CheckMenuItem i = new CheckMenuItem(name);
    i.setMnemonicParsing(false);
    i.setSelected(ticked.contains(name));
    i.setOnAction(e -> change.accept(name, i.isSelected()));
    return i;
  }
}
