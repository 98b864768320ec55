package flarvo.desktop.state;

import flarvo.decision.ShotState;
import flarvo.lens.LensTrack;
import flarvo.plate.match.PlateCheck;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.util.List;
import java.util.Optional;

/** Whether a shot's plates belong behind its camera, as measured in their pixels. */
public final class MeasuredPlates {

  /** A level or a cull moves nothing in the picture; other plates or another camera do. */
  public record Input(Shot shot, Optional<LensTrack> lens) {

    static Input of(ShotState s) {
      return new Input(s.shot(), s.lens().track());
    }

    @Override
    public boolean equals(Object o) {
      return o instanceof Input b
          && shot.plates().equals(b.shot.plates())
          && shot.camera().equals(b.shot.camera())
          && shot.trackers().equals(b.shot.trackers())
          && lens.equals(b.lens);
    }

    @Override
    public int hashCode() {
      return shot.plates().hashCode();
    }
  }

  private MeasuredPlates() {}

  /** Worked out while it is asked for; takes a second or two. */
  public static final Slot<Input, List<PlateCheck>> SLOT =
      new Slot<>(
          "Measuring the plates",
          s ->
              s.isOpen()
                  ? Optional.of(
                      new Input(s.get(DerivedShot.SLOT).value().shot(), s.state().lens().track()))
                  : Optional.empty(),
          (in, p) -> PlateCheck.of(in.shot(), in.lens(), p),
          in -> in.shot().plates().isEmpty());

  /** Those of one shot, for several deliveries of it. */
  static final class Memo {
    private Input of;
    private List<PlateCheck> made = List.of();

    synchronized List<PlateCheck> of(Input in, Progress progress) {
      if (!in.equals(of)) {
        made = PlateCheck.of(in.shot(), in.lens(), progress);
        of = in;
      }
      return made;
    }
  }
}
