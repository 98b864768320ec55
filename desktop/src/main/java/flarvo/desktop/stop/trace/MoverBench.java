package flarvo.desktop.stop.trace;

import flarvo.decision.Decided;
import flarvo.decision.MoverDecision;
import flarvo.decision.Outcome;
import flarvo.decision.TraceDecision;
import flarvo.desktop.state.Session;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.trace.Mover;
import flarvo.trace.MoverMask;
import flarvo.trace.TraceWork;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.IntSupplier;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;

/** What moves against the rest: found, masked, solved as an object, or counted as scene again. */
public final class MoverBench {

  private static final double TARGET_PX = 0.5;

  private final Session session;
  private final TraceBench bench;
  private final IntSupplier radius;
  private final ObjectProperty<String> selected = new SimpleObjectProperty<>();
  private Optional<TraceWork.Features> tracksOf = Optional.empty();
  private List<Mover> tracksOn = List.of();
  private Object tracksLens;
  private Observations tracks = Observations.NONE;

  /**
   * @param radius of the patterns that are followed, in pixels
   */
  MoverBench(Session session, TraceBench bench, IntSupplier radius) {
    this.session = session;
    this.bench = bench;
    this.radius = radius;
    session
        .state()
        .addListener(
            (o, a, b) -> {
              if (selected.get() != null && b.trace().mover(selected.get()).isEmpty()) {
                selected.set(null);
              }
            });
  }

  /** Name of the mover that is selected; null without one. */
  public ObjectProperty<String> selected() {
    return selected;
  }

  List<Mover> movers() {
    return bench.work().movers();
  }

  private Optional<Mover> mover() {
    return Optional.ofNullable(selected.get()).flatMap(bench.work()::mover);
  }

  /** Tracks of all features, straight, for the picture; made again only when they change. */
  Observations tracks() {
    TraceWork w = bench.work();
    Object lens = session.lens().get();
    if (!tracksOf.equals(w.features()) || tracksOn != w.movers() || tracksLens != lens) {
      tracksOf = w.features();
      tracksOn = w.movers();
      tracksLens = lens;
      tracks = w.movers().isEmpty() ? Observations.NONE : session.state().get().features();
    }
    return tracks;
  }

  /**
   * Finds what moves.
   *
   * @param focal in widths of the film back; empty where it is not known
   */
  void find(OptionalDouble focal, Runnable then) {
    MoverDecision d = new MoverDecision.FindMovers(focal);
    session
        .store()
        .work(
            "Finding what moves",
            (s, p) -> Decided.of(s, d, p),
            x -> x,
            x -> {
              bench.add(
                  TraceBench.sentences(
                          List.of(
                              Mover.words(((Outcome.Movers) x.outcome().orElseThrow()).movers())))
                      .trim());
              then.run();
            },
            bench::failed);
  }

  /** Draws a mask around the selected one. */
  void mask() {
    Optional<TraceWork.Features> f = bench.work().features();
    if (mover().isEmpty() || f.isEmpty()) {
      return;
    }
    try {
      session
          .store()
          .decide(
              new TraceDecision.DrawMask(
                  f.get().plates(),
                  MoverMask.of(mover().get(), f.get().observations(), 2.0 * radius.getAsInt())));
      bench.mask().set(mover().get().name());
    } catch (InputError e) {
      bench.failed(e.reason());
    }
  }

  /** Solves the selected one as a second object. */
  void solve() {
    mover()
        .ifPresent(
            m -> {
              MoverDecision d = new MoverDecision.SolveMover(m.name(), TARGET_PX);
              session
                  .store()
                  .work(
                      "Solving " + m.name(),
                      (s, p) -> Decided.of(s, d, p),
                      x -> x,
                      x -> bench.said().set(((Outcome.Solve) x.outcome().orElseThrow()).words()),
                      bench::failed);
            });
  }

  /** Counts the features of the selected one as the scene's again. */
  void giveBack() {
    mover().ifPresent(m -> session.store().decide(new MoverDecision.ReturnMover(m.name())));
  }

  /** Why the selected one cannot be solved; empty where it can. */
  String solveObstacle() {
    if (mover().isEmpty()) {
      return "Nothing that moves is selected";
    }
    if (session.solved().camera().isEmpty()) {
      return "Solve the scene first";
    }
    return session.state().get().objects().stream().anyMatch(o -> o.name().equals(selected.get()))
        ? selected.get() + " is solved already"
        : "";
  }
}
