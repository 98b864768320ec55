package flarvo.desktop.stop.vet;

import flarvo.decision.Decided;
import flarvo.decision.Outcome;
import flarvo.decision.PointDecision;
import flarvo.decision.ShotState;
import flarvo.decision.VetDecision;
import flarvo.desktop.state.Session;
import flarvo.desktop.state.SnapshotProperty;
import flarvo.desktop.work.Lane;
import flarvo.scene.FrameRange;
import flarvo.scene.PlateRole;
import flarvo.scene.Shot;
import flarvo.vet.CullPreview;
import flarvo.vet.Culling;
import flarvo.vet.ExtraPoint;
import flarvo.vet.Measures;
import flarvo.vet.PathRepair;
import flarvo.vet.SolveKind;
import flarvo.vet.TrackerGroup;
import flarvo.vet.Vetting;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.work.Progress;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
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
  private final ReadOnlyObjectProperty<Measures> measures;
  private final ReadOnlyObjectProperty<SolveKind> kind;
  private final IntegerProperty fewest = new SimpleIntegerProperty(8);
  private final ObjectProperty<List<Double>> region = new SimpleObjectProperty<>(List.of());
  private final StringProperty said = new SimpleStringProperty("");
  private final ReadOnlyObjectWrapper<PathRepair.Repair> repaired = new ReadOnlyObjectWrapper<>();
  private final BooleanProperty marking = new SimpleBooleanProperty();
  private final StringProperty point = new SimpleStringProperty("");
  private Vetting saidOf;

  public VetWork(Session session) {
    this.session = session;
    measures = new SnapshotProperty<>(session.store().now(), s -> s.get(VetSlots.MEASURES).value());
    kind = new SnapshotProperty<>(session.store().now(), s -> s.get(VetSlots.KIND).value());
    session.state().addListener((o, a, b) -> forget(b));
  }

  /** What was said of an action is no longer true when it is undone. */
  @SuppressWarnings("ReferenceEquality")
  private void forget(ShotState s) {
    if (saidOf != null && s.vetting() != saidOf) {
      saidOf = null;
      said.set("");
      repaired.set(null);
    }
  }

  /** Null until the solve is measured. */
  public ReadOnlyObjectProperty<Measures> measures() {
    return measures;
  }

  /** Null until it is known. */
  public ReadOnlyObjectProperty<SolveKind> kind() {
    return kind;
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

  /** Whether clicks in the picture mark the extra point. */
  public BooleanProperty marking() {
    return marking;
  }

  /** The extra point that is being marked. */
  public StringProperty point() {
    return point;
  }

  public Vetting vetting() {
    return session.state().get().vetting();
  }

  public Set<String> uncounted() {
    return vetting().uncounted();
  }

  /** What a reason would choose now; empty until the solve is measured. */
  public Set<String> chosen(Culling why) {
    Measures m = measures.get();
    return m == null ? Set.of() : why.chosen(session.solved(), m);
  }

  /**
   * What culling for a reason would do; empty until the solve is measured. It is worked out beside
   * the window, and only the newest question is answered.
   */
  public void preview(Culling why, Consumer<Optional<CullPreview>> told) {
    Measures m = measures.get();
    if (m == null) {
      told.accept(Optional.empty());
      return;
    }
    Shot shot = session.solved();
    Set<String> out = uncounted();
    int least = fewest.get();
    Supplier<Optional<CullPreview>> work =
        () -> {
          Set<String> going = why instanceof Culling.ByHand h ? h.names() : why.chosen(shot, m);
          return Optional.of(CullPreview.of(shot, m.errors(), going, out, least));
        };
    session
        .jobs()
        .newest(
            this,
            Lane.MEASURE,
            "Previewing the cull",
            p -> work.get(),
            told,
            session.message()::set);
  }

  /** Culls what a criterion chooses. */
  public void cull(Culling why) {
    cull(why, why instanceof Culling.ByHand h ? h.names() : chosen(why));
  }

  /**
   * @param names what the criterion chose on the solve as it stands
   */
  void cull(Culling why, Set<String> names) {
    if (names.isEmpty()) {
      session.message().set("No tracker selected");
      return;
    }
    session.selection().removeAll(names);
    VetDecision.Cull d = new VetDecision.Cull(why);
    if (why instanceof Culling.ByHand) {
      session.store().decide(d);
    } else {
      session.store().decide(d, new Outcome.Trackers(names));
    }
  }

  public void cullByHand(Set<String> names) {
    cull(new Culling.ByHand(names));
  }

  public void restore(Set<String> names) {
    Set<String> back =
        names.stream().filter(vetting().culled()::contains).collect(Collectors.toSet());
    if (back.isEmpty()) {
      session.message().set("None of the selected trackers is culled");
      return;
    }
    session.store().decide(new VetDecision.Restore(back));
  }

  /** Without a weight a tracker stays in, and the camera is not fitted to it. */
  public void weigh(Set<String> names, boolean counts) {
    if (names.isEmpty()) {
      session.message().set("No tracker selected");
      return;
    }
    session.store().decide(new VetDecision.Weigh(names, counts));
  }

  /** The named trackers leave the groups that they were in. */
  public void putInGroup(TrackerGroup group, Set<String> names) {
    if (names.isEmpty()) {
      session.message().set("Select the trackers to group first");
      return;
    }
    session
        .store()
        .decide(new VetDecision.PutInGroup(group.name(), group.dot(), group.tint(), names));
  }

  public void styleGroup(TrackerGroup group) {
    session.store().decide(new VetDecision.StyleGroup(group.name(), group.dot(), group.tint()));
  }

  public void dissolve(String name) {
    if (vetting().group(name).isEmpty()) {
      session.message().set(name.isEmpty() ? "Name the group" : "No group is named " + name);
      return;
    }
    session.store().decide(new VetDecision.DissolveGroup(name));
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
    session.store().decide(new VetDecision.RevertSolve());
  }

  /** Throws the solve's pose and points away and solves from the 2D tracks. */
  public void solveFromTracks(boolean focalKnown) {
    resolve("Solving from 2D tracks", new VetDecision.SolveFromTracks(focalKnown));
  }

  private void resolve(String title, VetDecision.Resolving d) {
    inBackground(title, (s, p) -> Decided.of(s, d, p), x -> x, this::resolved);
  }

  private void resolved(Decided d) {
    repaired.set(null);
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
    inBackground(
        "Repairing path",
        (s, p) -> {
          PathRepair.Repair r = d.repair(s, p);
          return new Repaired(
              r, Decided.of(s, d, Optional.of(VetDecision.RepairingPath.outcome(s, r))));
        },
        Repaired::decided,
        r -> {
          resolved(r.decided());
          repaired.set(r.repair());
        });
  }

  private <T> void inBackground(
      String title,
      BiFunction<ShotState, Progress, T> work,
      Function<T, Decided> of,
      Consumer<T> done) {
    if (session.state().get().shot().camera().isEmpty()) {
      session.message().set(session.isOpen() ? "This shot has no camera" : "No shot open");
      return;
    }
    said.set("");
    session
        .store()
        .work(
            title,
            work,
            of,
            done,
            why -> {
              said.set(why);
              session.message().set(why);
            });
  }

  /** A mark of the extra point that is being marked, at the playhead. */
  public void mark(double x, double y) {
    Vetting v = vetting();
    String name = point.get().isBlank() ? freeName(v) : point.get().trim();
    point.set(name);
    session
        .store()
        .decide(new PointDecision.MarkPoint(name, session.playhead().frame().get(), x, y));
  }

  public Optional<ExtraPoint> extra(String name) {
    return vetting().extras().stream().filter(p -> p.name().equals(name)).findFirst();
  }

  private static String freeName(Vetting v) {
    for (int i = 1; ; i++) {
      String name = "extra" + i;
      if (v.extras().stream().noneMatch(p -> p.name().equals(name))) {
        return name;
      }
    }
  }

  public void removePoint(String name) {
    if (extra(name).isPresent()) {
      session.store().decide(new PointDecision.RemovePoint(name));
    }
  }

  /** Follows the extra point's pattern along the plate, both ways from every mark. */
  public void search(String name) {
    Optional<ExtraPoint> p = extra(name);
    if (p.isEmpty() || session.solved().plate(PlateRole.UNDISTORTED).isEmpty()) {
      session
          .message()
          .set(
              p.isEmpty()
                  ? "Mark the point in a frame first"
                  : "Tracking needs an undistorted plate");
      return;
    }
    inBackground(
        "Tracking " + name,
        (s, progress) -> Decided.of(s, new PointDecision.TrackPoint(name), progress),
        d -> d,
        d -> {
          saidOf = session.state().get().vetting();
          int frames = extra(name).map(x -> x.marks().size()).orElse(0);
          said.set(name + " found in " + frames + " frames");
        });
  }
}
