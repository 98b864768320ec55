package flarvo.desktop.state;

import flarvo.decision.ShotState;
import flarvo.scene.Shot;
import flarvo.scene.WorldShot;
import flarvo.vet.Reprojection;
import flarvo.work.Progress;
import java.util.List;
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

  /** Worked out with every decision, so that a snapshot shows what it says. */
  public static final Slot<Input, DerivedShot> SLOT =
      new Slot<>("Working out errors", s -> Optional.of(new Input(s.state())), DerivedShot::of);

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

  /** Errors are taken over where only the level is another: it does not matter to them. */
  static DerivedShot of(Input in, DerivedShot before, Progress progress) {
    Shot shot = in.state().shot();
    return before != null
            && before.uncounted.equals(in.uncounted())
            && isSameSolve(before.shot, shot)
        ? new DerivedShot(shot, shot.levelled(), before.errors, before.uncounted)
        : of(in.state());
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

  /** By reference: what an edit does not touch stays the same objects. */
  @SuppressWarnings("ReferenceEquality")
  private static boolean isSameSolve(Shot a, Shot b) {
    return a.observations() == b.observations()
        && a.picture().equals(b.picture())
        && isSame(a.cameras(), b.cameras())
        && isSame(a.trackers(), b.trackers());
  }

  @SuppressWarnings("ReferenceEquality")
  private static boolean isSame(List<?> a, List<?> b) {
    boolean same = a.size() == b.size();
    for (int i = 0; same && i < a.size(); i++) {
      same = a.get(i) == b.get(i);
    }
    return same;
  }
}
