package flarvo.desktop.stop.plate;

import flarvo.decision.PlateDecision;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.lens.Lens;
import flarvo.lens.LensChoice;
import flarvo.lens.LensSheet;
import flarvo.lens.ShotLens;
import flarvo.receive.ReceivedSet;
import flarvo.vet.ResidualDistortion;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.scene.control.ComboBox;
import javafx.scene.layout.VBox;

/** Which lens is used, and its values. */
final class LensPart extends VBox {

  private static final String NONE = "none";
  private static final String TYPE = "type values…";
  private static final String REFINED = "refined at Vet";
  private static final String MAP = "from a map…";

  private final Session session;
  private final LensWorkbench bench;
  private final ComboBox<String> use = new ComboBox<>();
  private final VBox values = new VBox(4);
  private Optional<VBox> asked = Optional.empty();
  private boolean filling;

  LensPart(Session session, LensWorkbench bench) {
    super(4);
    this.session = session;
    this.bench = bench;
    use.setId("plate-lens");
    use.getStyleClass().add("small-field");
    use.setOnAction(e -> chosen(use.getValue()));
    getChildren().addAll(Desk.heading("Lens"), Desk.row("Use", use), values);
    session.state().addListener((o, a, b) -> fill());
    session
        .lens()
        .addListener(
            (o, a, b) -> {
              asked = Optional.empty();
              fill();
            });
    session
        .playhead()
        .frame()
        .addListener(
            (o, a, b) -> {
              if (session.lens().get().track().filter(t -> t.breathes()).isPresent()) {
                fill();
              }
            });
    fill();
  }

  private List<String> sheets() {
    return session.state().get().received().map(ReceivedSet::lenses).orElse(List.of()).stream()
        .map(LensSheet::fileName)
        .toList();
  }

  private void chosen(String what) {
    if (filling || what == null) {
      return;
    }
    if (what.equals(TYPE)) {
      asked = Optional.of(new TypedLens(session.lens().get().track(), this::typed));
      fill();
    } else if (what.equals(MAP)) {
      asked = Optional.of(new MapForm(bench::fitMap));
      fill();
    } else if (what.equals(REFINED)) {
      session.store().decide(new PlateDecision.UseRefinedLens());
    } else if (what.equals(NONE)) {
      session.store().decide(new PlateDecision.UseNoLens());
    } else if (sheets().contains(what)) {
      session.store().decide(new PlateDecision.UseReceivedLens(what));
    }
  }

  private void typed(Lens lens) {
    asked = Optional.empty();
    bench.type(flarvo.lens.LensTrack.of(lens));
  }

  /** Whether refining left terms that may be the lens of the original plates. */
  private boolean hasRefined() {
    return session
        .state()
        .get()
        .vetting()
        .solve()
        .filter(r -> !r.rest().equals(ResidualDistortion.NONE))
        .isPresent();
  }

  private void fill() {
    ShotLens l = session.lens().get();
    filling = true;
    List<String> all = new ArrayList<>(sheets());
    LensChoice choice = bench.work().choice();
    if (choice instanceof LensChoice.Given g) {
      all.add(g.from());
    }
    if (hasRefined() && !all.contains(REFINED)) {
      all.add(REFINED);
    }
    all.add(MAP);
    all.add(NONE);
    all.add(TYPE);
    use.getItems().setAll(all);
    use.setValue(
        asked.isPresent()
            ? asked.get() instanceof MapForm ? MAP : TYPE
            : choice instanceof LensChoice.None || l.source().isEmpty() ? NONE : l.source());
    use.setDisable(!session.isOpen());
    filling = false;
    values.getChildren().clear();
    if (asked.isPresent()) {
      values.getChildren().add(asked.get());
    } else {
      l.track().ifPresent(t -> show(t.at(session.playhead().frame().get()), t.breathes()));
    }
  }

  private void show(Lens now, boolean breathes) {
    add("Model", now.distortion().model().title());
    add("Normalised by", now.normalisation().code());
    List<String> names = now.distortion().model().coefficients();
    double[] k = now.distortion().coefficients();
    for (int i = 0; i < k.length; i++) {
      if (k[i] != now.distortion().model().neutral(names.get(i))) {
        add(names.get(i), String.format(Locale.ROOT, "%.5f", k[i]));
      }
    }
    if (now.centreX() != 0.5 || now.centreY() != 0.5) {
      add("Centre", String.format(Locale.ROOT, "%.4f, %.4f", now.centreX(), now.centreY()));
    }
    if (breathes) {
      add("Changes", "from frame to frame");
    }
  }

  private void add(String name, String value) {
    values.getChildren().add(Desk.row(name, Desk.number(value)));
  }
}
