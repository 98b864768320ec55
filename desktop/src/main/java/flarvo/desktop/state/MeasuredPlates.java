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
          (in, p) -> PlateCheck.of(in.shot(), in.lens(), p));

  /**
   * What was measured last, where it still is of the shot as it stands; empty otherwise. Nothing is
   * worked out.
   */
  public static final class Last {
    private Input of;
    private List<PlateCheck> made = List.of();

    /** The checks of a snapshot, or of an earlier one that was the same for them. */
    public List<PlateCheck> of(Snapshot s) {
      Worked<List<PlateCheck>> now = s.get(SLOT);
      if (!s.isOpen() || !s.state().isMade()) {
        return List.of();
      }
      if (now.value() != null && now.current()) {
        of = Input.of(s.state());
        made = now.value();
      }
      return Input.of(s.state()).equals(of) ? made : List.of();
    }
  }

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
