package flarvo.desktop.stop.trace;

import flarvo.decision.Anchor;
import flarvo.decision.BuildDecision;
import flarvo.decision.Decided;
import flarvo.decision.Outcome;
import flarvo.decision.ShotState;
import flarvo.decision.TraceDecision;
import flarvo.desktop.state.Session;
import flarvo.scene.Observations;
import flarvo.stage.StandIn;
import flarvo.trace.MaskShape;
import flarvo.trace.PlaneFeature;
import flarvo.trace.PlaneFollow;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;

/** What is flat and followed as a whole, by its four corners. */
public final class PlaneBench {

  private final Session session;
  private final TraceBench bench;
  private final BooleanProperty drawing = new SimpleBooleanProperty();
  private final ObjectProperty<String> selected = new SimpleObjectProperty<>();

  PlaneBench(Session session, TraceBench bench) {
    this.session = session;
    this.bench = bench;
    drawing.addListener(
        (o, a, b) -> {
          if (b) {
            session.view().plateRole().set(bench.plates().get());
          }
        });
    session
        .state()
        .addListener(
            (o, a, b) -> {
              if (!a.name().equals(b.name())) {
                drawing.set(false);
              }
              if (selected.get() != null && b.trace().plane(selected.get()).isEmpty()) {
                selected.set(null);
              }
            });
  }

  /** Whether clicks in the picture set the corners of a plane. */
  public BooleanProperty drawing() {
    return drawing;
  }

  /** Name of the plane that is selected; null without one. */
  public ObjectProperty<String> selected() {
    return selected;
  }

  /** Those of the plates that are followed. */
  List<PlaneFeature> shown() {
    return bench.work().planes().stream().filter(q -> q.plates() == bench.plates().get()).toList();
  }

  /** Follows what was drawn on the shown frame. */
  void draw(double[] corners) {
    drawing.set(false);
    follow(new MaskShape(freeName(), new TreeMap<>(Map.of(bench.frame(), corners))));
  }

  /** Corrects a corner on the shown frame; the rest follows it. */
  void correct(String name, int corner, double x, double y) {
    Optional<PlaneFeature> q = bench.work().plane(name);
    Optional<double[]> now = q.flatMap(p -> p.corners(bench.frame()));
    if (now.isPresent()) {
      double[] c = now.get();
      c[2 * corner] = x;
      c[2 * corner + 1] = y;
      TreeMap<Integer, double[]> keys = new TreeMap<>(q.get().shape().keys());
      keys.put(bench.frame(), c);
      follow(new MaskShape(name, keys));
    }
  }

  private void follow(MaskShape shape) {
    TraceDecision d = new TraceDecision.FollowPlane(bench.plates().get(), shape);
    session
        .store()
        .work(
            "Following " + shape.name(),
            (s, p) -> Decided.of(s, d, p),
            x -> x,
            x -> {
              selected.set(shape.name());
              bench.said().set(words(shape.name(), (Outcome.Features) x.outcome().orElseThrow()));
            },
            bench::failed);
  }

  private static String words(String name, Outcome.Features f) {
    Observations o = f.observations();
    String centre = PlaneFollow.tracks(name).get(4);
    return String.format(
            Locale.ROOT,
            "The centre of %s is in the picture on %d frames.",
            name,
            Math.max(0, o.endRow(centre) - o.firstRow(centre)))
        + TraceBench.sentences(f.notes());
  }

  /** Why the selected plane makes no card; empty where it does. */
  String noCard() {
    if (selected.get() == null) {
      return "Select a plane first";
    }
    ShotState s = session.state().get();
    return corners(selected.get()).stream().allMatch(c -> s.place(c).isPresent())
        ? ""
        : "Its corners have no place yet: solve first";
  }

  /** Puts a card in the scene where the selected plane's corners were solved. */
  void card() {
    List<Anchor> at =
        corners(selected.get()).stream().map(c -> (Anchor) new Anchor.Tracker(c)).toList();
    String name = session.state().get().staging().freeName("card");
    session
        .store()
        .decide(
            new BuildDecision.AddCard(name, StandIn.USUAL_GROUP, at),
            () -> bench.said().set(name + " is in the scene; change it on Level."));
  }

  private static List<String> corners(String plane) {
    return PlaneFollow.tracks(plane).subList(0, 4);
  }

  void remove() {
    if (selected.get() != null) {
      session.store().decide(new TraceDecision.RemovePlane(selected.get()));
    }
  }

  private String freeName() {
    for (int i = 1; ; i++) {
      String name = String.format(Locale.ROOT, "p%02d", i);
      if (bench.work().plane(name).isEmpty()) {
        return name;
      }
    }
  }
}
