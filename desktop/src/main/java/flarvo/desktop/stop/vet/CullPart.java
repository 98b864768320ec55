package flarvo.desktop.stop.vet;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.vet.CullPreview;
import flarvo.vet.Culling;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import javafx.collections.SetChangeListener;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Leaving trackers out: a reason, a number, what it would do, and the deed. */
public final class CullPart extends VBox {

  /** Reasons, as the list has them. */
  private enum Reason {
    OVER("error over", "1.0", "px"),
    MOVES("slipping, over", "0.5", "px"),
    BEST("outside the best", "90", "%"),
    SHORT("shorter than", "10", "frames"),
    ANGLE("parallax under", "1.0", "°"),
    REGION("in the drawn region", "", ""),
    CHOSEN("selected", "", "");

    private final String word;
    private final String usual;
    private final String unit;

    Reason(String word, String usual, String unit) {
      this.word = word;
      this.usual = usual;
      this.unit = unit;
    }

    @Override
    public String toString() {
      return word;
    }
  }

  private final Session session;
  private final VetWork vet;
  private final ComboBox<Reason> reason = new ComboBox<>();
  private final TextField value = new TextField();
  private final Label unit = new Label();
  private final Label preview = Desk.wrapped();
  private final Button deed = new Button("Cull");
  private final Button all = new Button("Restore");
  private final TextField fewest = new TextField();

  /** What the newest preview chose. */
  private Set<String> going = Set.of();

  CullPart(Session session, VetWork vet) {
    super(6);
    this.session = session;
    this.vet = vet;
    reason.getItems().setAll(Reason.values());
    reason.setValue(Reason.OVER);
    reason.setId("cull-reason");
    reason.getStyleClass().add("small-field");
    reason.setAccessibleText("Cull criterion");
    value.setText(Reason.OVER.usual);
    value.setId("cull-value");
    value.getStyleClass().addAll("small-field", "number");
    value.setPrefWidth(62);
    value.setAccessibleText("Cull threshold");
    unit.getStyleClass().add("quiet");
    reason
        .valueProperty()
        .addListener(
            (o, a, b) -> {
              value.setText(b.usual);
              value.setVisible(!b.usual.isEmpty());
              fill();
            });
    value.textProperty().addListener((o, a, b) -> fill());
    deed.setId("cull");
    deed.getStyleClass().add("small-button");
    deed.setOnAction(e -> why().ifPresent(w -> vet.cull(w, going)));
    all.setId("restore-all");
    all.getStyleClass().add("small-button");
    all.setOnAction(e -> vet.restore(vet.vetting().culled()));
    Button show = new Button("Select");
    show.getStyleClass().add("small-button");
    show.setOnAction(
        e -> {
          Set<String> names = going;
          session.selection().retainAll(names);
          session.selection().addAll(names);
        });
    fewest.setText(Integer.toString(vet.fewest().get()));
    fewest.setPrefWidth(48);
    fewest.getStyleClass().addAll("small-field", "number");
    fewest.textProperty().addListener((o, a, b) -> limitLive());
    getChildren()
        .addAll(
            Desk.heading("Cull"),
            new HBox(6, reason, value, unit),
            preview,
            new HBox(6, whole(deed), whole(show), whole(all)),
            Desk.row("min. live per frame", fewest));
    vet.measures().addListener((o, a, b) -> fill());
    vet.region().addListener((o, a, b) -> fill());
    vet.fewest().addListener((o, a, b) -> fill());
    session.selection().addListener((SetChangeListener<String>) c -> chosenChanged());
    fill();
  }

  private static Button whole(Button b) {
    b.setMinWidth(javafx.scene.layout.Region.USE_PREF_SIZE);
    return b;
  }

  private void chosenChanged() {
    if (reason.getValue() == Reason.CHOSEN) {
      fill();
    }
  }

  private void limitLive() {
    boolean good = fewest.getText().trim().matches("[0-9]{1,4}");
    mark(fewest, good);
    if (good) {
      vet.fewest().set(Integer.parseInt(fewest.getText().trim()));
    }
  }

  private static void mark(TextField f, boolean good) {
    f.getStyleClass().remove("bad");
    if (!good) {
      f.getStyleClass().add("bad");
    }
  }

  /** Empty while the number is none. */
  private Optional<Culling> why() {
    Reason r = reason.getValue();
    if (r == Reason.CHOSEN) {
      return Optional.of(new Culling.ByHand(Set.copyOf(session.selection())));
    }
    if (r == Reason.REGION) {
      List<Double> outline = vet.region().get();
      return outline.size() < 6
          ? Optional.empty()
          : Optional.of(
              new Culling.InRegion(
                  outline,
                  session.playhead().inOut().get() == null
                      ? session.playhead().range()
                      : session.playhead().inOut().get()));
    }
    double v;
    try {
      v = Double.parseDouble(value.getText().trim().replaceAll("[^0-9.]+$", ""));
    } catch (NumberFormatException e) {
      return Optional.empty();
    }
    if (!(v >= 0) || r == Reason.BEST && v > 100) {
      return Optional.empty();
    }
    return Optional.of(
        switch (r) {
          case OVER -> new Culling.Over(v);
          case MOVES -> new Culling.OnWhatMoves(v);
          case BEST -> new Culling.KeepBest(v / 100);
          case SHORT -> new Culling.ShorterThan((int) Math.ceil(v));
          case ANGLE -> new Culling.LittleParallax(Math.toRadians(v));
          case REGION, CHOSEN -> throw new IllegalStateException(r + " has no number");
        });
  }

  private void fill() {
    Reason r = reason.getValue();
    unit.setText(r.unit);
    Optional<Culling> why = why();
    mark(value, why.isPresent() || r.usual.isEmpty());
    int out = vet.vetting().culled().size();
    all.setText(out == 0 ? "Restore" : "Restore " + out);
    all.setDisable(out == 0);
    if (why.isEmpty()) {
      deed.setDisable(true);
      preview.setText(
          r == Reason.REGION
              ? "Alt-drag around trackers in Picture to draw a region."
              : "Enter a number in " + r.unit + ".");
      return;
    }
    vet.preview(why.get(), this::show);
  }

  private void show(Optional<CullPreview> made) {
    going = made.map(CullPreview::going).orElse(Set.of());
    deed.setDisable(going.isEmpty());
    preview.setText(made.map(p -> words(p, vet.fewest().get())).orElse("Measuring the solve…"));
  }

  private static String words(CullPreview p, int fewest) {
    if (p.going().isEmpty()) {
      return "No trackers match.";
    }
    String thin =
        p.thinFrames().isEmpty()
            ? "every frame keeps " + fewest + " live trackers"
            : p.thinFrames().size()
                + (p.thinFrames().size() == 1 ? " frame drops" : " frames drop")
                + " under "
                + fewest
                + " live trackers, first at "
                + p.thinFrames().get(0);
    return String.format(
        Locale.ROOT,
        "%d %s, %d remain; %.3f px without %s, before refining; %s.",
        p.going().size(),
        p.going().size() == 1 ? "tracker is culled" : "trackers are culled",
        p.staying(),
        p.rmsPx(),
        p.going().size() == 1 ? "it" : "them",
        thin);
  }
}
