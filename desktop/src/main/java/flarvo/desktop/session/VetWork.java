package flarvo.desktop.session;

import flarvo.decision.Decided;
import flarvo.decision.Outcome;
import flarvo.decision.PointDecision;
import flarvo.decision.ShotState;
import flarvo.decision.VetDecision;
import flarvo.scene.FrameRange;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.vet.CullPreview;
import flarvo.vet.Culling;
import flarvo.vet.LatePoint;
import flarvo.vet.Measures;
import flarvo.vet.PathRepair;
import flarvo.vet.RefinedSolve;
import flarvo.vet.SolveKind;
import flarvo.vet.TrackerGroup;
import flarvo.vet.Vetting;
import flarvo.vet.adjust.AdjustOptions;
import java.util.List;
import java.util.Optional;
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
  private Set<String> measuredWithout = Set.of();
  private Shot kindOf;
  private Optional<RefinedSolve> kindUnder = Optional.empty();

  VetWork(Session session) {
    this.session = session;
    session.shot().addListener((o, a, b) -> measure());
    session.stop().addListener((o, a, b) -> measure());
    session
        .state()
        .addListener(
            (o, a, b) -> {
              forget(b);
              // The shot is drawn before the state is set: only now is it known what it is of.
              if (session.stop().get() == Stop.VET) {
                tellKind();
                measure();
              }
            });
  }

  /** Anew where the shot is another one; nobody looks at it away from Vet. */
  @SuppressWarnings("ReferenceEquality")
  private void measure() {
    Shot shot = session.shot().get();
    Set<String> uncounted = uncounted();
    boolean same = shot == measured && uncounted.equals(measuredWithout);
    if (shot == null || session.stop().get() != Stop.VET || same) {
      return;
    }
    measured = shot;
    measuredWithout = uncounted;
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

  /** A cull does not make a tripod of a move; another solve may. */
  @SuppressWarnings("ReferenceEquality")
  private void tellKind() {
    ShotState s = session.state().get();
    if (s == null
        || s.shot().camera().isEmpty()
        || kindOf == s.whole() && kindUnder.equals(s.vetting().solve())) {
      return;
    }
    kindOf = s.whole();
    kindUnder = s.vetting().solve();
    session
        .jobs()
        .run(
            "Detecting camera type",
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

  /** Culls what a criterion chooses. */
  public void cull(Culling why) {
    Set<String> names = why instanceof Culling.ByHand h ? h.names() : chosen(why);
    if (names.isEmpty()) {
      session.message().set("No tracker selected");
      return;
    }
    session.selection().removeAll(names);
    VetDecision.Cull d = new VetDecision.Cull(why);
    if (why instanceof Culling.ByHand) {
      session.apply(d);
    } else {
      session.apply(d, new Outcome.Trackers(names));
    }
  }

  public void cullByHand(Set<String> names) {
    cull(new Culling.ByHand(names));
  }

  public void restore(Set<String> names) {
    Set<String> back =
        names.stream().filter(vetting().culled()::contains).collect(Collectors.toSet());
    if (back.isEmpty()) {
      session.message().set("None of them is culled");
      return;
    }
    session.apply(new VetDecision.Restore(back));
  }

  /** Without a weight a tracker stays in, and the camera is not fitted to it. */
  public void weigh(Set<String> names, boolean counts) {
    if (names.isEmpty()) {
      session.message().set("No tracker selected");
      return;
    }
    session.apply(new VetDecision.Weigh(names, counts));
  }

  /** The named trackers leave the groups that they were in. */
  public void putInGroup(TrackerGroup group, Set<String> names) {
    if (names.isEmpty()) {
      session.message().set("Select the trackers that belong together first");
      return;
    }
    session.apply(new VetDecision.PutInGroup(group.name(), group.dot(), group.tint(), names));
  }

  public void styleGroup(TrackerGroup group) {
    session.apply(new VetDecision.StyleGroup(group.name(), group.dot(), group.tint()));
  }

  public void dissolve(String name) {
    if (vetting().group(name).isEmpty()) {
      session.message().set(name.isEmpty() ? "Name the group" : "No group is named " + name);
      return;
    }
    session.apply(new VetDecision.DissolveGroup(name));
  }

  /** Adjusts camera and points in the background. */
  public void refine(AdjustOptions options) {
    resolve("Refining", new VetDecision.Refine(options));
  }

  public void cullAndRefine(double targetPx, AdjustOptions options) {
    resolve(
        "Culling and refining", new VetDecision.CullAndRefineTo(targetPx, fewest.get(), options));
  }

  /** The solve as received, without refinement and repair. */
  public void revertSolve() {
    if (vetting().solve().isEmpty()) {
      session.message().set("This is the received solve already");
      return;
    }
    session.apply(new VetDecision.RevertSolve());
  }

  /** Throws the solve's pose and points away and solves from the 2D tracks. */
  public void solveFromTracks(boolean focalKnown) {
    resolve("Solving from 2D tracks", new VetDecision.SolveFromTracks(focalKnown));
  }

  private void resolve(String title, VetDecision.Resolving d) {
    ShotState s = session.state().get();
    inBackground(s, title, p -> Decided.of(s, d, p), this::resolved);
  }

  private void resolved(Decided d) {
    repaired.set(null);
    session.add(d);
    saidOf = session.state().get().vetting();
    said.set(d.outcome().map(o -> ((Outcome.Solve) o).words()).orElse(""));
  }

  public void smooth(FrameRange range, int strength, double limitPx) {
    repair(new VetDecision.SmoothPath(range, strength, limitPx));
  }

  public void bridge(Set<Integer> frames) {
    repair(new VetDecision.BridgePath(frames));
  }

  private record Repaired(PathRepair.Repair repair, Decided decided) {}

  private void repair(VetDecision.RepairingPath d) {
    ShotState s = session.state().get();
    inBackground(
        s,
        "Repairing path",
        p -> {
          PathRepair.Repair r = d.repair(s, p);
          return new Repaired(
              r, Decided.of(s, d, Optional.of(VetDecision.RepairingPath.outcome(s, r))));
        },
        r -> {
          resolved(r.decided());
          repaired.set(r.repair());
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
      session.message().set("No camera yet");
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
                session.message().set(title + " was overtaken by another change; run it again");
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
    session.apply(new PointDecision.MarkPoint(name, session.playhead().frame().get(), x, y));
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
      session.apply(new PointDecision.RemovePoint(name));
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
        "Tracking " + name,
        progress -> Decided.of(s, new PointDecision.TrackPoint(name), progress),
        d -> {
          session.add(d);
          saidOf = session.state().get().vetting();
          int frames = late(name).map(x -> x.marks().size()).orElse(0);
          said.set(name + " found in " + frames + " frames");
        });
  }
}
