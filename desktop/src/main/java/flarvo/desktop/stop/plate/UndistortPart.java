package flarvo.desktop.stop.plate;

import flarvo.decision.Decided;
import flarvo.decision.Outcome;
import flarvo.decision.PlateDecision;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.desktop.stop.Tips;
import flarvo.plate.RasterReader;
import flarvo.plate.remap.Filter;
import flarvo.plate.remap.Light;
import flarvo.plate.remap.OverscanRule;
import flarvo.plate.remap.SequenceName;
import flarvo.plate.remap.Undistortion;
import flarvo.plate.tag.TagHome;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.layout.VBox;

/** Making an undistorted sequence of the original plates. */
final class UndistortPart extends VBox {

  private static final String FIT = "hold all";

  private final Session session;
  private final ComboBox<String> filter =
      choice("plate-filter", "Filter", "bicubic", "nearest", "bilinear", "bicubic", "lanczos");
  private final ComboBox<String> overscan =
      choice("plate-overscan", "Overscan", "none", "none", FIT);
  private final ComboBox<String> format =
      choice("plate-format", "Format", "as original", "as original", "png", "tif", "exr");
  private final ComboBox<String> light =
      choice("plate-light", "Filter in", "encoded", "encoded", "linear");
  private final Label where = Desk.wrapped();
  private final Label result = Desk.wrapped();
  private final Button deed = Fields.button("plate-undistort", "Undistort", this::run);

  UndistortPart(Session session) {
    super(6);
    this.session = session;
    result.setId("plate-result");
    result.managedProperty().bind(result.textProperty().isNotEmpty());
    deed.getStyleClass().add("main-button");
    getChildren()
        .addAll(
            Desk.heading("Undistorted plates"),
            Desk.row("Filter", filter),
            Desk.row("Filter in", light),
            Desk.row("Overscan", overscan),
            Desk.row("Format", format),
            where,
            deed,
            result);
    overscan.setEditable(true);
    Tips.on(
        overscan,
        "none, hold all, the size of the undistorted picture WxH, or WxH+X+Y to begin X, Y pixels"
            + " within the original");
    session.shot().addListener((o, a, b) -> fill());
    session.lens().addListener((o, a, b) -> fill());
    format.valueProperty().addListener((o, a, b) -> fill());
    fill();
  }

  private static ComboBox<String> choice(
      String id, String accessible, String first, String... all) {
    ComboBox<String> c = new ComboBox<>();
    c.getItems().setAll(all);
    c.setValue(first);
    c.setId(id);
    c.getStyleClass().add("small-field");
    c.setAccessibleText(accessible);
    return c;
  }

  private Optional<PlateSequence> original() {
    return session.shot().get().plate(PlateRole.ORIGINAL);
  }

  /** Why it cannot be done now; empty where it can. */
  String obstacle() {
    if (session.lens().get().track().isEmpty()) {
      return session.lens().get().problem();
    }
    return original().isEmpty() ? "No original plates were received" : "";
  }

  private void fill() {
    deed.setDisable(!obstacle().isEmpty());
    where.setText(
        obstacle().isEmpty()
            ? "Writes "
                + target(original().orElseThrow()).pattern()
                + " in the folder "
                + target(original().orElseThrow()).folder().getFileName()
                + ", beside the original's."
            : obstacle() + ".");
  }

  private Undistortion how() {
    String f = format.getValue();
    return new Undistortion(
        Filter.of(filter.getValue()).orElseThrow(),
        rule(),
        Light.of(light.getValue()).orElseThrow(),
        f.startsWith("as") ? "" : "." + f);
  }

  /** None, all, or a size that was typed. */
  private OverscanRule rule() {
    String typed = overscan.getEditor().getText().trim();
    return typed.equals(FIT) ? new OverscanRule.Fit() : OverscanRule.parse(typed);
  }

  /** Why what was typed is no overscan; empty where it is one. */
  private String wrongOverscan() {
    try {
      rule();
      return "";
    } catch (IllegalArgumentException e) {
      return "'" + overscan.getEditor().getText() + "' is no overscan; type WxH, or WxH+X+Y";
    }
  }

  private SequenceName target(PlateSequence p) {
    String f = format.getValue();
    return Undistortion.target(p, f.startsWith("as") ? "" : "." + f);
  }

  void run() {
    String wrong = obstacle().isEmpty() ? wrongOverscan() : obstacle();
    if (!wrong.isEmpty()) {
      session.message().set(wrong);
      result.setText(wrong);
      return;
    }
    Undistortion how = how();
    SequenceName target = how.target(original().orElseThrow());
    result.setText("");
    session
        .store()
        .workAgain(
            "Undistorting " + original().orElseThrow().pattern(),
            (s, p) ->
                new Made(
                    Decided.of(s, new PlateDecision.Undistort(how), p), leftOut(s.shot(), target)),
            Made::decided,
            m ->
                say((Outcome.Undistorted) m.decided().outcome().orElseThrow(), m.leftOut(), target),
            why -> {
              result.setText(why);
              session.message().set(why);
            });
  }

  private record Made(Decided decided, List<String> leftOut) {}

  /** What the plates say, by their first, and the new pictures cannot. */
  private static List<String> leftOut(Shot s, SequenceName target) {
    PlateSequence p = s.plate(PlateRole.ORIGINAL).orElseThrow();
    return RasterReader.read(p.file(p.frames().first()))
        .tags()
        .notIn(TagHome.ofName(target.suffix()));
  }

  private void say(Outcome.Undistorted o, List<String> leftOut, SequenceName target) {
    StringBuilder s = new StringBuilder();
    s.append(o.made()).append(" made, ").append(o.fresh()).append(" up to date");
    o.plates()
        .flatMap(PlateSequence::inner)
        .ifPresent(
            in ->
                s.append(
                    String.format(
                        Locale.ROOT,
                        "\n%s. Deliveries with these plates have the film back × %.5f, × %.5f%s.",
                        o.size(),
                        o.size().width() / (double) in.picture().width(),
                        o.size().height() / (double) in.picture().height(),
                        in.isCentredIn(o.size()) ? "" : " and the principal point moved")));
    if (!leftOut.isEmpty()) {
      s.append("\n").append(target.suffix()).append(" does not hold ");
      s.append(String.join(", ", leftOut)).append(".");
    }
    if (!o.failed().isEmpty()) {
      s.append("\n").append(o.failed().size()).append(" failed; ");
      s.append(o.failed().values().iterator().next());
    }
    result.setText(s.toString());
    session
        .message()
        .set(
            o.failed().isEmpty()
                ? "Undistorted plates written: " + target.folder().resolve(target.pattern())
                : o.failed().size() + " plates could not be made");
  }
}
