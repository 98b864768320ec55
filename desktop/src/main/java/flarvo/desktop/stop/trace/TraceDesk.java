package flarvo.desktop.stop.trace;

import flarvo.decision.TraceDecision;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.desktop.stop.Tips;
import flarvo.scene.Optics;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.trace.DrawnMask;
import flarvo.trace.KeyedMatte;
import flarvo.trace.TraceOptions;
import flarvo.trace.TraceWork;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** What is followed, where not, and the solve of it, in the order of work. */
final class TraceDesk extends Desk {

  private static final String OUTSIDE = "outside the masks";
  private static final String INSIDE = "inside the masks";
  private static final String FIND = "find";
  private static final String STRAIGHT = "plates are straight";
  private static final double USUAL_TARGET_PX = 0.5;

  private final Session session;
  private final TraceBench bench;
  private final ComboBox<PlateRole> plates = new ComboBox<>();
  private final TextField features =
      Fields.small(
          "trace-features", "" + TraceOptions.USUAL_FEATURES, "Features in each frame", 64);
  private final TextField pattern =
      Fields.small(
          "trace-pattern",
          "" + TraceOptions.USUAL_RADIUS,
          "Pixels of a pattern to each side of its centre",
          64);
  private final TextField error =
      Fields.small(
          "trace-error",
          "" + TraceOptions.USUAL_ERROR_PX,
          "Largest standard error of a feature, in pixels",
          64);
  private final Label expected = number("");
  private final Button follow = Fields.button("trace-follow", "Follow", this::follow);
  private final Button draw;
  private final Button remove;
  private final ComboBox<String> side = new ComboBox<>();
  private final VBox masks = new VBox(2);
  private final ComboBox<KeyedMatte> matte = new ComboBox<>();
  private final HBox matteRow = row("Keyed plates", matte);
  private final TextField width =
      Fields.small("trace-film-width", "", "Width of the film back in millimetres", 64);
  private final TextField height =
      Fields.small("trace-film-height", "", "Height of the film back in millimetres", 64);
  private final TextField focal =
      Fields.small("trace-focal", "", "Focal length in millimetres; empty to find it", 64);
  private final CheckBox zoom = new CheckBox("zoom");
  private final ComboBox<String> lens = new ComboBox<>();
  private final Button solve = Fields.button("trace-solve", "Solve", this::solve);
  private final Button all = Fields.button("trace-all", "Follow, solve and level", this::all);
  private final Label said = Desk.wrapped();
  private boolean filling;
  private String filledFor = "";

  TraceDesk(Session session, TraceBench bench) {
    super("Trace");
    this.session = session;
    this.bench = bench;
    draw =
        Fields.button("trace-mask", "Draw mask", () -> bench.drawing().set(!bench.drawing().get()));
    remove = Fields.button("trace-mask-remove", "Remove mask", bench::removeMask);
    follow.getStyleClass().add("main-button");
    said.setId("trace-said");
    bench.said().addListener((o, a, b) -> said.setText(b));
    said.managedProperty().bind(said.textProperty().isNotEmpty());
    choices();
    focal.setPromptText("find");
    zoom.setId("trace-zoom");
    Tips.on(zoom, "Finds a focal length for each frame; needs undistorted tracks");
    focal.disableProperty().bind(zoom.selectedProperty());
    lens.disableProperty().bind(zoom.selectedProperty());
    width.setPromptText("width");
    height.setPromptText("height");
    Tips.on(pattern, "Larger for soft or grainy plates, smaller for fine detail");
    Tips.on(error, "Smaller keeps fewer and surer features");
    Tips.on(all, "From the plates to a solve that stands on its ground, in one go");
    getChildren()
        .addAll(
            said,
            row("Plates", plates),
            row("Features a frame", features),
            row("Pattern, ± px", pattern),
            row("Error at most, px", error),
            row("Takes about", expected),
            follow,
            new HandPart(session, bench),
            new PlanePart(session, bench),
            new MoverPart(session, bench, this::findMovers),
            heading("Masks"),
            new FlowPane(6, 6, draw, remove),
            matteRow,
            row("Follow", side),
            masks,
            heading("Solve"),
            row("Film back, mm", new HBox(6, width, height)),
            row("Focal length, mm", new HBox(6, focal, zoom)),
            row("Lens", lens),
            new FlowPane(6, 6, solve, all));
    features.textProperty().addListener((o, a, b) -> expect());
    pattern
        .textProperty()
        .addListener(
            (o, a, b) ->
                plain(pattern)
                    .ifPresent(
                        r -> {
                          if (r >= TraceOptions.SMALLEST_RADIUS
                              && r <= TraceOptions.LARGEST_RADIUS) {
                            bench.hand().radius().set((int) r);
                          }
                        }));
    session.state().addListener((o, a, b) -> fill());
    session.shot().addListener((o, a, b) -> fill());
    bench.mask().addListener((o, a, b) -> fillMasks());
    bench.drawing().addListener((o, a, b) -> fillMasks());
    fill();
  }

