package flarvo.desktop.stop.plate;

import flarvo.desktop.state.Session;
import flarvo.desktop.state.ShotLens;
import flarvo.desktop.state.ViewSettings;
import flarvo.desktop.stop.Desk;
import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.lens.LensTrack;
import flarvo.plate.PlateTable;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import java.util.List;
import java.util.Locale;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.layout.VBox;

/** The lens, how it is shown, the undistorted plates, and the plates side by side. */
final class PlateDesk extends Desk {

  private final Session session;
  private final VBox lens = new VBox(4);
  private final VBox plates = new VBox(6);
  private final CheckBox grid = new CheckBox("Lens grid");
  private final CheckBox wipe = new CheckBox("Wipe original and undistorted");
  private final UndistortPart undistort;

  PlateDesk(Session session) {
    super("Plate");
    this.session = session;
    undistort = new UndistortPart(session);
    grid.setId("plate-grid");
    wipe.setId("plate-wipe");
    grid.selectedProperty().bindBidirectional(session.view().lensGrid());
    wipe.setOnAction(e -> setWipe(wipe.isSelected()));
    session.view().wipe().addListener((o, a, b) -> wipe.setSelected(b.doubleValue() >= 0));
    getChildren().addAll(heading("Lens"), lens, grid, wipe, undistort);
    getChildren().addAll(heading("Plates"), plates);
    session.shot().addListener((o, a, b) -> fill());
    session.lens().addListener((o, a, b) -> fill());
    session
        .playhead()
        .frame()
        .addListener(
            (o, a, b) -> {
              if (session.lens().get().track().filter(LensTrack::breathes).isPresent()) {
                fill();
              }
            });
    fill();
  }

  UndistortPart undistort() {
    return undistort;
  }

  void setWipe(boolean on) {
    session.view().wipe().set(on ? 0.5 : ViewSettings.NO_WIPE);
  }

  private void fill() {
    ShotLens l = session.lens().get();
    lens.getChildren().clear();
    grid.setDisable(l.track().isEmpty());
    if (l.track().isPresent()) {
      lens(l, l.track().get().at(session.playhead().frame().get()));
    } else {
      say(
          l.problem()
              + ". Drop a lens sheet (JSON) with the shot's files, or find a lens from straight"
              + " lines with 'flarvo lens fit'.");
    }
    plates.getChildren().clear();
    List<PlateTable.Row> rows = PlateTable.of(session.shot().get().plates());
    for (PlateTable.Row r : rows) {
      plates.getChildren().add(plate(r));
    }
    if (rows.isEmpty()) {
      Label none = wrapped();
      none.setText("No plates. Drop the folder of an image sequence on the window.");
      plates.getChildren().add(none);
    }
  }

  private void lens(ShotLens l, Lens now) {
    PictureSize picture = session.shot().get().picture();
    LensMapper m = now.on(picture);
    double[] p = new double[2];
    m.toOriginal(0, 0, p);
    double corner = Math.hypot(p[0], p[1]);
    say(
        Double.isNaN(corner)
            ? "This lens folds over within the picture; what lies beyond has no undistorted place."
            : String.format(
                Locale.ROOT,
                "In the corners the original plate is off by %.1f px. Over it, trackers are drawn"
                    + " through the lens.",
                corner));
    lens.getChildren().add(row("From", number(l.source())));
    lens.getChildren().add(row("Model", number(now.distortion().model().title())));
    lens.getChildren().add(row("Normalised by", number(now.normalisation().code())));
    List<String> names = now.distortion().model().coefficients();
    double[] k = now.distortion().coefficients();
    for (int i = 0; i < k.length; i++) {
      if (k[i] != now.distortion().model().neutral(names.get(i))) {
        lens.getChildren().add(row(names.get(i), number(String.format(Locale.ROOT, "%.5f", k[i]))));
      }
    }
    if (l.track().orElseThrow().breathes()) {
      lens.getChildren().add(row("Changes", number("from frame to frame")));
    }
  }

  private static VBox plate(PlateTable.Row r) {
    PlateSequence p = r.plates();
    VBox box = new VBox(1);
    box.getChildren().add(row(p.role().word(), number(p.frames().toString())));
    Label facts = wrapped();
    String depth = p.facts().depth();
    facts.setText(
        p.pattern()
            + "\n"
            + p.size()
            + (depth.isEmpty() ? "" : ", " + depth)
            + (p.facts().alpha() ? ", alpha" : "")
            + (r.relation().isEmpty() ? "" : ", " + r.relation()));
    box.getChildren().add(facts);
    for (String n : r.notes()) {
      Label note = wrapped();
      note.setText(n);
      note.getStyleClass().add("attention");
      box.getChildren().add(note);
    }
    return box;
  }
}
