package flarvo.desktop.state;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.decision.Decided;
import flarvo.decision.DecisionHistory;
import flarvo.decision.LevelDecision;
import flarvo.decision.ShotState;
import flarvo.decision.VetDecision;
import flarvo.desktop.work.Lane;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.vet.Culling;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The open shot without a window: whatever order work finishes in, what belongs together stays. */
class ShotStoreTest {

  private static final int TRACKERS = 50;

  private final HandDriven by = new HandDriven();
  private final List<String> said = new ArrayList<>();
  private final List<String> decided = new ArrayList<>();
  private final List<String> counted = new ArrayList<>();

  /** Counts trackers beside the window; every time it works is noted. */
  private final Slot<Set<String>, Integer> count =
      new Slot<>(
          "Counting",
          s -> Optional.of(s.state().vetting().culled()),
          (culled, p) -> {
            counted.add(culled.toString());
            return culled.size();
          });

  private ShotStore store;

  @BeforeEach
  void open() {
    store = new ShotStore(by.jobs, List.of(), said::add, decided::add);
    store.want(List.of(count));
    by.everything();
    ShotState s = ShotState.of(shot(TRACKERS));
    store.open(new DecisionHistory(s), DerivedShot.of(s), before -> {});
    by.everything();
    counted.clear();
  }

  private static Shot shot(int trackers) {
    FrameRange frames = new FrameRange(1, 2);
    List<String> names = new ArrayList<>();
    double[] xyz = new double[3 * trackers];
    for (int i = 0; i < trackers; i++) {
      names.add("t" + i);
      xyz[3 * i] = i % 7;
      xyz[3 * i + 1] = i % 5;
      xyz[3 * i + 2] = -5 - i % 3;
    }
    ShotCamera camera =
        new ShotCamera(
            "cam",
            PoseTrack.of(frames, f -> new Pose(new Vec3(f, 0, 0), Rotation.IDENTITY)),
            OpticsTrack.constant(frames, Optics.centred(24, 24, 13.5)),
            Optional.empty());
    return new Shot(
        "s" + trackers,
        PictureSize.of(1920, 1080),
        Rate.FPS_24,
        frames,
        1,
        List.of(camera),
        List.of(TrackerSet.of("points", names, xyz)),
        Observations.NONE,
        List.of(),
        Similarity.IDENTITY);
  }

  /** With tracks that lie beside where the points are seen. */
  private static Shot seen() {
    Observations.Builder b = new Observations.Builder();
    for (int i = 0; i < TRACKERS; i++) {
      b.add("t" + i, 1, 900 + 3 * i, 500 + i * i % 7).add("t" + i, 2, 800 + 3 * i, 500);
    }
    return shot(TRACKERS).withObservations(b.build());
  }

  private static VetDecision.Cull cull(String... names) {
    return new VetDecision.Cull(new Culling.ByHand(Set.of(names)));
  }

  private Snapshot now() {
    return store.now().get();
  }

  @Test
  void anEmptyShotIsAShotAndTakesNoDecision() {
    ShotStore empty = new ShotStore(by.jobs, List.of(), said::add, decided::add);
    assertThat(empty.now().get().isOpen()).isFalse();
    assertThat(empty.now().get().state().shot().trackerCount()).isZero();
    assertThat(empty.now().get().get(DerivedShot.SLOT).value().errors()).isNull();
    empty.decide(cull("t1"));
    empty.undo();
    assertThat(said).containsExactly("No shot open", "Nothing to undo");
    assertThat(decided).isEmpty();
  }

  @Test
  void aDecisionIsShownWithEverythingDrawnOfIt() {
    long before = now().revision();
    store.decide(cull("t1", "t2"));
    assertThat(now().revision()).as("nothing on the window's thread").isEqualTo(before);
    by.applied();
    assertThat(now().revision()).isEqualTo(before + 1);
    Worked<DerivedShot> drawn = now().get(DerivedShot.SLOT);
    assertThat(drawn.current()).isTrue();
    assertThat(drawn.value().shot().trackerCount()).isEqualTo(TRACKERS - 2);
    assertThat(decided).hasSize(1);
  }