  private void choices() {
    plates.setId("trace-plates");
    plates.getStyleClass().add("small-field");
    plates.setConverter(Fields.shown(PlateRole::word));
    plates.setOnAction(
        e -> {
          if (!filling && plates.getValue() != null) {
            bench.plates().set(plates.getValue());
            session.view().plateRole().set(plates.getValue());
            fill();
          }
        });
    side.setId("trace-side");
    side.getStyleClass().add("small-field");
    side.getItems().setAll(OUTSIDE, INSIDE);
    side.setOnAction(
        e -> {
          if (!filling && side.getValue() != null) {
            bench.side(side.getValue().equals(INSIDE));
          }
        });
    matte.setId("trace-matte");
    matte.getStyleClass().add("small-field");
    matte.getItems().setAll(KeyedMatte.values());
    matte.setConverter(Fields.shown(TraceDesk::words));
    matte.setOnAction(
        e -> {
          if (!filling && matte.getValue() != null) {
            bench.matte(matte.getValue());
          }
        });
    matteRow.managedProperty().bind(matteRow.visibleProperty());
    lens.setId("trace-lens");
    lens.getStyleClass().add("small-field");
  }

  private static String words(KeyedMatte m) {
    return switch (m) {
      case NONE -> "no mask";
      case ALPHA -> "mask their alpha";
      case WHITE -> "mask their white";
    };
  }

  private List<PlateRole> roles() {
    return session.shot().get().plates().stream().map(PlateSequence::role).distinct().toList();
  }

  private void fill() {
    filling = true;
    List<PlateRole> roles = roles();
    plates.getItems().setAll(roles);
    if (!roles.contains(bench.plates().get()) && !roles.isEmpty()) {
      bench.plates().set(roles.get(0));
    }
    plates.setValue(roles.isEmpty() ? null : bench.plates().get());
    side.setValue(bench.work().inside() ? INSIDE : OUTSIDE);
    boolean original = bench.plates().get() == PlateRole.ORIGINAL;
    boolean known = original && session.lens().get().track().isPresent();
    List<String> ways =
        known ? List.of("from Plate") : original ? List.of(FIND, STRAIGHT) : List.of(STRAIGHT);
    if (!lens.getItems().equals(ways)) {
      lens.getItems().setAll(ways);
      lens.setValue(ways.get(0));
    }
    known();
    filling = false;
    fillMasks();
    expect();
    String no = bench.obstacle();
    follow.setDisable(!no.isEmpty());
    all.setDisable(!no.isEmpty());
    solve.setDisable(!bench.solveObstacle().isEmpty());
    say(sentence());
  }

  /** What is known of the camera: what was typed for this shot stays. */
  private void known() {
    String name = session.state().get().name();
    if (!name.equals(filledFor)) {
      filledFor = name;
      width.setText("");
      height.setText("");
      focal.setText("");
    }
    Optional<Optics> o =
        session
            .solved()
            .camera()
            .map(c -> c.optics().at(c.frames().clamp(session.solved().frames().first())));
    if (o.isPresent() && width.getText().isBlank() && height.getText().isBlank()) {
      width.setText(number(o.get().filmWidthMm()));
      height.setText(number(o.get().filmHeightMm()));
    }
  }

  private static String number(double v) {
    return String.format(Locale.ROOT, "%.4f", v).replaceAll("0+$", "").replaceAll("\\.$", "");
  }

