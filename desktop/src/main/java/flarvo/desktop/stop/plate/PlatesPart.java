package flarvo.desktop.stop.plate;

import flarvo.desktop.state.MeasuredPlates;
import flarvo.desktop.state.PlateFindings;
import flarvo.desktop.state.Session;
import flarvo.desktop.state.SnapshotProperty;
import flarvo.desktop.state.Worked;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.desktop.stop.Tips;
import flarvo.plate.PlateTable;
import flarvo.plate.field.Interlacing;
import flarvo.plate.match.PlateCheck;
import flarvo.scene.PlateSequence;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;

/** The plates side by side, and whether each belongs behind the camera. */
final class PlatesPart extends VBox {

  private final Session session;
  private final SnapshotProperty<Worked<List<PlateCheck>>> checks;
  private final SnapshotProperty<Worked<PlateFindings.Found>> found;
  private final FieldBench bench;

  PlatesPart(Session session, FieldBench bench) {
    super(6);
    this.session = session;
    this.bench = bench;
    found = new SnapshotProperty<>(session.store().now(), s -> s.get(PlateFindings.SLOT));
    found.addListener((o, a, b) -> fill());
    bench.said().addListener((o, a, b) -> fill());
    session.shot().addListener((o, a, b) -> fill());
    checks = new SnapshotProperty<>(session.store().now(), s -> s.get(MeasuredPlates.SLOT));
    checks.addListener((o, a, b) -> fill());
    fill();
  }

  private void fill() {
    getChildren().setAll(Desk.heading("Plates"));
    List<PlateTable.Row> rows = PlateTable.of(session.shot().get().plates());
    for (PlateTable.Row r : rows) {
      getChildren().add(plate(r));
    }
    if (rows.isEmpty()) {
      Label none = Desk.wrapped();
      none.setText("No plates. Drop the folder of an image sequence on the window.");
      getChildren().add(none);
    }
  }

  private VBox plate(PlateTable.Row r) {
    PlateSequence p = r.plates();
    VBox box = new VBox(1);
    box.getChildren().add(Desk.row(p.role().word(), Desk.number(p.frames().toString())));
    Label facts = Desk.wrapped();
    String depth = p.facts().depth();
    facts.setText(
        p.pattern()
            + "\n"
            + p.size()
            + p.inner()
                .map(i -> (i.isCutBy(p.size()) ? ", part of " : ", overscan round ") + i.picture())
                .orElse("")
            + (depth.isEmpty() ? "" : ", " + depth)
            + (p.facts().alpha() ? ", alpha" : "")
            + (p.facts().colour().isEmpty() ? "" : ", " + p.facts().colour())
            + (r.relation().isEmpty() ? "" : ", " + r.relation()));
    box.getChildren().add(facts);
    for (String n : r.notes()) {
      box.getChildren().add(note(n, true));
    }
    check(p).ifPresent(c -> box.getChildren().add(measured(c)));
    for (String n : found().map(f -> f.strays().get(p)).orElse(List.of())) {
      box.getChildren().add(note(n, true));
    }
    found()
        .map(f -> f.fields().get(p))
        .filter(Interlacing::isCombed)
        .ifPresent(i -> box.getChildren().addAll(combed(p, i).toArray(Node[]::new)));
    return box;
  }

  private Optional<PlateCheck> check(PlateSequence p) {
    Worked<List<PlateCheck>> w = checks.get();
    return w.value() == null || !w.current()
        ? Optional.empty()
        : w.value().stream().filter(c -> c.plates().equals(p)).findFirst();
  }

  private Optional<PlateFindings.Found> found() {
    Worked<PlateFindings.Found> w = found.get();
    return w.value() == null || !w.current() ? Optional.empty() : Optional.of(w.value());
  }

  /** What is combed, and what can be done about it. */
  private List<Node> combed(PlateSequence p, Interlacing i) {
    Label words = note("The plates are " + i.words() + ".", true);
    words.setId("plate-fields-" + p.role().word());
    Button split =
        Fields.button("plate-split-fields", "Split fields", () -> bench.split(p, i.order()));
    Tips.on(split, "Makes plates of double rate in a folder beside these, each field a frame");
    split.setDisable(i.order().isEmpty());
    Button blend = Fields.button("plate-blend-fields", "Blend fields", () -> bench.blend(p));
    Tips.on(blend, "Makes plates of the same rate in a folder beside these, both fields averaged");
    List<Node> out = new ArrayList<>(List.of(words, new FlowPane(6, 6, split, blend)));
    if (!bench.said().get().isEmpty()) {
      out.add(note(bench.said().get(), false));
    }
    return out;
  }

  private static Label measured(PlateCheck c) {
    Label l = note(c.words(), c.verdict() == PlateCheck.Verdict.DOES_NOT_BELONG);
    l.setId("plate-check-" + c.plates().role().word());
    return l;
  }

  private static Label note(String words, boolean attention) {
    Label l = Desk.wrapped();
    l.setText(words);
    if (attention) {
      l.getStyleClass().add("attention");
    }
    return l;
  }
}