  @Test
  void anOldValueIsMarkedUntilTheNewOneIsThereAndUndoWorksNothingOutAgain() {
    store.decide(cull("t1"));
    by.applied();
    assertThat(now().get(count).value()).isZero();
    assertThat(now().get(count).current()).isFalse();
    assertThat(now().isSettled()).isFalse();
    long revision = now().revision();
    by.everything();
    assertThat(now().get(count)).isEqualTo(new Worked<>(1, true, ""));
    assertThat(now().revision()).as("the same moment, better known").isEqualTo(revision);
    store.undo();
    by.applied();
    assertThat(now().get(count)).isEqualTo(new Worked<>(0, true, ""));
    store.redo();
    by.applied();
    assertThat(now().get(count)).isEqualTo(new Worked<>(1, true, ""));
    assertThat(counted).hasSize(1);
  }

  @Test
  void whatIsWorkedOutForAnEarlierRevisionIsDropped() {
    store.decide(cull("t1"));
    by.applied();
    by.work(Lane.MEASURE);
    Runnable late = by.held();
    store.decide(cull("t2", "t3"));
    by.applied();
    late.run();
    assertThat(now().get(count).current()).as("one culled is old by now").isFalse();
    assertThat(now().get(count).value()).isZero();
    by.everything();
    assertThat(now().get(count)).isEqualTo(new Worked<>(3, true, ""));
  }

  @Test
  void anotherShotIsNeverShownWithTheOldOnesValues() {
    store.decide(cull("t1"));
    by.applied();
    by.work(Lane.MEASURE);
    Runnable late = by.held();
    ShotState other = ShotState.of(shot(9));
    store.open(new DecisionHistory(other), DerivedShot.of(other), before -> {});
    late.run();
    assertThat(now().get(DerivedShot.SLOT).value().shot().name()).isEqualTo("s9");
    assertThat(now().get(count).current()).isFalse();
    by.everything();
    assertThat(now().get(count)).isEqualTo(new Worked<>(0, true, ""));
  }

  @Test
  void aSlotThatNobodyAsksForIsNotWorkedOut() {
    store.want(List.of());
    store.decide(cull("t1"));
    by.everything();
    assertThat(counted).isEmpty();
    store.want(List.of(count));
    by.everything();
    assertThat(now().get(count).value()).isEqualTo(1);
  }

  @Test
  void aFailureIsSaidOnceAndTheOldValueStays() {
    Slot<Integer, Integer> fails =
        new Slot<>(
            "Failing",
            s -> Optional.of(s.state().vetting().culled().size()),
            (n, p) -> {
              if (n > 0) {
                throw new flarvo.report.InputError("x", "", "too many", "");
              }
              return 42;
            });
    store.want(List.of(fails));
    by.everything();
    store.decide(cull("t1"));
    by.everything();
    assertThat(now().get(fails).value()).isEqualTo(42);
    assertThat(now().get(fails).failure()).contains("too many");
    assertThat(now().isSettled()).isTrue();
    assertThat(said).hasSize(1);
    store.undo();
    by.applied();
    assertThat(now().get(fails).failure()).isEmpty();
  }

  @Test
  void aLongDecisionThatWasOvertakenIsSaidAndNotAdded() {
    List<String> why = new ArrayList<>();
    store.work(
        "Turning", (s, p) -> Decided.of(s, turn(), p), d -> d, d -> why.add("done"), why::add);
    store.decide(cull("t1"));
    by.everything();
    assertThat(why).singleElement().asString().contains("overtaken");
    assertThat(now().state().level()).isEqualTo(Similarity.IDENTITY);
    store.work("Turning", (s, p) -> Decided.of(s, turn(), p), d -> d, d -> {}, why::add);
    by.everything();
    assertThat(now().state().level()).isNotEqualTo(Similarity.IDENTITY);
    assertThat(now().state().vetting().culled()).containsExactly("t1");
  }

