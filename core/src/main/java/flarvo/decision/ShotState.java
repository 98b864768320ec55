package flarvo.decision;

import flarvo.dispatch.Delivery;
import flarvo.dispatch.Outgoing;
import flarvo.lens.LensSheet;
import flarvo.lens.LensWork;
import flarvo.lens.ShotLens;
import flarvo.level.LevelScene;
import flarvo.level.Levelling;
import flarvo.level.Stated;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.report.InputError;
import flarvo.scene.Mesh;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.stage.Staging;
import flarvo.trace.TraceWork;
import flarvo.trace.TracedShot;
import flarvo.vet.ExtraPoint;
import flarvo.vet.RefinedSolve;
import flarvo.vet.Vetting;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Everything decided about a shot so far: what it is made of, rulings, vetting, level, staging and
 * deliveries. Immutable. The shots themselves are made when they are first asked for, which touches
 * points and frames; everything else is names and numbers.
 */
public final class ShotState {

  /** No shot at all: no name, no camera, no trackers, one frame. */
  public static final ShotState NONE = of(Shot.EMPTY);

  private final String name;
  private final Shot unruled; // a shot that came from no files; else null
  private final Optional<ReceivedSet> received;
  private final Rulings rulings;
  private final Vetting vetting;
  private final Staging staging;
  private final Similarity level;
  private final LensWork lensWork;
  private final TraceWork trace;
  private final List<MovingObject> objects;
  private final List<Delivery> deliveries;
  private final Optional<Boolean> watched;
  private Shot whole;
  private Shot shot;
  private ShotLens lens;
  private Map<String, Vec3> places;
  private Set<String> names;

  private ShotState(Builder b) {
    name = b.name;
    unruled = b.unruled;
    received = b.received;
    rulings = b.rulings;
    vetting = b.vetting;
    staging = b.staging;
    level = b.level;
    lensWork = b.lensWork;
    trace = b.trace;
    objects = List.copyOf(b.objects);
    lens = b.lens;
    deliveries = List.copyOf(b.deliveries);
    watched = b.watched;
    whole = b.whole;
    shot = b.shot;
  }

  /** The parts of a state that is being made from another one. */
  private static final class Builder {
    private final String name;
    private final Shot unruled;
    private Optional<ReceivedSet> received = Optional.empty();
    private Rulings rulings = Rulings.NONE;
    private Vetting vetting = Vetting.NONE;
    private Staging staging = Staging.NONE;
    private Similarity level = Similarity.IDENTITY;
    private LensWork lensWork = LensWork.NONE;
    private TraceWork trace = TraceWork.NONE;
    private List<MovingObject> objects = List.of();
    private ShotLens lens;
    private List<Delivery> deliveries = List.of();
    private Optional<Boolean> watched = Optional.empty();
    private Shot whole;
    private Shot shot;

    Builder(String name, Shot unruled) {
      this.name = name;
      this.unruled = unruled;
    }

    ShotState build() {
      return new ShotState(this);
    }
  }

  private Builder with() {
    Builder b = new Builder(name, unruled);
    b.received = received;
    b.rulings = rulings;
    b.vetting = vetting;
    b.staging = staging;
    b.level = level;
    b.lensWork = lensWork;
    b.trace = trace;
    b.objects = objects;
    b.deliveries = deliveries;
    b.watched = watched;
    synchronized (this) {
      b.lens = lens;
      b.whole = whole;
      b.shot = shot;
    }
    return b;
  }

  /** A shot that came from files, with nothing decided about it. */
  public static ShotState of(String name, ReceivedSet received) {
    Builder b = new Builder(name, null);
    b.received = Optional.of(received);
    return b.build();
  }

  /** A shot that came from no files, with nothing decided about it; its level is its own. */
  public static ShotState of(Shot shot) {
    Builder b = new Builder(shot.name(), shot);
    b.level = shot.level();
    b.whole = shot;
    b.shot = shot;
    return b.build();
  }

  /** Name of the shot. */
  public String name() {
    return name;
  }

  /** What the shot was made of; empty where it came from no files. */
  public Optional<ReceivedSet> received() {
    return received;
  }

  public Rulings rulings() {
    return rulings;
  }

  public Vetting vetting() {
    return vetting;
  }

  /** What was stated of the level, and what was built on it. */
  public Staging staging() {
    return staging;
  }

  /** From solve space to the canonical world. */
  public Similarity level() {
    return level;
  }

  /** What was decided of the lens: which one, and the lines traced for it. */
  public LensWork lensWork() {
    return lensWork;
  }

  /** What was made of the plates: masks, features that were followed, and the solve of them. */
  public TraceWork trace() {
    return trace;
  }

  /** The lens of the original plates. */
  public synchronized ShotLens lens() {
    if (lens == null) {
      lens = ShotLens.of(lensWork.choice(), sheets(received));
    }
    return lens;
  }

  public List<Delivery> deliveries() {
    return deliveries;
  }

