package flarvo.desktop.stop.plate;

import flarvo.decision.Decided;
import flarvo.decision.Outcome;
import flarvo.decision.PlateDecision;
import flarvo.desktop.state.Session;
import flarvo.lens.LensModel;
import flarvo.lens.LensTrack;
import flarvo.lens.LensWork;
import flarvo.lens.fit.LensEstimate;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;

/** Tracing lines and fitting the lens to them: what is armed, what is selected, what came of it. */
final class LensWorkbench {

  /** A lens further from its map than this is worth a word. */
  private static final double GOOD_MAP_PX = 0.5;

  private final Session session;
  private final BooleanProperty tracing = new SimpleBooleanProperty();
  private final ObjectProperty<String> selected = new SimpleObjectProperty<>();
  private final ObjectProperty<LensModel> model = new SimpleObjectProperty<>(LensModel.RADIAL);
  private final BooleanProperty centre = new SimpleBooleanProperty();
  private final StringProperty said = new SimpleStringProperty("");

  LensWorkbench(Session session) {
    this.session = session;
    // Lines are traced over what the lens bent.
    tracing.addListener(
        (o, a, b) -> {
          if (b) {
            session.view().plateRole().set(PlateRole.ORIGINAL);
          }
        });
    session
        .state()
        .addListener(
            (o, a, b) -> {
              if (selected.get() != null && !b.lensWork().has(selected.get())) {
                selected.set(null);
              }
              if (!a.name().equals(b.name())) {
                said.set("");
                tracing.set(false);
              }
            });
  }

  LensWork work() {
    return session.state().get().lensWork();
  }

  /** Whether clicks in the picture trace lines. */
  BooleanProperty tracing() {
    return tracing;
  }

  /** Name of the line that is selected; null without one. */
  ObjectProperty<String> selected() {
    return selected;
  }

  /** The model that is fitted. */
  ObjectProperty<LensModel> model() {
    return model;
  }

  /** Whether the centre of distortion is fitted too. */
  BooleanProperty centre() {
    return centre;
  }

  /** What the last trace or fit came to. */
  StringProperty said() {
    return said;
  }

  /** Why nothing can be traced; empty where it can. */
  String obstacle() {
    return session.shot().get().plate(PlateRole.ORIGINAL).isEmpty()
        ? "The shot has no original plates to trace on"
        : "";
  }

  /** Traces an edge of the shown frame, in pixels of the original plate. */
  void trace(double ax, double ay, double bx, double by) {
    String name = freeName();
    int frame = session.playhead().frame().get();
    PlateDecision d = new PlateDecision.TraceLine(name, frame, ax, ay, bx, by);
    session
        .store()
        .workAgain(
            "Tracing " + name,
            (s, p) -> Decided.of(s, d, p),
            x -> x,
            x -> {
              selected.set(name);
              said.set(
                  name
                      + ": "
                      + ((Outcome.Line) x.outcome().orElseThrow()).line().size()
                      + " points on the edge");
            },
            this::failed);
  }

  /** Finds chequer boards on the shown frame. */
  void findBoard() {
    find(
        "Finding the board",
        new PlateDecision.FindBoard(session.playhead().frame().get()),
        " rows and columns of the board found");
  }

  /** Finds long edges on the shown frame. */
  void findEdges() {
    find(
        "Finding edges",
        new PlateDecision.FindEdges(session.playhead().frame().get()),
        " edges found. Remove those that are bent in the world; the fit leaves out what it can"
            + " tell by itself.");
  }

  private void find(String title, PlateDecision d, String found) {
    session.view().plateRole().set(PlateRole.ORIGINAL);
    session
        .store()
        .workAgain(
            title,
            (s, p) -> Decided.of(s, d, p),
            x -> x,
            x -> said.set(((Outcome.Lines) x.outcome().orElseThrow()).lines().size() + found),
            this::failed);
  }

