package flarvo.desktop.state;

import flarvo.decision.ShotState;
import flarvo.scene.Mesh;
import flarvo.scene.Shot;
import flarvo.scene.WorldShot;
import flarvo.vet.Reprojection;
import flarvo.work.Progress;
import java.util.Optional;
import java.util.Set;

/**
 * What is made of a shot for all to draw.
 *
 * @param shot in solve space
 * @param levelled in the canonical world
 * @param errors null where nothing was observed
 * @param uncounted trackers that the errors leave out of every sum
 */
public record DerivedShot(
    Shot shot, WorldShot levelled, Reprojection errors, Set<String> uncounted) {

  /** A shot with more than this is worked out beside the window. */
  private static final int SMALL = 40_000;

  /** Worked out for every snapshot. */
  public static final Slot<Input, DerivedShot> SLOT =
      new Slot<>(
          "Working out errors",
          s -> Optional.of(new Input(s.state())),
          DerivedShot::of,
          k -> k.state().isMade() && isQuick(k.state().shot()));

  /** States that are drawn alike are equal. */
  public record Input(ShotState state) {
    private Set<String> uncounted() {
      return state.vetting().uncounted();
    }

    @Override
    public boolean equals(Object o) {
      return o instanceof Input i && state.isSameShot(i.state) && uncounted().equals(i.uncounted());
    }

    @Override
    public int hashCode() {
      return state.name().hashCode();
    }
  }

  static DerivedShot of(Input in, Progress progress) {
    return of(in.state());
  }

  static DerivedShot of(ShotState state) {
    Shot shot = state.shot();
    Set<String> uncounted = state.vetting().uncounted();
    Reprojection errors = Reprojection.of(shot, uncounted).orElse(null);
    if (errors != null) {
      errors.medianPx(); // here, where nobody waits for it
    }
    return new DerivedShot(shot, shot.levelled(), errors, uncounted);
  }

  /** Whether working something out of all of a shot takes less than a pulse. */
  public static boolean isQuick(Shot shot) {
    long points = shot.meshes().stream().mapToLong(Mesh::points).sum();
    return shot.observations().size() + shot.trackerCount() + points <= SMALL;
  }
}