  /** Whether newer versions of its files are offered; empty where the user's preference counts. */
  public Optional<Boolean> watched() {
    return watched;
  }

  /** What moves by itself and was solved by itself. */
  public List<MovingObject> objects() {
    return objects;
  }

  /**
   * The shot before anything was culled or refined, in solve space and plate frames.
   *
   * @throws InputError when the files, read under these rulings, make no shot
   */
  public synchronized Shot whole() {
    if (whole == null) {
      Shot came = received.isPresent() ? received.get().shot(name, rulings) : ruled();
      whole =
          (trace.equals(TraceWork.NONE) ? came : TracedShot.of(came, trace, lens().track()))
              .withLevel(level);
    }
    return whole;
  }

  /** Features that were followed in the plates, also on what moves; straight by the lens. */
  public Observations features() {
    Shot came = received.isPresent() ? received.get().shot(name, rulings) : ruled();
    return TracedShot.features(came, trace, lens().track());
  }

  /**
   * The shot as everybody sees it: {@link #whole} with the vetting applied, and with what moves by
   * itself; in solve space.
   *
   * @throws InputError when the files, read under these rulings, make no shot
   */
  public synchronized Shot shot() {
    if (shot == null) {
      shot = vetting.applied(whole());
      for (MovingObject o : objects) {
        shot = o.in(shot); // behind the camera as it was refined
      }
    }
    return shot;
  }

  /** Whether {@link #shot} is worked out already, so that asking for it costs nothing. */
  public synchronized boolean isMade() {
    return shot != null;
  }

  /**
   * Whether another state comes to the same {@link #shot}: what was built, weighed or addressed may
   * differ. Touches names and numbers only.
   */
  @SuppressWarnings("ReferenceEquality") // what came in is shared, not copied
  public boolean isSameShot(ShotState o) {
    return this == o
        || name.equals(o.name)
            && unruled == o.unruled
            && received.orElse(null) == o.received.orElse(null)
            && rulings.equals(o.rulings)
            && level.equals(o.level)
            && objects.equals(o.objects)
            && trace.isSameShot(o.trace)
            && (!trace.needsLens() || lensWork.choice().equals(o.lensWork.choice()))
            && vetting.isSameShot(o.vetting);
  }

  /** The shot as recipients get it: with everything that was built on it, in solve space. */
  public Shot staged() {
    return staging.applied(shot());
  }

  /** What deliveries are made from. */
  public Outgoing outgoing() {
    Shot s = staged();
    Map<String, Vec3> places = TrackerSet.stillPositions(s.trackers());
    List<Mesh> gauges =
        staging().gauges().stream().map(g -> g.following(places).mesh(s.level())).toList();
    return new Outgoing(s, lens().track(), gauges);
  }

  /** Position of a tracker in solve space, whether it is culled or not; empty where it is gone. */
  public Optional<Vec3> place(String tracker) {
    Vec3 refined = vetting.solve().map(s -> s.points().get(tracker)).orElse(null);
    if (refined != null) {
      return Optional.of(refined);
    }
    boolean late = vetting.extras().stream().anyMatch(p -> p.name().equals(tracker));
    return Optional.ofNullable(
        (late ? TrackerSet.stillPositions(shot().trackers()) : wholePlaces()).get(tracker));
  }

  private synchronized Map<String, Vec3> wholePlaces() {
    if (places == null) {
      places = TrackerSet.stillPositions(whole().trackers());
    }
    return places;
  }

  private synchronized Set<String> wholeNames() {
    if (names == null) {
      names = new HashSet<>();
      whole().trackers().forEach(t -> names.addAll(t.names()));
    }
    return names;
  }

  /** Those of some trackers that move through the shot, culled or not, in their order. */
  public List<String> moving(Collection<String> trackers) {
    Map<String, Vec3> still = wholePlaces();
    Set<String> all = wholeNames();
    return trackers.stream().filter(t -> all.contains(t) && !still.containsKey(t)).toList();
  }

  /** Those of some trackers that the shot does not have, culled or not, in their order. */
  public List<String> missing(Collection<String> trackers) {
    Set<String> there = wholeNames();
    Set<String> late = vetting.extras().stream().map(ExtraPoint::name).collect(Collectors.toSet());
    return trackers.stream().filter(t -> !there.contains(t) && !late.contains(t)).toList();
  }

  /** The same with another level; statements are not asked. */
  public ShotState withLevel(Similarity to) {
    Builder b = with();
    b.level = to;
    b.whole = b.whole == null ? null : b.whole.withLevel(to);
    // A length in metres may settle an object's scale.
    b.shot = b.shot == null || !objects.isEmpty() ? null : b.shot.withLevel(to);
    return placed(b);
  }

  public ShotState withVetting(Vetting v) {
    Builder b = with();
    b.vetting = v;
    b.shot = v.isSameShot(vetting) ? b.shot : null;
    return placed(b);
  }

