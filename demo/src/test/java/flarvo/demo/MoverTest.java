package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.convention.Dialects;
import flarvo.decision.Decided;
import flarvo.decision.Decision;
import flarvo.decision.DecisionHistory;
import flarvo.decision.DecisionJson;
import flarvo.decision.MoverDecision;
import flarvo.decision.ShotState;
import flarvo.decision.TraceDecision;
import flarvo.plate.PlateFinder;
import flarvo.plate.PlateLuma;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import flarvo.scene.Luma;
import flarvo.scene.Observations;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.trace.Mask;
import flarvo.trace.MaskShape;
import flarvo.trace.Mover;
import flarvo.trace.MoverMask;
import flarvo.trace.MoverSearch;
import flarvo.trace.TraceOptions;
import flarvo.trace.Tracer;
import flarvo.vet.Reprojection;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.TreeMap;
import java.util.function.IntFunction;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What moves against the rest, beside what really does. */
class MoverTest {

  /** A feature counts as on a body when it stays with it to this. */
  private static final double STAYS_PX = 0.7;

  @TempDir private Path dir;

  private static Observations followed(ShotTruth shot, IntFunction<Optional<Luma>> plates) {
    return Tracer.of(shot.frames(), plates, TraceOptions.USUAL, Mask.NONE, Progress.NONE)
        .observations();
  }

  private static PlateSequence plates(ShotTruth shot) {
    return PlateFinder.find(Path.of("meridian", shot.name(), "plates/original")).get(0);
  }

  /**
   * Finds what moves, and says how it agrees with what does.
   *
   * @param bodies what each feature is on, −1 for the scene; those that nobody knows are not there
   */
  private static List<Mover> find(
      ShotTruth shot, Observations o, Map<String, Integer> bodies, boolean focalKnown) {
    double focal = shot.optics().focalLengthMm() / shot.optics().filmWidthMm();
    MoverSearch.Found f =
        MoverSearch.of(
            o,
            ShotTruth.PICTURE,
            focalKnown ? OptionalDouble.of(focal) : OptionalDouble.empty(),
            Progress.NONE);
    for (Mover m : f.movers()) {
      System.out.printf(
          Locale.ROOT,
          "%s, focal length %s: %s with %d features, on %s of %s%n",
          shot.name(),
          focalKnown ? "known" : "unknown",
          m.name(),
          m.features().size(),
          counted(m.features(), bodies),
          counted(o.names(), bodies));
    }
    return f.movers();
  }

  private static Map<Integer, Integer> counted(List<String> names, Map<String, Integer> bodies) {
    Map<Integer, Integer> out = new TreeMap<>();
    names.stream()
        .filter(bodies::containsKey)
        .forEach(n -> out.merge(bodies.get(n), 1, Integer::sum));
    return out;
  }

  /** Hardly anything of the scene is called moving, and most of what moves is. */
  private static void assertFound(
      List<Mover> movers, Observations o, Map<String, Integer> bodies, int body, double share) {
    List<String> all = movers.stream().flatMap(m -> m.features().stream()).toList();
    Map<Integer, Integer> found = counted(all, bodies);
    Map<Integer, Integer> there = counted(o.names(), bodies);
    assertThat(found.getOrDefault(-1, 0)).isLessThanOrEqualTo((int) (0.02 * there.get(-1)));
    assertThat(found.getOrDefault(body, 0) / (double) there.get(body)).isGreaterThan(share);
  }

  /**
   * Three boxes as large as people, which most features were on: they made the solve a false one.
   */
  @Test
  void peopleWhoCrossThePictureAreLeftOutOfTheSolve() {
    RenderedShot people =
        RenderedShot.all().stream()
            .filter(r -> r.name().equals("people"))
            .findFirst()
            .orElseThrow();
    Map<Integer, Luma> plates = people.plates();
    IntFunction<Optional<Luma>> at = f -> Optional.ofNullable(plates.get(f));
    TraceTest.Measured m = TraceTest.solve(people, at, false, Mask.NONE);
    Observations o = m.o().traced().observations();
    Map<String, Integer> bodies = new TreeMap<>();
    Map<String, Double> off = new FollowedTruth(people, true).errors(o);
    for (String n : o.names()) {
      int row = o.firstRow(n);
      int box = RenderedShot.onBox(o.x(row), o.y(row), o.frame(row));
      // What goes with the edge of a box is on neither.
      if (box >= 0 || off.get(n) < STAYS_PX) {
        bodies.put(n, box);
      }
    }
    for (List<Mover> movers : List.of(find(people, o, bodies, true), m.o().movers())) {
      for (int box = 0; box < 3; box++) {
        assertFound(movers, o, bodies, box, 0.8);
      }
    }
    assertThat(m.o().doubts()).isEmpty();
    assertThat(m.rmsPx()).isLessThan(0.3);
    assertThat(m.strays()).isLessThanOrEqualTo(0.05);
    assertThat(m.offPath()).isLessThan(0.003);
    assertThat(m.focalMm()).isBetween(17.2, 17.8);
  }

  /** A camera that stands still sees the cart move, and nothing else. */
  @Test
  void aCartBeforeAStillCameraIsFound() {
    PlateSequence p = plates(CartTruth.SHOT);
    Observations o = followed(CartTruth.SHOT, f -> PlateLuma.of(p, f));
    Map<String, Integer> bodies = new FollowedTruth(CartTruth.SHOT, true).carts(o, STAYS_PX);
    List<Mover> movers = find(CartTruth.SHOT, o, bodies, false);
    assertFound(movers, o, bodies, 0, 0.35);
    movers.forEach(
        m -> assertThat(counted(m.features(), bodies)).as(m.name()).doesNotContainKey(-1));
  }