  private String freeName() {
    for (int i = 1; ; i++) {
      String name = "line " + i;
      if (!work().has(name)) {
        return name;
      }
    }
  }

  void removeSelected() {
    if (selected.get() != null) {
      session.store().decide(new PlateDecision.RemoveLines(List.of(selected.get())));
    }
  }

  void removeAll() {
    List<String> all = work().lines().stream().map(l -> l.name()).toList();
    if (!all.isEmpty()) {
      session.store().decide(new PlateDecision.RemoveLines(all));
    }
  }

  private record Fitted(LensEstimate estimate, Decided decided) {}

  /** Fits the lens to all lines and uses it. */
  void fit() {
    PlateDecision.FitLens d =
        new PlateDecision.FitLens(model.get(), model.get().usual(), centre.get());
    session
        .store()
        .work(
            "Fitting the lens",
            (s, p) -> {
              LensEstimate e = d.estimate(s, p);
              return new Fitted(e, Decided.of(s, d, Optional.of(d.outcome(e, s))));
            },
            Fitted::decided,
            f -> said.set(words(f.estimate())),
            this::failed);
  }

  /** Fits a lens to a distortion map and uses it. */
  void fitMap(PlateDecision.FitMap d) {
    session
        .store()
        .workAgain(
            "Fitting the lens to " + d.map().getFileName(),
            (s, p) -> Decided.of(s, d, p),
            x -> x,
            x -> {
              said.set(words((Outcome.MapLens) x.outcome().orElseThrow()));
              session.message().set(said.get());
            },
            this::failed);
  }

  /** How near a lens is to its map, and which way it bends, by which a wrong direction shows. */
  private String words(Outcome.MapLens o) {
    PictureSize picture =
        session
            .shot()
            .get()
            .plate(PlateRole.ORIGINAL)
            .map(PlateSequence::size)
            .orElse(session.shot().get().picture());
    double[] p = new double[2];
    boolean there = o.lens().base().on(picture).toOriginal(0, 0, p);
    double in = Math.hypot(picture.width() / 2.0, picture.height() / 2.0);
    double moved = in - Math.hypot(p[0] - picture.width() / 2.0, p[1] - picture.height() / 2.0);
    return String.format(
            Locale.ROOT,
            "Within %.2f px of the map (RMS %.3f), over %.0f %% of it.",
            o.maxPx(),
            o.rmsPx(),
            100 * o.cover())
        + (there
            ? String.format(
                Locale.ROOT,
                " The original is bent %s by %.1f px at its top left corner.",
                moved > 0 ? "inwards (barrel)" : "outwards (pincushion)",
                Math.abs(moved))
            : "")
        + (o.maxPx() > GOOD_MAP_PX ? " Another model may fit better." : "");
  }

  private void failed(String why) {
    said.set(why);
    session.message().set(why);
  }

  /** What a TD wants to know of a fit. */
  private static String words(LensEstimate e) {
    StringBuilder s = new StringBuilder();
    s.append(
        String.format(
            Locale.ROOT,
            "Lines are straight to %.2f px (before: %.2f px).",
            e.residualPx(),
            e.beforePx()));
    s.append(
        Double.isInfinite(e.worstPx())
            ? " These lines do not determine the lens."
            : String.format(
                Locale.ROOT,
                " With 95 %% certainty the lens is within %.2f px over the whole picture.",
                e.worstPx()));
    s.append(String.format(Locale.ROOT, " Lines cover %.0f %% of it.", 100 * e.cover()));
    if (!e.strays().isEmpty()) {
      s.append(" Left out, because not straight: ");
      s.append(String.join(", ", e.strays().stream().map(l -> l.name()).toList())).append('.');
    }
    for (List<String> g : e.untold()) {
      s.append(" They cannot tell ").append(String.join(" from ", g)).append('.');
    }
    return s.toString();
  }

  /** Uses a lens whose values were typed. */
  void type(LensTrack lens) {
    session.store().decide(new PlateDecision.TypeLens(lens));
  }
}
