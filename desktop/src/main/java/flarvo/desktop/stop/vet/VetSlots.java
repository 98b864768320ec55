package flarvo.desktop.stop.vet;

import flarvo.decision.ShotState;
import flarvo.desktop.state.DerivedShot;
import flarvo.desktop.state.Slot;
import flarvo.desktop.state.Snapshot;
import flarvo.scene.Shot;
import flarvo.scene.WorldShot;
import flarvo.vet.Measures;
import flarvo.vet.Reprojection;
import flarvo.vet.SolveKind;
import java.util.Optional;
import java.util.Set;

/** What is measured of a solve while Vet is shown. */
final class VetSlots {

  static final Slot<Measured, Measures> MEASURES =
      new Slot<>(
          "Measuring the solve",
          s -> drawn(s).map(d -> new Measured(d.levelled(), d.uncounted(), d.errors())),
          (in, p) ->
              in.errors() == null ? null : Measures.of(in.shot().contents(), in.errors(), p));

  static final Slot<Solved, SolveKind> KIND =
      new Slot<>(
          "Detecting camera type",
          s -> drawn(s).map(d -> new Solved(s.state(), d.shot())),
          (in, p) -> SolveKind.of(in.shot(), in.state().vetting().uncounted(), p).orElse(null));

  private VetSlots() {}

  private static Optional<DerivedShot> drawn(Snapshot s) {
    return s.isOpen() ? Optional.of(s.get(DerivedShot.SLOT).value()) : Optional.empty();
  }

  /** A shot that was drawn once is compared by reference. */
  record Measured(WorldShot shot, Set<String> uncounted, Reprojection errors) {
    @SuppressWarnings("ReferenceEquality")
    @Override
    public boolean equals(Object o) {
      return o instanceof Measured m && shot == m.shot && uncounted.equals(m.uncounted);
    }

    @Override
    public int hashCode() {
      return System.identityHashCode(shot);
    }
  }

  /** A cull or a level does not make a tripod of a move; other files or another solve may. */
  record Solved(ShotState state, Shot shot) {
    @SuppressWarnings("ReferenceEquality")
    @Override
    public boolean equals(Object o) {
      return o instanceof Solved s
          && state.received().orElse(null) == s.state.received().orElse(null)
          && (state.received().isPresent() || state.name().equals(s.state.name()))
          && state.rulings().equals(s.state.rulings())
          && state.vetting().solve().equals(s.state.vetting().solve());
    }

    @Override
    public int hashCode() {
      return state.rulings().hashCode();
    }
  }
}