  private static LevelDecision.MoveLevel turn() {
    return new LevelDecision.MoveLevel(
        new Similarity(1, Rotation.about(new Vec3(0, 1, 0), 0.3), Vec3.ZERO), "turn");
  }

  @Test
  void decisionsAndUndoAreTakenInTheirOrderBesideTheWindow() {
    store.decide(cull("t1"));
    store.decide(cull("t2"));
    store.undo();
    store.decide(cull("t3"));
    assertThat(now().state().vetting().culled()).as("nothing on the window's thread").isEmpty();
    assertThat(store.isSettled()).isFalse();
    by.everything();
    assertThat(now().state().vetting().culled()).containsExactlyInAnyOrder("t1", "t3");
    assertThat(now().get(DerivedShot.SLOT).value().shot().trackerCount()).isEqualTo(TRACKERS - 2);
    assertThat(store.isSettled()).isTrue();
    assertThat(decided).hasSize(4);
  }

  /** The level moves camera and points together; all else makes other errors. */
  @Test
  void aLevelKeepsTheErrorsAndACullDoesNot() {
    ShotState seen = ShotState.of(seen());
    DerivedShot before = DerivedShot.of(seen);
    ShotState turned = Decided.of(seen, turn(), Progress.NONE).after();
    ShotState culled = Decided.of(turned, cull("t1"), Progress.NONE).after();
    ShotState weighed =
        Decided.of(turned, new VetDecision.Weigh(Set.of("t1"), false), Progress.NONE).after();

    DerivedShot after = DerivedShot.of(new DerivedShot.Input(turned), before, Progress.NONE);

    assertThat(after.errors()).isNotNull().isSameAs(before.errors());
    assertThat(after.levelled()).isEqualTo(turned.shot().levelled());
    assertThat(after.levelled()).isNotEqualTo(before.levelled());
    for (ShotState s : List.of(culled, weighed)) {
      DerivedShot other = DerivedShot.of(new DerivedShot.Input(s), after, Progress.NONE);
      assertThat(other.errors()).isNotSameAs(before.errors());
      assertThat(other.errors().rmsPx()).isEqualTo(DerivedShot.of(s).errors().rmsPx());
    }
  }

  @Test
  void whatCannotBeAppliedIsSaidAndTheNextStillCounts() {
    store.decide(new VetDecision.DissolveGroup("none"));
    store.decide(cull("t2"));
    by.everything();
    assertThat(now().state().vetting().culled()).containsExactly("t2");
  }

  @Test
  void aLongDecisionThatEndsWhileAnotherIsAppliedLosesNeither() {
    store.work("Turning", (s, p) -> Decided.of(s, turn(), p), d -> d, d -> {}, said::add);
    store.decide(cull("t5"));
    by.work(Lane.APPLY);
    by.work(Lane.DECIDE);
    Runnable applied = by.held();
    by.window();
    applied.run();
    by.everything();
    assertThat(now().state().vetting().culled()).containsExactly("t5");
    assertThat(now().state().level()).isNotEqualTo(Similarity.IDENTITY);
  }

  @Test
  void ofTwoLoadsTheSecondCountsWhicheverEndsLast() {
    List<String> shown = new ArrayList<>();
    by.jobs.run(Lane.LOAD, "first", p -> "first", shown::add, shown::add);
    by.work(Lane.LOAD);
    Runnable late = by.held();
    by.jobs.run(Lane.LOAD, "second", p -> "second", shown::add, shown::add);
    by.everything();
    late.run();
    assertThat(shown).containsExactly("second");
    assertThat(by.jobs.running()).isEmpty();
  }
}