  private void fillMasks() {
    List<DrawnMask> list = bench.work().masks();
    draw.setText(bench.drawing().get() ? "Stop drawing" : "Draw mask");
    draw.setDisable(!bench.obstacle().isEmpty());
    remove.setDisable(bench.mask().get() == null);
    side.setDisable(!bench.work().hasMasks());
    boolean keyed = bench.hasKeyedPlates() || bench.work().matte().isUsed();
    matteRow.setVisible(keyed);
    matte.setValue(bench.work().matte());
    masks
        .getChildren()
        .setAll(
            list.stream()
                .map(
                    m -> {
                      Button b =
                          Fields.button(
                              "trace-" + m.name().replace(' ', '-'),
                              m.name()
                                  + " · "
                                  + m.shape().keys().size()
                                  + (m.shape().keys().size() == 1 ? " key" : " keys")
                                  + m.plates().map(r -> " · " + r.word()).orElse(""),
                              () -> bench.mask().set(m.name()));
                      if (m.name().equals(bench.mask().get())) {
                        b.getStyleClass().add("on");
                      }
                      return b;
                    })
                .toList());
  }

  private void expect() {
    OptionalDouble n = plain(features);
    expected.setText(
        n.isPresent() && n.getAsDouble() >= 1 ? bench.expected((int) n.getAsDouble()) : "");
  }

  private String sentence() {
    TraceWork w = bench.work();
    Shot s = session.solved();
    if (!session.isOpen() || s.plates().isEmpty()) {
      return "Features are followed in plates. Drop plates on the window.";
    }
    if (w.solve().isPresent()) {
      return "Solved from the plates. Vet measures it, Level sets its scale.";
    }
    if (w.hasTracks()) {
      return "Features are followed. Solve next.";
    }
    if (!s.observations().isEmpty()) {
      return "2D tracks came with this shot: nothing has to be traced. Features that are followed"
          + " here are added to them.";
    }
    return s.camera().isPresent()
        ? "No 2D tracks came: followed features tell whether the solve holds."
        : "No solve came. Follow features, then solve.";
  }

  private static OptionalDouble plain(TextField f) {
    try {
      double v = Double.parseDouble(f.getText().trim());
      return Double.isFinite(v) ? OptionalDouble.of(v) : OptionalDouble.empty();
    } catch (NumberFormatException e) {
      return OptionalDouble.empty();
    }
  }

  void follow() {
    follow(() -> {});
  }

  private void follow(Runnable then) {
    if (!bench.obstacle().isEmpty()) {
      session.message().set(bench.obstacle());
      return;
    }
    try {
      TraceOptions o =
          new TraceOptions(
              (int) plain(features).orElse(0),
              (int) plain(pattern).orElse(0),
              plain(error).orElse(0));
      bench.follow(o.features(), o.radius(), o.errorPx(), then);
    } catch (IllegalArgumentException e) {
      bench.said().set("Check the settings: " + e.getMessage());
    }
  }

  void solve() {
    solve(() -> {});
  }

  private void solve(Runnable then) {
    OptionalDouble w = plain(width);
    OptionalDouble h = plain(height);
    OptionalDouble f = plain(focal);
    if (w.orElse(0) <= 0 || h.orElse(0) <= 0) {
      bench.said().set("Type the film back, width and height in millimetres, such as 24 and 13.5");
      return;
    }
    if (!zoom.isSelected() && !focal.getText().isBlank() && !(f.orElse(0) > 0)) {
      bench.said().set("The focal length is a number of millimetres, or empty to find it");
      return;
    }
    bench.solve(
        zoom.isSelected()
            ? new TraceDecision.SolveZoom(w.getAsDouble(), h.getAsDouble(), USUAL_TARGET_PX)
            : new TraceDecision.SolvePlates(
                w.getAsDouble(),
                h.getAsDouble(),
                f,
                FIND.equals(lens.getValue()) ? 3 : 0,
                USUAL_TARGET_PX),
        then);
  }

  /** Finds what moves against the rest, with the focal length where one was typed. */
  void findMovers() {
    findMovers(() -> {});
  }

  private void findMovers(Runnable then) {
    double w = plain(width).orElse(0);
    double f = plain(focal).orElse(0);
    bench.movers().find(w > 0 && f > 0 ? OptionalDouble.of(f / w) : OptionalDouble.empty(), then);
  }

  /** Follows, leaves out what moves, solves and levels. */
  void all() {
    if (plain(width).orElse(0) <= 0 || plain(height).orElse(0) <= 0) {
      solve(); // says what is missing, before the long part
      return;
    }
    follow(() -> findMovers(() -> solve(bench::level)));
  }
}
