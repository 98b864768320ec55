package flarvo.desktop.stop.level;

import flarvo.desktop.state.DerivedShot;
import flarvo.desktop.state.Slot;
import flarvo.level.LevelCheck;
import flarvo.level.LevelScene;
import flarvo.level.Levelling;
import flarvo.level.Stated;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import java.util.List;
import java.util.Optional;

/** What is worked out while Level is shown. */
final class LevelSlots {

  /** Without a tracker. */
  static final LevelScene NOTHING = new LevelScene(Shot.EMPTY);

  static final Slot<Trackers, LevelScene> SCENE =
      new Slot<>(
          "Reading trackers for the level",
          s -> Optional.of(new Trackers(s.get(DerivedShot.SLOT).value().shot())),
          (in, p) -> new LevelScene(in.shot()));

  static final Slot<Stand, LevelNow> READING =
      new Slot<>(
          "Working out the level",
          s ->
              Optional.ofNullable(s.get(SCENE).value())
                  .map(
                      scene ->
                          new Stand(scene, s.state().staging().statements(), s.state().level())),
          (in, p) ->
              new LevelNow(
                  Levelling.of(in.scene(), in.statements(), in.level()),
                  LevelCheck.of(in.scene(), in.level())));

  private LevelSlots() {}

  /** The level itself does not matter to it. */
  record Trackers(Shot shot) {
    @SuppressWarnings("ReferenceEquality")
    @Override
    public boolean equals(Object o) {
      return o instanceof Trackers t
          && shot.observations() == t.shot.observations()
          && shot.trackers().equals(t.shot.trackers())
          && shot.cameras().equals(t.shot.cameras());
    }

    @Override
    public int hashCode() {
      return System.identityHashCode(shot.observations());
    }
  }

  record Stand(LevelScene scene, List<Stated> statements, Similarity level) {}
}
