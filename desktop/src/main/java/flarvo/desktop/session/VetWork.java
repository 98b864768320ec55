package flarvo.desktop.session;

import flarvo.project.ShotEdit;
import flarvo.project.ShotState;
import flarvo.scene.FrameRange;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.vet.CullAndRefine;
import flarvo.vet.CullPreview;
import flarvo.vet.Culling;
import flarvo.vet.LatePoint;
import flarvo.vet.Measures;
import flarvo.vet.PathRepair;
import flarvo.vet.PatternSearch;
import flarvo.vet.RefinedSolve;
import flarvo.vet.Refinement;
import flarvo.vet.ResidualDistortion;
import flarvo.vet.SolveInPlace;
import flarvo.vet.SolveKind;
import flarvo.vet.TrackerGroup;
import flarvo.vet.Vetting;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.resolve.Resolve;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;

/** What is done at Vet: measuring beside the window, and every decision as an edit. */
public final class VetWork {

  private final Session session;
  private final ReadOnlyObjectWrapper<Measures> measures = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyObjectWrapper<SolveKind> kind = new ReadOnlyObjectWrapper<>();
  private final IntegerProperty fewest = new SimpleIntegerProperty(8);
  private final ObjectProperty<List<Double>> region = new SimpleObjectProperty<>(List.of());
  private final StringProperty said = new SimpleStringProperty("");
  private final ReadOnlyObjectWrapper<PathRepair.Repair> repaired = new ReadOnlyObjectWrapper<>();
  private final BooleanProperty marking = new SimpleBooleanProperty();
  private final StringProperty point = new SimpleStringProperty("");
  private Vetting saidOf;
  private Shot measured;
  private Shot kindOf;
  private Optional<RefinedSolve> kindUnder = Optional.empty();

  VetWork(Session session) {
    this.session = session;
    session.shot().addListener((o, a, b) -> measure());
    session.stop().addListener((o, a, b) -> measure());
    session.state().addListener((o, a, b) -> forget(b));
  }

  /** Anew where the shot is another one; nobody looks at it away from Vet. */
  @SuppressWarnings("ReferenceEquality")
  private void measure() {
    Shot shot = session.shot().get();
    if (shot == null || session.stop().get() != Stop.VET || shot == measured) {
      return;
    }
    measured = shot;
    Set<String> uncounted = uncounted();
    session
        .jobs()
        .run(
            "Measuring the solve",
            p -> Measures.of(shot, uncounted, p),
            m -> {
              if (session.shot().get() == shot) {
                measures.set(m.orElse(null));
              }
            },
            session.message()::set);
    tellKind();
  }

  /** What was said of an action is no longer true when it is undone. */
  @SuppressWarnings("ReferenceEquality")
  private void forget(ShotState s) {
    if (saidOf != null && (s == null || s.vetting() != saidOf)) {
      saidOf = null;
      said.set("");
      repaired.set(null);
    }
  }

  /** A decision that came of an action, and what is said of it. */
  private void decide(Vetting v, String title, String words) {
    saidOf = v;
    said.set(words);
    repaired.set(null);
    session.apply(new ShotEdit.Vet(v, title));
  }

  /** A cull does not make a tripod of a move; another solve may. */
  @SuppressWarnings("ReferenceEquality")
  private void tellKind() {
    ShotState s = session.state().get();
    if (kindOf == s.whole() && kindUnder.equals(s.vetting().solve())) {
      return;
    }
    kindOf = s.whole();
    kindUnder = s.vetting().solve();
    session
        .jobs()
        .run(
            "Telling a tripod from a move",
            p -> SolveKind.of(s.shot(), s.vetting().uncounted(), p),
            k -> {
              if (session.state().get().whole() == s.whole()) {
                kind.set(k.orElse(null));
              }
            },
            session.message()::set);
  }

  public ReadOnlyObjectProperty<Measures> measures() {
    return measures.getReadOnlyProperty();
  }

  /** Null until it is known. */
  public ReadOnlyObjectProperty<SolveKind> kind() {
    return kind.getReadOnlyProperty();
  }

  /** Live trackers that a frame should keep. */
  public IntegerProperty fewest() {
    return fewest;
  }

  /** Outline drawn last in the picture: x and y of each corner in canonical pixels. */
  public ObjectProperty<List<Double>> region() {
    return region;
  }

  /** What the last long action came to. */
  public StringProperty said() {
    return said;
  }

  /** The repair of the path that stands, until something else is decided; else null. */
  public ReadOnlyObjectProperty<PathRepair.Repair> repaired() {
    return repaired.getReadOnlyProperty();
  }

  /** Whether clicks in the picture mark the late point. */
  public BooleanProperty marking() {
    return marking;
  }

  /** The late point that is being marked. */
  public StringProperty point() {
    return point;
  }

  public Vetting vetting() {
    return session.state().get() == null ? Vetting.NONE : session.state().get().vetting();
  }

  public Set<String> uncounted() {
    return vetting().uncounted();
  }

