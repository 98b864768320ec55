package flarvo.desktop.state;

import flarvo.decision.ShotState;
import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import flarvo.receive.ReceivedSet;
import flarvo.report.InputError;
import java.util.List;
import java.util.Optional;

/**
 * The lens that a shot came with.
 *
 * @param track the lens of the first sheet that makes one
 * @param source name of its file; of the first sheet where none makes a lens
 * @param problem why there is none; empty where there is one
 */
public record ShotLens(Optional<LensTrack> track, String source, String problem) {

  static final ShotLens NONE =
      new ShotLens(Optional.empty(), "", "No lens sheet was received with this shot");

  static ShotLens of(ShotState state) {
    List<LensSheet> sheets = state.received().map(ReceivedSet::lenses).orElse(List.of());
    String first = "";
    for (LensSheet s : sheets) {
      try {
        return new ShotLens(Optional.of(s.track()), s.path().getFileName().toString(), "");
      } catch (InputError e) {
        first = first.isEmpty() ? e.reason() : first;
      }
    }
    return sheets.isEmpty()
        ? NONE
        : new ShotLens(Optional.empty(), sheets.get(0).path().getFileName().toString(), first);
  }

  /** The same object for states that came with the same sheets. */
  static final class Memo {
    private List<LensSheet> of = List.of();
    private ShotLens made = NONE;

    ShotLens of(ShotState state) {
      List<LensSheet> sheets = state.received().map(ReceivedSet::lenses).orElse(List.of());
      if (!sheets.equals(of)) {
        of = sheets;
        made = ShotLens.of(state);
      }
      return made;
    }
  }
}
