package flarvo.desktop.stop.plate;

import flarvo.desktop.state.DerivedShot;
import flarvo.desktop.state.Slot;
import flarvo.lens.LensTrack;
import flarvo.plate.match.PlateCheck;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import java.util.List;
import java.util.Optional;

/** What is measured of the plates while Plate is shown. */
final class PlateSlots {

  static final Slot<Behind, List<PlateCheck>> CHECKS =
      new Slot<>(
          "Measuring the plates",
          s ->
              s.isOpen()
                  ? Optional.of(
                      new Behind(s.get(DerivedShot.SLOT).value().shot(), s.state().lens().track()))
                  : Optional.empty(),
          (in, p) -> PlateCheck.of(in.shot(), in.lens(), p),
          in -> in.shot().plates().isEmpty());

  private PlateSlots() {}

  /** A level or a cull moves nothing in the picture; other plates or another camera do. */
  record Behind(Shot shot, Optional<LensTrack> lens) {
    @SuppressWarnings("ReferenceEquality")
    @Override
    public boolean equals(Object o) {
      return o instanceof Behind b
          && plates().equals(b.plates())
          && shot.camera().equals(b.shot.camera())
          && (shot.trackers() == b.shot.trackers() || shot.trackers().equals(b.shot.trackers()))
          && lens.equals(b.lens);
    }

    private List<PlateSequence> plates() {
      return shot.plates();
    }

    @Override
    public int hashCode() {
      return shot.plates().hashCode();
    }
  }
}
