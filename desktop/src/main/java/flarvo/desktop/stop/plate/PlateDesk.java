package flarvo.desktop.stop.plate;

import flarvo.desktop.state.MeasuredPlates;
import flarvo.desktop.state.PlateFindings;
import flarvo.desktop.state.Session;
import flarvo.desktop.state.ViewSettings;
import flarvo.desktop.stop.Blink;
import flarvo.desktop.stop.Desk;
import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.lens.LensTrack;
import flarvo.lens.ShotLens;
import flarvo.plate.match.PlateCheck;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.scene.control.CheckBox;

/** The plates side by side, the lens, how it is found and shown, and the undistorted plates. */
final class PlateDesk extends Desk {

  private final Session session;
  private final CheckBox grid = new CheckBox("Lens grid");
  private final CheckBox wipe = new CheckBox("Wipe original and undistorted");
  private final CheckBox blink = new CheckBox("Blink original and undistorted");
  private final CheckBox difference = new CheckBox("Difference of original and undistorted");
  private final UndistortPart undistort;
  private final LookPart look;

  PlateDesk(Session session, LensWorkbench bench, Blink turns) {
    super("Plate");
    this.session = session;
    undistort = new UndistortPart(session);
    look = new LookPart(session);
    blink.setId("plate-blink");
    blink.selectedProperty().bindBidirectional(turns.on());
    difference.setId("plate-difference");
    difference.selectedProperty().bindBidirectional(session.view().difference());
    oneAtATime(turns);
    grid.setId("plate-grid");
    wipe.setId("plate-wipe");
    grid.selectedProperty().bindBidirectional(session.view().lensGrid());
    wipe.setOnAction(e -> setWipe(wipe.isSelected()));
    session.view().wipe().addListener((o, a, b) -> wipe.setSelected(b.doubleValue() >= 0));
    getChildren()
        .addAll(
            new PlatesPart(session, new FieldBench(session)),
            wipe,
            blink,
            difference,
            new LensPart(session, bench),
            grid,
            new LinesPart(session, bench),
            undistort,
            look,
            new LensCalcPart(session));
    session.shot().addListener((o, a, b) -> fill());
    session.lens().addListener((o, a, b) -> fill());
    session.store().now().addListener((o, a, b) -> fill());
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

  LookPart look() {
    return look;
  }

  /** Of the ways to compare, the one that is chosen ends the others. */
  private void oneAtATime(Blink turns) {
    session
        .view()
        .wipe()
        .addListener(
            (o, a, b) -> {
              if (b.doubleValue() >= 0) {
                session.view().difference().set(false);
                turns.on().set(false);
              }
            });
    session
        .view()
        .difference()
        .addListener(
            (o, a, b) -> {
              if (b) {
                setWipe(false);
                turns.on().set(false);
              }
            });
    turns
        .on()
        .addListener(
            (o, a, b) -> {
              if (b) {
                setWipe(false);
                session.view().difference().set(false);
              }
            });
  }

  void setWipe(boolean on) {
    session.view().wipe().set(on ? 0.5 : ViewSettings.NO_WIPE);
  }

  /** What is wrong comes first, then what the lens does. */
  private void fill() {
    ShotLens l = session.lens().get();
    grid.setDisable(l.track().isEmpty());
    boolean both =
        session.shot().get().plate(PlateRole.ORIGINAL).isPresent()
            && session.shot().get().plate(PlateRole.UNDISTORTED).isPresent();
    wipe.setDisable(!both);
    blink.setDisable(!both);
    difference.setDisable(!both);
    Optional<PlateCheck> wrong = wrong(checks());
    Optional<PlateSequence> combed = combed();
    say(
        wrong.isPresent()
            ? "The "
                + wrong.get().plates().role().word()
                + " plates do not belong. "
                + wrong.get().words()
            : combed.isPresent()
                ? "The "
                    + combed.get().role().word()
                    + " plates are interlaced. Split or blend their fields before they are tracked."
                : l.track().isPresent()
                    ? lens(l.track().get().at(session.playhead().frame().get()))
                    : l.problem()
                        + ". Drop a lens sheet (JSON) with the shot's files, type its values, or trace"
                        + " straight edges and fit it.");
  }

  /** Plates that were measured to be interlaced; empty where none were. */
  private Optional<PlateSequence> combed() {
    PlateFindings.Found f = session.store().now().get().get(PlateFindings.SLOT).value();
    return session.shot().get().plates().stream()
        .filter(p -> f != null && f.fields().containsKey(p) && f.fields().get(p).isCombed())
        .findFirst();
  }

  private List<PlateCheck> checks() {
    List<PlateCheck> all = session.store().now().get().get(MeasuredPlates.SLOT).value();
    return all == null ? List.of() : all;
  }

  /** A plate that was measured not to belong; empty where none was. */
  static Optional<PlateCheck> wrong(List<PlateCheck> all) {
    return all.stream().filter(c -> c.verdict() == PlateCheck.Verdict.DOES_NOT_BELONG).findFirst();
  }

  private String lens(Lens now) {
    LensMapper m = now.on(session.shot().get().picture());
    double[] p = new double[2];
    m.toOriginal(0, 0, p);
    double corner = Math.hypot(p[0], p[1]);
    return Double.isNaN(corner)
        ? "This lens folds over within the picture; what lies beyond has no undistorted place."
        : String.format(
            Locale.ROOT,
            "In the corners the original plate is off by %.1f px. Over it, trackers are drawn"
                + " through the lens.",
            corner);
  }
}
