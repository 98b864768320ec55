package flarvo.desktop.stop.trace;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.desktop.stop.Tips;
import flarvo.trace.HandFeature;
import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;
import javafx.collections.ListChangeListener;
import javafx.scene.control.Button;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Features that are marked by hand: the list, and what is done with the selected one. */
final class HandPart extends VBox {

  private final TraceBench bench;
  private final HandBench hand;
  private final Button mark;
  private final Button begin;
  private final Button end;
  private final Button remove;
  private final TextField search =
      Fields.small("trace-search", "", "Pixels round the place where it is expected", 64);
  private final HBox searchRow = Desk.row("Search within, px", search);
  private final FlowPane list = new FlowPane(4, 4);

  HandPart(Session session, TraceBench bench) {
    super(8);
    this.bench = bench;
    this.hand = bench.hand();
    mark =
        Fields.button(
            "trace-mark", "Mark features", () -> hand.marking().set(!hand.marking().get()));
    Tips.on(
        mark,
        "Click in the picture: each mark is followed both ways. Drag a feature to correct it");
    begin = Fields.button("trace-begin-here", "Begin here", hand::beginHere);
    end = Fields.button("trace-end-here", "End here", hand::endHere);
    Tips.on(begin, "The selected feature is not seen before this frame");
    Tips.on(end, "The selected feature is not seen after this frame");
    remove = Fields.button("trace-feature-remove", "Remove feature", hand::remove);
    list.setId("trace-hand");
    getChildren()
        .addAll(
            Desk.heading("By hand"),
            new FlowPane(6, 6, mark, begin, end, remove),
            list,
            searchRow,
            new FitView(session, bench));
    search.setPromptText("free");
    Tips.on(
        search,
        "How far from where its last step leads the selected feature may be found. Empty: as"
            + " far as it can be followed");
    search.setOnAction(e -> searchWithin());
    search
        .focusedProperty()
        .addListener(
            (o, a, b) -> {
              if (!b) {
                searchWithin();
              }
            });
    searchRow.managedProperty().bind(searchRow.visibleProperty());
    hand.marking().addListener((o, a, b) -> fill());
    hand.selected().addListener((o, a, b) -> fill());
    hand.waiting().addListener((ListChangeListener<Object>) c -> fill());
    session.state().addListener((o, a, b) -> fill());
    bench.plates().addListener((o, a, b) -> fill());
    fill();
  }

  private void fill() {
    mark.setText(hand.marking().get() ? "Stop marking" : "Mark features");
    mark.setDisable(!bench.obstacle().isEmpty());
    boolean none = hand.feature().isEmpty();
    List.of(begin, end, remove).forEach(b -> b.setDisable(none));
    searchRow.setVisible(!none);
    if (!search.isFocused()) {
      search.setText(hand.feature().map(HandPart::words).orElse(""));
    }
    list.getChildren().setAll(hand.shown().stream().map(this::button).toList());
    list.setManaged(!list.getChildren().isEmpty());
  }

  private static String words(HandFeature h) {
    return h.searchPx().isEmpty()
        ? ""
        : String.format(Locale.ROOT, "%.0f", h.searchPx().getAsDouble());
  }

  private void searchWithin() {
    String text = search.getText().trim();
    try {
      hand.search(
          text.isEmpty() ? OptionalDouble.empty() : OptionalDouble.of(Double.parseDouble(text)));
    } catch (NumberFormatException e) {
      bench.failed("'" + text + "' is not a number of pixels; leave the field empty for no limit");
    }
  }

  private Button button(HandFeature h) {
    Button b =
        Fields.button(
            "trace-hand-" + h.name(),
            h.name() + " · " + h.path().size(),
            () -> hand.selected().set(h.name()));
    Tips.on(
        b,
        h.marks().size()
            + (h.marks().size() == 1 ? " mark, seen on " : " marks, seen on ")
            + h.path().size()
            + " frames");
    if (h.name().equals(hand.selected().get())) {
      b.getStyleClass().add("on");
    }
    return b;
  }
}