  public ShotState withStaging(Staging s) {
    Builder b = with();
    b.staging = s;
    return b.build();
  }

  /** The same with another lens, or other lines. */
  public ShotState withLensWork(LensWork w) {
    Builder b = with();
    b.lensWork = w;
    boolean same = w.choice().equals(lensWork.choice());
    b.lens = same ? b.lens : null;
    if (!same && trace.needsLens()) {
      b.whole = null; // its features lie elsewhere now
      b.shot = null;
    }
    return b.build();
  }

  /** The same with something else made of the plates. */
  public ShotState withTrace(TraceWork w) {
    Builder b = with();
    b.trace = w;
    if (!w.isSameShot(trace)) {
      b.whole = null;
      b.shot = null;
    }
    return placed(b);
  }

  /** A decision that leaves an object nowhere is refused; nobody meets such a state later. */
  private static ShotState placed(Builder b) {
    ShotState made = b.build();
    if (!made.objects.isEmpty()) {
      made.shot();
    }
    return made;
  }

  /** With other things that move by themselves. */
  public ShotState withObjects(List<MovingObject> o) {
    Builder b = with();
    b.objects = o;
    b.shot = null;
    return placed(b);
  }

  public ShotState withDeliveries(List<Delivery> d) {
    Builder b = with();
    b.deliveries = d;
    return b.build();
  }

  public ShotState withWatched(boolean watch) {
    Builder b = with();
    b.watched = Optional.of(watch);
    return b.build();
  }

  /** Plates with other roles, or the same files read otherwise. Rulings and level stay. */
  public ShotState withReceived(ReceivedSet r) {
    return remade(Optional.of(r), rulings);
  }

  /**
   * The shot made again from what came in, under other rulings; its level stays. What was culled
   * stays so by name; a refined solve stays only where the solve that it refines is still the same,
   * perhaps on other frames.
   */
  public ShotState withRulings(Rulings r) {
    return remade(received, r);
  }

  private ShotState remade(Optional<ReceivedSet> from, Rulings r) {
    Builder b = with();
    b.lens = sheets(from).equals(sheets(received)) ? b.lens : null;
    b.received = from;
    b.rulings = r;
    b.whole = null;
    b.shot = null;
    if (vetting.solve().isPresent()) {
      ShotState made = b.build();
      RefinedSolve s = vetting.solve().get().carried(whole(), made.whole()).orElse(null);
      b.whole = made.whole();
      b.vetting = vetting.withSolve(s);
    }
    return placed(b);
  }

  private static List<LensSheet> sheets(Optional<ReceivedSet> from) {
    return from.map(ReceivedSet::lenses).orElse(List.of());
  }

  /**
   * Another solve of the same shot in this one's place, standing where this one stands: everything
   * that was placed keeps its place in the world. What was stated is kept, but no longer counts;
   * what was culled by name stays so.
   *
   * @param onto from the other solve's space to this one's
   */
  public ShotState withSolve(ReceivedSet r, Similarity onto) {
    Builder b = with();
    b.received = Optional.of(r);
    b.lens = null;
    b.trace = trace.withSolve(Optional.empty());
    b.vetting = Vetting.NONE.withCulled(vetting.culled());
    b.staging =
        staging
            .following(shot())
            .moved(onto.inverse())
            .withStatements(staging.statements().stream().map(t -> t.switched(false)).toList());
    b.level = level.after(onto);
    b.whole = null;
    b.shot = null;
    return placed(b);
  }

  /** Whether any statement is switched on. */
  public boolean isStated() {
    return staging.statements().stream().anyMatch(Stated::on);
  }

  /**
   * The level that the statements make of the trackers as they stand; what no statement determines
   * stays. Touches every tracker that a statement names.
   */
  public Similarity statedLevel() {
    return isStated()
        ? Levelling.of(new LevelScene(shot()), staging.statements(), level).level()
        : level;
  }

  private Shot ruled() {
    IntakeOptions o = rulings.over(IntakeOptions.NONE);
    Shot s = o.rate().map(unruled::withRate).orElse(unruled);
    return o.plateFirst().isPresent() ? s.startingAt(o.plateFirst().getAsInt()) : s;
  }

  /** By what was decided; what the shots come to follows from it. */
  @Override
  public boolean equals(Object o) {
    return o instanceof ShotState s
        && name.equals(s.name)
        && Objects.equals(unruled, s.unruled)
        && received.equals(s.received)
        && rulings.equals(s.rulings)
        && vetting.equals(s.vetting)
        && staging.equals(s.staging)
        && level.equals(s.level)
        && lensWork.equals(s.lensWork)
        && trace.equals(s.trace)
        && objects.equals(s.objects)
        && deliveries.equals(s.deliveries)
        && watched.equals(s.watched);
  }

  @Override
  public int hashCode() {
    return Objects.hash(name, rulings, vetting, level, lensWork, deliveries);
  }
}