  /** What a reason would choose now; empty until the solve is measured. */
  public Set<String> chosen(Culling why) {
    Measures m = measures.get();
    return m == null ? Set.of() : why.chosen(session.state().get().shot(), m);
  }

  public Optional<CullPreview> preview(Set<String> going) {
    Measures m = measures.get();
    return m == null
        ? Optional.empty()
        : Optional.of(
            CullPreview.of(
                session.state().get().shot(), m.errors(), going, uncounted(), fewest.get()));
  }

  public void cull(Set<String> names, String why) {
    if (names.isEmpty()) {
      session.message().set("No tracker is chosen");
      return;
    }
    session.selection().removeAll(names);
    session.apply(
        new ShotEdit.Vet(vetting().culling(names), "leave out " + trackers(names) + ", " + why));
  }

  public void restore(Set<String> names) {
    Set<String> back =
        names.stream().filter(vetting().culled()::contains).collect(Collectors.toSet());
    if (back.isEmpty()) {
      session.message().set("None of them was left out");
      return;
    }
    session.apply(new ShotEdit.Vet(vetting().restoring(back), "bring back " + trackers(back)));
  }

  /** Without a pull a tracker stays in, and the camera does not look at it. */
  public void weigh(Set<String> names, boolean pull) {
    if (names.isEmpty()) {
      session.message().set("No tracker is chosen");
      return;
    }
    session.apply(
        new ShotEdit.Vet(
            vetting().weighing(names, pull),
            (pull ? "weight for " : "no weight for ") + trackers(names)));
  }

  private static String trackers(Set<String> names) {
    return names.size() == 1 ? names.iterator().next() : names.size() + " trackers";
  }

  /** The named trackers leave the groups that they were in. */
  public void putInGroup(TrackerGroup group, Set<String> names) {
    if (names.isEmpty()) {
      session.message().set("Select the trackers that belong together first");
      return;
    }
    Set<String> all = new HashSet<>(group.members());
    all.addAll(names);
    session.apply(
        new ShotEdit.Vet(
            vetting().withGroup(group.withMembers(all)),
            "put " + trackers(names) + " in " + group.name()));
  }

  public void styleGroup(TrackerGroup group) {
    session.apply(new ShotEdit.Vet(vetting().withGroup(group), "dots of " + group.name()));
  }

  public void dissolve(String name) {
    if (vetting().group(name).isEmpty()) {
      session.message().set(name.isEmpty() ? "Name the group" : "No group is named " + name);
      return;
    }
    session.apply(new ShotEdit.Vet(vetting().withoutGroup(name), "dissolve " + name));
  }

  /** Adjusts camera and points in the background. */
  public void refine(AdjustOptions options) {
    ShotState s = session.state().get();
    inBackground(
        s,
        "Refining",
        p -> Refinement.of(s.shot(), s.vetting().uncounted(), options, p),
        o -> {
          said.set(o.solve().how() + (o.settled() ? "" : "; rounds ran out before it stood still"));
          session.apply(
              new ShotEdit.Vet(
                  s.vetting().withSolve(joined(s.vetting(), o.solve())),
                  String.format(Locale.ROOT, "refine to %.3f px", o.afterPx())));
        });
  }

  public void cullAndRefine(double targetPx, AdjustOptions options) {
    ShotState s = session.state().get();
    int keep = fewest.get();
    inBackground(
        s,
        "Culling and refining",
        p -> CullAndRefine.of(s.shot(), s.vetting().uncounted(), targetPx, keep, options, p),
        o -> {
          decide(
              s.vetting().culling(o.culled()).withSolve(joined(s.vetting(), o.solve())),
              String.format(
                  Locale.ROOT,
                  "leave out %d and refine to %.3f px",
                  o.culled().size(),
                  o.afterPx()),
              o.rounds().stream().map(Object::toString).collect(Collectors.joining("\n"))
                  + "\n"
                  + o.sentence());
        });
  }

  /** Places of trackers that were culled before stay known, and lens terms add up. */
  private static RefinedSolve joined(Vetting before, RefinedSolve now) {
    if (before.solve().isEmpty()) {
      return now;
    }
    RefinedSolve old = before.solve().get();
    Map<String, flarvo.scene.Vec3> points = new HashMap<>(old.points());
    points.putAll(now.points());
    ResidualDistortion rest =
        now.rest().equals(ResidualDistortion.NONE)
            ? old.rest()
            : new ResidualDistortion(
                old.rest().k1() + now.rest().k1(), old.rest().k2() + now.rest().k2());
    return new RefinedSolve(now.camera(), points, rest, now.tripod(), now.how());
  }

  /** The solve as it came, without refinement and repair. */
  public void useWhatCame() {
    if (vetting().solve().isEmpty()) {
      session.message().set("The solve stands as it came");
      return;
    }
    session.apply(new ShotEdit.Vet(vetting().withSolve(null), "take the solve as it came"));
  }

