package flarvo.decision;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import flarvo.stage.GivenDepth;
import flarvo.stage.Locator;
import flarvo.stage.Staging;
import flarvo.stage.StandIn;
import flarvo.stage.SunDirection;
import flarvo.stage.TripodDepth;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/** What is built on the level: gauges, stand-ins, locators, depths of nodal trackers. */
public sealed interface BuildDecision extends Decision {

  /** Places a gauge. */
  @DecisionCode("place-gauge")
  record PlaceGauge(String name, Gauge.Kind kind, Anchor at) implements BuildDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Gauge g = new Gauge(name, kind, at.in(s), kind.usual(), 0, tracker(at));
      List<Gauge> all = new ArrayList<>(s.staging().gauges());
      all.add(g);
      return Applied.whole(s.withStaging(s.staging().withGauges(all)));
    }

    @Override
    public String title() {
      return "set " + name + " on " + at.words();
    }
  }

  private static Optional<String> tracker(Anchor at) {
    return at instanceof Anchor.Tracker t ? Optional.of(t.name()) : Optional.empty();
  }

  /**
   * Changes a gauge; what is empty stays.
   *
   * @param metres its size
   * @param turn about up, radians
   */
  @DecisionCode("change-gauge")
  record ChangeGauge(String name, OptionalDouble metres, OptionalDouble turn, Optional<Anchor> at)
      implements BuildDecision {

    /** Another size. */
    public static ChangeGauge size(String name, double metres) {
      return new ChangeGauge(
          name, OptionalDouble.of(metres), OptionalDouble.empty(), Optional.empty());
    }

    /** Another rotation about up, in radians. */
    public static ChangeGauge turn(String name, double radians) {
      return new ChangeGauge(
          name, OptionalDouble.empty(), OptionalDouble.of(radians), Optional.empty());
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Gauge g =
          s.staging()
              .gauge(name)
              .orElseThrow(() -> InputError.words("gauge " + name + " not found", "Set it first"));
      Vec3 foot = at.isPresent() ? at.get().in(s) : g.foot();
      Gauge next =
          new Gauge(
              name,
              g.kind(),
              foot,
              metres.orElse(g.metres()),
              turn.orElse(g.turn()),
              at.isPresent() ? tracker(at.get()) : g.tracker());
      return Applied.whole(
          s.withStaging(
              s.staging()
                  .withGauges(
                      Staging.with(s.staging().gauges(), x -> x.name().equals(name), next))));
    }

    @Override
    public String title() {
      return at.isPresent()
          ? "move " + name + " to " + at.get().words()
          : (metres.isPresent() ? "resize " : "rotate ") + name;
    }
  }

  /** Removes a gauge or a stand-in. */
  @DecisionCode("remove-object")
  record RemoveObject(String name) implements BuildDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Staging t = s.staging();
      if (t.gauge(name).isPresent()) {
        return Applied.whole(
            s.withStaging(t.withGauges(Staging.without(t.gauges(), g -> g.name().equals(name)))));
      }
      standIn(s, name);
      return Applied.whole(
          s.withStaging(t.withStandIns(Staging.without(t.standIns(), g -> g.name().equals(name)))));
    }

    @Override
    public String title() {
      return "remove " + name;
    }
  }

  private static StandIn standIn(ShotState s, String name) {
    return s.staging()
        .standIn(name)
        .orElseThrow(() -> InputError.words("stand-in " + name + " not found", "Draw it first"));
  }

  /** Decisions that make a stand-in, or another of the same name. */
  sealed interface MakingGeometry extends BuildDecision {

    /** The stand-in on this state, in solve space. */
    StandIn make(ShotState s);

    @Override
    default boolean worksOut() {
      return true;
    }

    @Override
    default Optional<Outcome> work(ShotState s, Progress progress) {
      return Optional.of(new Outcome.Geometry(make(s)));
    }

    @Override
    default Applied on(ShotState s, Optional<Outcome> outcome) {
      StandIn made = ((Outcome.Geometry) outcome.orElseThrow()).standIn();
      return Applied.whole(
          s.withStaging(
              s.staging()
                  .withStandIns(
                      Staging.with(
                          s.staging().standIns(), x -> x.name().equals(made.name()), made))));
    }
  }

  /** The camera in the middle of the shot, in solve space. */
  private static Vec3 eye(ShotState s) {
    return s.shot()
        .camera()
        .map(
            c -> {
              FrameRange f = c.frames();
              return c.poses().at(f.first() + f.count() / 2).position();
            })
        .orElse(Vec3.ZERO);
  }

  /** A card through three or four places; its front faces the camera. */
  @DecisionCode("add-card")
  record AddCard(String name, String group, List<Anchor> through) implements MakingGeometry {
    public AddCard {
      through = List.copyOf(through);
    }

    @Override
    public StandIn make(ShotState s) {
      return StandIn.card(name, group, through.stream().map(a -> a.in(s)).toList(), eye(s));
    }

    @Override
    public String title() {
      return "add " + name;
    }
  }

  /**
   * A box on the ground.
   *
   * @param a a corner of its base
   * @param b the opposite one
   * @param height metres, upwards
   */
  @DecisionCode("add-box")
  record AddBox(String name, String group, Anchor a, Anchor b, double height)
      implements MakingGeometry {
    @Override
    public StandIn make(ShotState s) {
      Similarity level = s.level();
      return StandIn.box(name, group, level.apply(a.in(s)), level.apply(b.in(s)), height, level);
    }

    @Override
    public String title() {
      return "add " + name;
    }
  }

  /**
   * A wall that rises from an edge; its front faces the camera.
   *
   * @param height metres, upwards
   */
  @DecisionCode("add-wall")
  record AddWall(String name, String group, Anchor a, Anchor b, double height)
      implements MakingGeometry {
    @Override
    public StandIn make(ShotState s) {
      Similarity level = s.level();
      return StandIn.wall(
          name,
          group,
          level.apply(a.in(s)),
          level.apply(b.in(s)),
          height,
          level.apply(eye(s)),
          level);
    }

    @Override
    public String title() {
      return "add " + name;
    }
  }

  /**
   * Extrudes the first face of a stand-in.
   *
   * @param metres along its front; negative for backwards
   */
  @DecisionCode("extrude")
  record Extrude(String name, double metres) implements MakingGeometry {
    @Override
    public StandIn make(ShotState s) {
      return standIn(s, name).extruded(metres, s.level());
    }

    @Override
    public String title() {
      return "extrude " + name;
    }
  }

  /**
   * Moves a stand-in so that its nearest corner comes to lie on a tracker.
   *
   * @param cornerOnly leaves the other corners where they are
   */
  @DecisionCode("move-stand-in")
  record MoveStandIn(String name, String tracker, boolean cornerOnly) implements MakingGeometry {
    @Override
    public StandIn make(ShotState s) {
      StandIn t = standIn(s, name);
      Vec3 to = new Anchor.Tracker(tracker).in(s);
      int best = 0;
      for (int i = 1; i < t.points().size(); i++) {
        if (t.points().get(i).minus(to).length() < t.points().get(best).minus(to).length()) {
          best = i;
        }
      }
      return cornerOnly ? t.snapped(best, to) : t.shifted(to.minus(t.points().get(best)));
    }

    @Override
    public String title() {
      return (cornerOnly ? "snap " : "move ") + name + " to " + tracker;
    }
  }

  /** Whether the corners of a stand-in's first face go along as locators. */
  @DecisionCode("send-corners")
  record SendCorners(String name, boolean corners) implements BuildDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      StandIn next = standIn(s, name).withCorners(corners);
      return Applied.whole(
          s.withStaging(
              s.staging()
                  .withStandIns(
                      Staging.with(s.staging().standIns(), x -> x.name().equals(name), next))));
    }

    @Override
    public String title() {
      return (corners ? "send corners of " : "leave out corners of ") + name;
    }
  }

  /**
   * Locators on trackers.
   *
   * @param stem of their names, which are numbered; empty for the trackers' own
   * @param metres how large others draw them
   */
  @DecisionCode("add-locators")
  record AddLocators(String stem, String group, double metres, List<String> trackers)
      implements BuildDecision {
    public AddLocators {
      trackers = List.copyOf(trackers);
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      List<String> gone = s.missing(trackers);
      List<String> on = trackers.stream().filter(t -> !gone.contains(t)).toList();
      if (on.isEmpty()) {
        throw InputError.words(
            trackers.isEmpty() ? "no tracker selected" : "none of the trackers was found",
            "Select the trackers to put locators on");
      }
      List<Locator> all = new ArrayList<>(s.staging().locators());
      int n = 0;
      for (String t : on) {
        n++;
        String name = stem.isBlank() ? t + "_loc" : trackers.size() == 1 ? stem : stem + n;
        all.removeIf(l -> l.name().equals(name));
        all.add(new Locator(name, group, t, s.place(t).orElseThrow(), metres));
      }
      return Applied.without(s.withStaging(s.staging().withLocators(all)), gone);
    }

    @Override
    public String title() {
      return "add locators on " + trackers.size() + " trackers";
    }
  }

  /** Removes all locators. */
  @DecisionCode("clear-locators")
  record ClearLocators() implements BuildDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(s.withStaging(s.staging().withLocators(List.of())));
    }

    @Override
    public String title() {
      return "remove all locators";
    }
  }

  /** How nodal trackers get a distance. */
  sealed interface DepthSource {

    /** A typed distance from the camera, in metres. */
    @DecisionCode("typed")
    record Typed(double metres) implements DepthSource {}

    /** Where their rays meet the ground. */
    @DecisionCode("ground")
    record Ground() implements DepthSource {}

    /** Where their rays meet a stand-in. */
    @DecisionCode("stand-in")
    record OnStandIn(String name) implements DepthSource {}
  }

  /**
   * Gives nodal trackers a distance.
   *
   * @param trackers empty for all
   */
  @DecisionCode("give-depths")
  record GiveDepths(DepthSource source, List<String> trackers) implements BuildDecision {
    public GiveDepths {
      trackers = List.copyOf(trackers);
    }

    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      TripodDepth d = new TripodDepth(s.shot());
      List<String> on =
          trackers.isEmpty()
              ? s.shot().trackers().stream().flatMap(t -> t.names().stream()).toList()
              : trackers;
      List<GivenDepth> given;
      if (source instanceof DepthSource.Typed t) {
        given = d.typed(on, t.metres(), s.level());
      } else if (source instanceof DepthSource.OnStandIn i) {
        given = d.on(on, standIn(s, i.name()));
      } else {
        given = d.onGround(on, 0, s.level());
      }
      return Optional.of(new Outcome.Depths(given));
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      List<GivenDepth> given = ((Outcome.Depths) outcome.orElseThrow()).depths();
      List<GivenDepth> all = new ArrayList<>(s.staging().depths());
      java.util.Set<String> names =
          given.stream().map(GivenDepth::tracker).collect(java.util.stream.Collectors.toSet());
      all.removeIf(x -> names.contains(x.tracker()));
      all.addAll(given);
      return Applied.without(s.withStaging(s.staging().withDepths(all)), s.missing(trackers));
    }

    @Override
    public String title() {
      return "set distances of " + (trackers.isEmpty() ? "all" : trackers.size()) + " trackers";
    }
  }

  /** Says where the light comes from, by its angles in the levelled world. */
  @DecisionCode("set-light")
  record SetLight(double azimuth, double elevation) implements BuildDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(lit(s, new SunDirection(azimuth, elevation)));
    }

    @Override
    public String title() {
      return "set the light";
    }
  }

  /**
   * The light comes from where something casts its shadow.
   *
   * @param top the tracker that casts it
   * @param tip the tracker where the shadow of it lies
   */
  @DecisionCode("light-from-shadow")
  record LightFromShadow(String top, String tip) implements BuildDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Vec3 from = new Anchor.Tracker(tip).in(s);
      Vec3 towards = s.level().rotation().apply(new Anchor.Tracker(top).in(s).minus(from));
      return Applied.whole(lit(s, SunDirection.of(towards)));
    }

    @Override
    public String title() {
      return "take the light from the shadow of " + top + " at " + tip;
    }
  }

  private static ShotState lit(ShotState s, SunDirection sun) {
    Vec3 own = s.level().inverse().rotation().apply(sun.towards());
    return s.withStaging(s.staging().withLight(Optional.of(own)));
  }

  /** Clears all given distances. */
  @DecisionCode("clear-depths")
  record ClearDepths() implements BuildDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(s.withStaging(s.staging().withDepths(List.of())));
    }

    @Override
    public String title() {
      return "clear distances";
    }
  }
}
