package flarvo.desktop.stop.plate;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.desktop.work.Lane;
import flarvo.lens.Direction;
import flarvo.lens.LensTrack;
import flarvo.plate.remap.Filter;
import flarvo.plate.remap.Light;
import flarvo.plate.remap.Overscan;
import flarvo.plate.remap.RemapOptions;
import flarvo.plate.remap.SequenceName;
import flarvo.plate.remap.SequenceRemap;
import flarvo.report.InputError;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;
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
            Desk.row("Overscan", overscan),
            Desk.row("Format", format),
            where,
            deed,
            result);
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

  /** Beside the original's folder, so that nothing received is touched. */
  private SequenceName target(PlateSequence p) {
    Path folder = p.folder().toAbsolutePath().normalize();
    String name = folder.getFileName() + "_undistorted";
    String suffix = format.getValue().startsWith("as") ? p.suffix() : "." + format.getValue();
    String stem = p.prefix().replaceAll("[._-]$", "");
    return new SequenceName(
        folder.resolveSibling(name), stem + "_undistorted.", Math.max(1, p.padding()), suffix);
  }

  void run() {
    if (!obstacle().isEmpty()) {
      session.message().set(obstacle());
      return;
    }
    PlateSequence source = original().orElseThrow();
    SequenceName target = target(source);
    LensTrack lens = session.lens().get().track().orElseThrow();
    boolean fit = overscan.getValue().equals(FIT);
    Filter f = Filter.of(filter.getValue()).orElseThrow();
    int jobs = Math.max(1, Runtime.getRuntime().availableProcessors() - 1);
    result.setText("");
    session
        .jobs()
        .run(
            Lane.SEND,
            "Undistorting " + source.pattern(),
            p -> made(source, target, lens, f, fit, jobs, p),
            this::say,
            why -> session.message().set(why));
  }

  private record Made(SequenceName target, Overscan overscan, SequenceRemap.Outcome outcome) {}

  private static Made made(
      PlateSequence source,
      SequenceName target,
      LensTrack lens,
      Filter filter,
      boolean fit,
      int jobs,
      Progress p) {
    Overscan o;
    try {
      o = fit ? Overscan.fit(lens, source.size()) : Overscan.none(source.size());
    } catch (IllegalArgumentException e) {
      throw InputError.words(e.getMessage(), "Choose no overscan");
    }
    RemapOptions options =
        new RemapOptions(
            lens, Direction.ORIGINAL_TO_UNDISTORTED, o, filter, Light.ENCODED, 1, Optional.empty());
    return new Made(
        target, o, SequenceRemap.run(source, target, options, source.frames(), jobs, p));
  }

  private void say(Made m) {
    SequenceRemap.Outcome o = m.outcome;
    StringBuilder s = new StringBuilder();
    s.append(o.made().size()).append(" made, ").append(o.fresh().size()).append(" up to date");
    if (!m.overscan.isNone()) {
      s.append(
          String.format(
              Locale.ROOT,
              "\n%s; multiply the film back by %.5f × %.5f",
              m.overscan.size(),
              m.overscan.width() / (double) m.overscan.original().width(),
              m.overscan.height() / (double) m.overscan.original().height()));
    }
    List<Map.Entry<Integer, String>> failed = List.copyOf(o.failed().entrySet());
    if (!failed.isEmpty()) {
      s.append("\n").append(failed.size()).append(" failed; ").append(failed.get(0).getValue());
    }
    result.setText(s.toString());
    session
        .message()
        .set(
            failed.isEmpty()
                ? "Undistorted plates written: " + m.target.folder().resolve(m.target.pattern())
                : failed.size() + " plates could not be made");
  }
}