  /** Throws the solve's pose and points away and solves from the 2D tracks. */
  public void solveFromTracks(boolean focalKnown) {
    ShotState s = session.state().get();
    var optics = s.whole().camera().orElseThrow().optics().at(s.whole().frames().first());
    inBackground(
        s,
        "Solving from 2D tracks",
        p -> {
          Resolve.Solved r =
              Resolve.of(
                  s.whole().observations(),
                  s.whole().picture(),
                  optics.filmWidthMm(),
                  optics.filmHeightMm(),
                  focalKnown ? OptionalDouble.of(optics.focalLengthMm()) : OptionalDouble.empty(),
                  p);
          return Optional.of(
              SolveInPlace.of(s.whole(), r.camera(), r.trackers(), r.kind(), r.how()));
        },
        o -> {
          decide(s.vetting().withSolve(o.get()), "solve from 2D tracks", o.get().how());
        });
  }

  public void smooth(FrameRange range, int strength, double limitPx) {
    repair(s -> PathRepair.smooth(s.shot(), range, strength, limitPx));
  }

  public void bridge(Set<Integer> frames) {
    repair(s -> PathRepair.bridge(s.shot(), frames));
  }

  private void repair(Function<ShotState, PathRepair.Repair> how) {
    ShotState s = session.state().get();
    inBackground(
        s,
        "Mending the path",
        p -> how.apply(s),
        r -> {
          RefinedSolve old =
              s.vetting()
                  .solve()
                  .orElse(
                      new RefinedSolve(
                          r.camera(), Map.of(), ResidualDistortion.NONE, false, r.how()));
          decide(
              s.vetting().withSolve(old.withCamera(r.camera(), r.how())),
              r.how(),
              String.format(
                  Locale.ROOT,
                  "%s: %d frames touched, the picture moved by %.2f px at most; error there %.3f →"
                      + " %.3f px",
                  r.how(),
                  r.touched().size(),
                  r.movedMaxPx(),
                  r.beforePx(),
                  r.afterPx()));
          repaired.set(r);
        });
  }

  /** A result of a shot that was changed meanwhile is not taken. */
  @SuppressWarnings("ReferenceEquality")
  private <T> void inBackground(
      ShotState s,
      String title,
      Function<flarvo.work.Progress, T> work,
      java.util.function.Consumer<T> done) {
    if (s == null || s.shot().camera().isEmpty()) {
      session.message().set("There is no camera yet");
      return;
    }
    said.set("");
    session
        .jobs()
        .run(
            title,
            work,
            r -> {
              if (session.state().get() == s) {
                done.accept(r);
              } else {
                session.message().set(title + " was overtaken by a change; do it again");
              }
            },
            why -> {
              said.set(why);
              session.message().set(why);
            });
  }

  /** A mark of the late point that is being marked, at the playhead. */
  public void mark(double x, double y) {
    Vetting v = vetting();
    String name = point.get().isBlank() ? freeName(v) : point.get().trim();
    point.set(name);
    if (session.state().get().shot().observations().firstRow(name) >= 0
        && v.late().stream().noneMatch(p -> p.name().equals(name))) {
      session.message().set("A tracker is named " + name + " already; choose another name");
      return;
    }
    LatePoint.Mark mark = new LatePoint.Mark(session.playhead().frame().get(), x, y, false);
    LatePoint next =
        late(name).map(p -> p.with(mark)).orElseGet(() -> new LatePoint(name, List.of(mark)));
    session.apply(new ShotEdit.Vet(v.withLate(next), "mark " + name + " at frame " + mark.frame()));
  }

  public Optional<LatePoint> late(String name) {
    return vetting().late().stream().filter(p -> p.name().equals(name)).findFirst();
  }

  private static String freeName(Vetting v) {
    for (int i = 1; ; i++) {
      String name = "late" + i;
      if (v.late().stream().noneMatch(p -> p.name().equals(name))) {
        return name;
      }
    }
  }

  public void removePoint(String name) {
    if (late(name).isPresent()) {
      session.apply(new ShotEdit.Vet(vetting().withoutLate(name), "remove " + name));
    }
  }

  /** Follows the late point's pattern along the plate, both ways from every mark. */
  public void search(String name) {
    ShotState s = session.state().get();
    Optional<LatePoint> p = late(name);
    Optional<PlateSequence> plates = s.shot().plate(PlateRole.UNDISTORTED);
    if (p.isEmpty() || plates.isEmpty()) {
      session
          .message()
          .set(
              p.isEmpty()
                  ? "Mark the point in a frame first"
                  : "There is no undistorted plate to search in");
      return;
    }
    inBackground(
        s,
        "Searching " + name,
        progress ->
            new PatternSearch(s.shot(), f -> PlateLuma.of(plates.get(), f))
                .along(p.get(), s.shot().frames(), progress),
        found -> {
          decide(
              s.vetting().withLate(found),
              "follow " + name + " over " + found.marks().size() + " frames",
              name + " was found in " + found.marks().size() + " frames");
        });
  }
}