  /**
   * Two carts roll before a camera that travels. The scene is solved without them, one of them is
   * solved as a second object, and all of it is stored.
   */
  @Test
  void aCartIsSolvedAsASecondObject() throws Exception {
    Path folder = Path.of("meridian/mer_050_carts/plates/original").toAbsolutePath();
    DecisionHistory history =
        new DecisionHistory(
            ShotState.of(
                "carts",
                ShotIntake.of(List.of(folder), Progress.NONE).received(IntakeOptions.NONE)));
    OptionalDouble focal = OptionalDouble.of(24 / 23.76);
    assertThatThrownBy(() -> decide(history, new MoverDecision.FindMovers(focal)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no features were followed");
    decide(history, new TraceDecision.Follow(PlateRole.ORIGINAL, 300, 9, 0.08));
    Observations all = history.present().features();
    ShotState found = decide(history, new MoverDecision.FindMovers(focal));
    List<Mover> movers = found.trace().movers();
    Map<String, Integer> bodies = new FollowedTruth(CartsTruth.SHOT, true).carts(all, STAYS_PX);
    find(CartsTruth.SHOT, all, bodies, true);
    assertFound(movers, all, bodies, 0, 0.6);
    // What moves is not among the scene's tracks, and comes back when it is said to be of it.
    Mover near = movers.get(0);
    assertThat(found.shot().observations().names()).doesNotContainAnyElementsOf(near.features());
    assertThat(decide(history, new MoverDecision.ReturnMover(near.name())).features())
        .isEqualTo(all);
    assertThat(history.present().shot().observations().names()).containsAll(near.features());
    history.undo();

    ShotState solved =
        decide(
            history, new TraceDecision.SolvePlates(23.76, 13.365, OptionalDouble.of(24), 0, 0.5));
    assertThat(Reprojection.of(solved.shot()).orElseThrow().rmsPx()).isLessThan(0.25);
    PathError scene = path(solved.shot(), CartsTruth.SHOT);
    ShotState both = decide(history, new MoverDecision.SolveMover(near.name(), 0.5));
    PathError cart = path(both.objects().get(0).solve(), CartsTruth.NEAR);
    System.out.printf(
        Locale.ROOT,
        "two carts: the scene's camera off by %.3f %% of its path and %.3f°, the cart's by %.3f %%"
            + " and %.3f°%n",
        100 * scene.ofLength(),
        scene.degrees(),
        100 * cart.ofLength(),
        cart.degrees());
    assertThat(scene.ofLength()).isLessThan(0.01);
    assertThat(scene.degrees()).isLessThan(0.3);
    assertThat(cart.ofLength()).isLessThan(0.05);
    assertThat(cart.degrees()).isLessThan(1.5);
    assertThat(both.shot().trackers().stream().filter(t -> t.group().isPresent())).hasSize(1);

    DecisionJson json = new DecisionJson(dir, Dialects.shipped());
    ObjectMapper mapper = new ObjectMapper();
    String text = mapper.writeValueAsString(json.write(history.log()));
    DecisionHistory back =
        DecisionHistory.restored(
            history.base(),
            json.read(StrictJson.of(mapper.readTree(text), "decisions")),
            Progress.NONE);
    assertThat(back.present()).isEqualTo(history.present());
    assertThat(back.present().shot()).isEqualTo(history.present().shot());
  }

  private static ShotState decide(DecisionHistory h, Decision d) {
    h.add(Decided.of(h.present(), d, Progress.NONE));
    return h.present();
  }

  private static PathError path(Shot solved, ShotTruth truth) {
    return PathError.of(
        solved.cameras().get(0).poses()::at,
        truth.solvedCamera().poses()::at,
        solved.cameras().get(0).frames());
  }

  /** The mask covers what was followed on every frame, and little beside it. */
  @Test
  void aMaskGoesRoundWhatMoves() {
    Observations.Builder b = new Observations.Builder();
    List<String> names = new ArrayList<>();
    for (int k = 0; k < 9; k++) {
      names.add("f" + k);
      for (int f = 10; f <= 31; f++) {
        b.add("f" + k, f, 100 + 7 * f + 30 * (k % 3), 200 + 40 * (k / 3));
      }
    }
    Observations o = b.build();
    Mover m = new Mover("mover 1", names);
    assertThat(m.frames(o).orElseThrow().count()).isEqualTo(22);
    MaskShape mask = MoverMask.of(m, o, 12);
    for (int f = 10; f <= 31; f++) {
      for (String n : names) {
        int row = o.row(n, f);
        for (double[] d : new double[][] {{0, 0}, {11, 0}, {-8, 8}, {0, -11}}) {
          assertThat(mask.covers(f, o.x(row) + d[0], o.y(row) + d[1])).isTrue();
        }
      }
      double x = 100 + 7 * f;
      assertThat(mask.covers(f, x - 20, 240)).isFalse();
      assertThat(mask.covers(f, x + 80, 240)).isFalse();
      assertThat(mask.covers(f, x + 30, 180)).isFalse();
      assertThat(mask.covers(f, x - 11, 189)).as("a corner is cut").isFalse();
    }
    assertThatThrownBy(() -> MoverMask.of(new Mover("gone", List.of("x")), o, 12))
        .isInstanceOf(InputError.class);
  }
}
