package flarvo.desktop.stop.dispatch;

import flarvo.decision.ShotState;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Tips;
import flarvo.desktop.work.Lane;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Part;
import flarvo.dispatch.PictureCard;
import flarvo.report.Figures;
import flarvo.scene.TrackerSet;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import javafx.scene.control.CheckBox;
import javafx.scene.control.TextField;
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
  private final TextField locators = new TextField();
  private final VBox drawn;
  private final NamesMenu leaveOut;
  private final NamesMenu clouds;
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
    Tips.on(
        card,
        "Metres from the camera to the picture card, at its nearest where the lens zooms;"
            + " empty for behind everything");
    card.setOnAction(e -> changeCard());
    cardRow = Desk.row("Card at (m)", card);
    cardRow.managedProperty().bind(cardRow.visibleProperty());
    leaveOut =
        new NamesMenu(
            "delivery-leave-out",
            "Tracker groups, stand-ins, gauges and meshes that do not go along",
            this::names,
            (n, out) -> change(c -> c.leavingOut(with(c.leftOut(), n, out)), "contents"));
    clouds =
        new NamesMenu(
            "delivery-clouds",
            "Tracker groups that go as one cloud of points each, and not as locators",
            this::groups,
            (n, in) -> change(c -> c.withClouds(with(c.clouds(), n, in)), "contents"));
    locators.setId("delivery-locator-metres");
    locators.setPrefColumnCount(5);
    locators.setPromptText("usual");
    locators.getStyleClass().addAll("number", "small-field");
    Tips.on(locators, "Metres that locators are drawn at; empty for a size that suits the scene");
    locators.setOnAction(e -> changeLocators());
    drawn = new VBox(8, Desk.row("As points", clouds), Desk.row("Locator size (m)", locators));
    drawn.managedProperty().bind(drawn.visibleProperty());
    getChildren().addAll(box, cardRow, drawn, Desk.row("Leave out", leaveOut));
  }

  /** Shows a delivery of the open shot; null for none. */
  void show(Delivery d) {
    filling = true;
    shown = d;
    parts.values().forEach(b -> b.setDisable(d == null));
    leaveOut.setDisable(d == null);
    cardRow.setVisible(d != null && d.contents().has(Part.CARD));
    card.getStyleClass().remove("bad");
    drawn.setVisible(d != null && d.contents().has(Part.TRACKERS));
    locators.getStyleClass().remove("bad");
    leaveOut.show(d == null ? Set.of() : d.contents().leftOut());
    clouds.show(d == null ? Set.of() : d.contents().clouds());
    if (d != null) {
      parts.forEach((p, b) -> b.setSelected(d.contents().has(p)));
      card.setText(text(d.contents().cardMetres()));
      locators.setText(text(d.contents().locatorMetres()));
      card.setPromptText("");
      if (cardRow.isVisible()) {
        propose(d);
      }
    }
    filling = false;
  }

  private static String text(OptionalDouble metres) {
    return metres.isPresent() ? Figures.of(metres.getAsDouble()) : "";
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
    try {
      OptionalDouble metres = metres(card);
      shown.contents().withCard(metres);
      card.getStyleClass().remove("bad");
      change(c -> c.withCard(metres), "picture card");
    } catch (IllegalArgumentException e) {
      bad(card, sentence(e.getMessage()));
    }
  }

  private void bad(TextField field, String why) {
    if (!field.getStyleClass().contains("bad")) {
      field.getStyleClass().add("bad");
    }
    session.message().set(why);
  }

  private void changeLocators() {
    if (filling || shown == null) {
      return;
    }
    try {
      OptionalDouble metres = metres(locators);
      shown.contents().withLocators(metres);
      locators.getStyleClass().remove("bad");
      change(c -> c.withLocators(metres), "size of locators");
    } catch (IllegalArgumentException e) {
      bad(locators, sentence(e.getMessage()));
    }
  }

  /**
   * Empty where nothing is typed.
   *
   * @throws IllegalArgumentException when it is no number
   */
  private static OptionalDouble metres(TextField field) {
    String typed = field.getText().strip();
    try {
      return typed.isEmpty()
          ? OptionalDouble.empty()
          : OptionalDouble.of(Double.parseDouble(typed.replace(',', '.')));
    } catch (NumberFormatException e) {
      throw new IllegalArgumentException(
          "'" + typed + "' is no length; enter metres, or nothing for the usual", e);
    }
  }

  private List<String> names() {
    return session.state().get().outgoing().names(shown.contents());
  }

  private List<String> groups() {
    return session.state().get().staged().trackers().stream().map(TrackerSet::name).toList();
  }

  private static Set<String> with(Set<String> names, String name, boolean in) {
    Set<String> all = new TreeSet<>(names);
    if (in) {
      all.add(name);
    } else {
      all.remove(name);
    }
    return all;
  }

  private void change(UnaryOperator<Contents> change, String what) {
    edits.deliveries(x -> x.withContents(change.apply(x.contents())), what);
  }

  private static String sentence(String s) {
    return Character.toUpperCase(s.charAt(0)) + s.substring(1);
  }
}
