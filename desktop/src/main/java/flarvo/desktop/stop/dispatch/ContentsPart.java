package flarvo.desktop.stop.dispatch;

import flarvo.decision.ShotState;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.work.Lane;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Part;
import flarvo.dispatch.PictureCard;
import flarvo.report.Figures;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import javafx.scene.control.CheckBox;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** What of the shot a delivery contains, where its picture card stands, and what is left out. */
final class ContentsPart extends VBox {

  private final Session session;
  private final RowEdits edits;
  private final Map<Part, CheckBox> parts = new EnumMap<>(Part.class);
  private final TextField card = new TextField();
  private final HBox cardRow;
  private final MenuButton leaveOut = new MenuButton();
  private Delivery shown;
  private boolean filling;

  ContentsPart(Session session, RowEdits edits) {
    super(8);
    this.session = session;
    this.edits = edits;
    FlowPane box = new FlowPane(14, 6);
    for (Part p : Part.values()) {
      CheckBox b = new CheckBox(p.label());
      b.setId("delivery-" + p.word());
      b.setOnAction(e -> change(p, b.isSelected()));
      parts.put(p, b);
      box.getChildren().add(b);
    }
    card.setId("delivery-card-metres");
    card.setPrefColumnCount(10);
    card.getStyleClass().addAll("number", "small-field");
    card.setTooltip(
        new Tooltip(
            "Metres from the camera to the picture card, at its nearest where the lens zooms;"
                + " empty for behind everything"));
    card.setOnAction(e -> changeCard());
    cardRow = Desk.row("Card at (m)", card);
    cardRow.managedProperty().bind(cardRow.visibleProperty());
    leaveOut.setId("delivery-leave-out");
    leaveOut.getStyleClass().add("small-button");
    leaveOut.setTooltip(
        new Tooltip("Tracker groups, stand-ins, gauges and meshes that do not go along"));
    leaveOut.setOnShowing(e -> fillMenu());
    leaveOut.getItems().add(new MenuItem("")); // filled when it is shown; an empty one never is
    getChildren().addAll(box, cardRow, Desk.row("Leave out", leaveOut));
  }

  /** Shows a delivery of the open shot; null for none. */
  void show(Delivery d) {
    filling = true;
    shown = d;
    parts.values().forEach(b -> b.setDisable(d == null));
    leaveOut.setDisable(d == null);
    cardRow.setVisible(d != null && d.contents().has(Part.CARD));
    card.getStyleClass().remove("bad");
    leaveOut.setText("nothing");
    if (d != null) {
      parts.forEach((p, b) -> b.setSelected(d.contents().has(p)));
      int off = d.contents().leftOut().size();
      leaveOut.setText(off == 0 ? "nothing" : off == 1 ? "1 by name" : off + " by name");
      OptionalDouble metres = d.contents().cardMetres();
      card.setText(metres.isPresent() ? Figures.of(metres.getAsDouble()) : "");
      card.setPromptText("");
      if (cardRow.isVisible()) {
        propose(d);
      }
    }
    filling = false;
  }

  /** Tells in the empty field where the card will stand. */
  private void propose(Delivery d) {
    ShotState state = session.state().get();
    session
        .jobs()
        .newest(
            this,
            Lane.MEASURE,
            "Placing the picture card of " + d.name(),
            p -> {
              var shot = d.extract().of(state.outgoing().shot(d.contents())).levelled();
              return shot.camera().isEmpty()
                  ? "no camera"
                  : "behind all, " + Figures.of(PictureCard.behindEverything(shot));
            },
            card::setPromptText,
            card::setPromptText);
  }

  private void change(Part p, boolean in) {
    if (filling || shown == null) {
      return;
    }
    if (!in && session.chosenRows().stream().anyMatch(x -> x.contents().needs(p))) {
      session.message().set(sentence(Contents.NOTHING_LEFT));
      show(shown);
      return;
    }
    change(c -> c.with(p, in), "contents");
  }

  private void changeCard() {
    if (filling || shown == null) {
      return;
    }
    String typed = card.getText().strip();
    try {
      OptionalDouble metres =
          typed.isEmpty()
              ? OptionalDouble.empty()
              : OptionalDouble.of(Double.parseDouble(typed.replace(',', '.')));
      shown.contents().withCard(metres);
      card.getStyleClass().remove("bad");
      change(c -> c.withCard(metres), "picture card");
    } catch (NumberFormatException e) {
      bad("'" + typed + "' is no distance; enter metres, or nothing for behind everything");
    } catch (IllegalArgumentException e) {
      bad(sentence(e.getMessage()));
    }
  }

  private void bad(String why) {
    if (!card.getStyleClass().contains("bad")) {
      card.getStyleClass().add("bad");
    }
    session.message().set(why);
  }

  private void fillMenu() {
    Set<String> off = shown.contents().leftOut();
    Set<String> names = new TreeSet<>(session.state().get().outgoing().names(shown.contents()));
    names.addAll(off); // what an earlier solve had can be let in again
    List<CheckMenuItem> items =
        names.stream()
            .map(
                n -> {
                  CheckMenuItem i = new CheckMenuItem(n);
                  i.setMnemonicParsing(false);
                  i.setSelected(off.contains(n));
                  i.setOnAction(e -> leaveOut(n, i.isSelected()));
                  return i;
                })
            .toList();
    leaveOut.getItems().setAll(items);
    if (items.isEmpty()) {
      MenuItem none = new MenuItem("Nothing with a name goes along");
      none.setDisable(true);
      leaveOut.getItems().setAll(none);
    }
  }

  private void leaveOut(String name, boolean out) {
    change(
        c -> {
          Set<String> all = new TreeSet<>(c.leftOut());
          if (out) {
            all.add(name);
          } else {
            all.remove(name);
          }
          return c.leavingOut(all);
        },
        "contents");
  }

  private void change(UnaryOperator<Contents> change, String what) {
    edits.deliveries(x -> x.withContents(change.apply(x.contents())), what);
  }

  private static String sentence(String s) {
    return Character.toUpperCase(s.charAt(0)) + s.substring(1);
  }
}
