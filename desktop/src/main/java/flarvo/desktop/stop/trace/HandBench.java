package flarvo.desktop.stop.trace;

import flarvo.decision.Decided;
import flarvo.decision.Outcome;
import flarvo.decision.TraceDecision;
import flarvo.desktop.state.Session;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.PlateRole;
import flarvo.trace.HandFeature;
import flarvo.trace.TraceOptions;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/**
 * Features marked by hand. Marks are taken as fast as they are clicked, and followed one after the
 * other.
 */
public final class HandBench {

  private final Session session;
  private final TraceBench bench;
  private final BooleanProperty marking = new SimpleBooleanProperty();
  private final ObjectProperty<String> selected = new SimpleObjectProperty<>();
  private final IntegerProperty radius = new SimpleIntegerProperty(TraceOptions.USUAL.radius());
  private final ObservableList<TraceDecision.MarkFeature> waiting =
      FXCollections.observableArrayList();

  HandBench(Session session, TraceBench bench) {
    this.session = session;
    this.bench = bench;
    marking.addListener(
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
                waiting.clear();
                marking.set(false);
                selected.set(null);
              } else if (selected.get() != null && !isKnown(selected.get())) {
                selected.set(null);
              }
            });
  }

  /** Whether clicks in the picture mark features. */
  public BooleanProperty marking() {
    return marking;
  }

  /** Name of the feature that is selected; null without one. */
  public ObjectProperty<String> selected() {
    return selected;
  }

  /** Of the patterns of features that are new. */
  IntegerProperty radius() {
    return radius;
  }

  /** Marks that are not followed yet; the first of them is at it. */
  ObservableList<TraceDecision.MarkFeature> waiting() {
    return waiting;
  }

  /** Those of the plates that are followed. */
  List<HandFeature> shown() {
    return bench.work().hand().stream().filter(h -> h.plates() == bench.plates().get()).toList();
  }

  Optional<HandFeature> feature() {
    return Optional.ofNullable(selected.get()).flatMap(n -> bench.work().hand(n));
  }

  private boolean isKnown(String name) {
    return bench.work().hand(name).isPresent()
        || waiting.stream().anyMatch(m -> m.feature().equals(name));
  }

  /**
   * Marks the selected feature on the shown frame where it is not seen there; else a new one.
   *
   * @param x pixels of the plates that are followed
   */
  void mark(double x, double y) {
    boolean gap =
        feature()
            .filter(h -> h.plates() == bench.plates().get())
            .filter(h -> h.path().row(h.name(), bench.frame()) < 0)
            .isPresent();
    correct(gap ? selected.get() : freeName(), x, y);
  }

  /** Puts a feature's mark on the shown frame; the rest follows it. */
  void correct(String name, double x, double y) {
    PlateRole plates = bench.plates().get();
    waiting.add(new TraceDecision.MarkFeature(name, plates, radius.get(), bench.frame(), x, y));
    selected.set(name);
    if (waiting.size() == 1) {
      next();
    }
  }

  private void next() {
    if (waiting.isEmpty()) {
      return;
    }
    TraceDecision.MarkFeature m = waiting.get(0);
    session
        .store()
        .workAgain(
            "Following " + m.feature(),
            (s, p) -> Decided.of(s, m, p),
            x -> x,
            x -> {
              bench.said().set(words(m.feature(), (Outcome.Features) x.outcome().orElseThrow()));
              done(m);
            },
            why -> {
              bench.said().set(why);
              session.message().set(why);
              done(m);
            });
  }

  private void done(TraceDecision.MarkFeature m) {
    if (waiting.remove(m)) { // else the shot is another one, whose marks go on by themselves
      next();
    }
  }

  private static String words(String name, Outcome.Features f) {
    Observations o = f.observations();
    return String.format(
            Locale.ROOT,
            "%s is seen on %d frames, %d–%d.",
            name,
            o.size(),
            o.frame(0),
            o.frame(o.size() - 1))
        + TraceBench.sentences(f.notes());
  }

  /** The selected feature ends on the shown frame. */
  void endHere() {
    limit(false);
  }

  /** The selected feature begins on the shown frame. */
  void beginHere() {
    limit(true);
  }

  private void limit(boolean begin) {
    feature()
        .ifPresent(
            h -> {
              int f = h.within().clamp(bench.frame());
              FrameRange part =
                  begin
                      ? new FrameRange(f, h.within().last())
                      : new FrameRange(h.within().first(), f);
              session
                  .store()
                  .decide(new TraceDecision.LimitFeature(h.name(), part.first(), part.last()));
            });
  }

  /**
   * Follows the selected feature anew, looking only near where its last step leads.
   *
   * @param px pixels of the shot's picture; empty as far as the pyramid reaches
   */
  void search(OptionalDouble px) {
    Optional<HandFeature> h = feature();
    if (h.isEmpty() || h.get().searchPx().equals(px)) {
      return;
    }
    String name = h.get().name();
    TraceDecision d = new TraceDecision.SearchArea(name, px);
    session
        .store()
        .work(
            "Following " + name,
            (s, p) -> Decided.of(s, d, p),
            x -> x,
            x -> bench.said().set(words(name, (Outcome.Features) x.outcome().orElseThrow())),
            bench::failed);
  }

  void remove() {
    feature().ifPresent(h -> session.store().decide(new TraceDecision.RemoveFeature(h.name())));
  }

  private String freeName() {
    for (int i = 1; ; i++) {
      String name = String.format(Locale.ROOT, "h%02d", i);
      if (!isKnown(name)) {
        return name;
      }
    }
  }
}
