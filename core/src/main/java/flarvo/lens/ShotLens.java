package flarvo.lens;

import flarvo.report.InputError;
import java.util.List;
import java.util.Optional;

/**
 * The lens that the original plates of a shot were taken with.
 *
 * @param track empty where there is none
 * @param source where it came from, for people; of the first sheet where none makes a lens
 * @param problem why there is none; empty where there is one
 */
public record ShotLens(Optional<LensTrack> track, String source, String problem) {

  /** Nothing came, and nothing was decided. */
  public static final ShotLens NONE =
      new ShotLens(Optional.empty(), "", "No lens sheet was received with this shot");

  private static final ShotLens STRAIGHT =
      new ShotLens(Optional.empty(), "", "The plates were said to be without distortion");

  /** What a choice comes to among the sheets that were received. */
  public static ShotLens of(LensChoice choice, List<LensSheet> sheets) {
    return choice.accept(
        new LensChoice.Visitor<>() {
          @Override
          public ShotLens received(LensChoice.Received c) {
            String wanted = c.sheet();
            return among(
                sheets.stream()
                    .filter(s -> wanted.isEmpty() || s.fileName().equals(wanted))
                    .toList());
          }

          @Override
          public ShotLens given(LensChoice.Given c) {
            return new ShotLens(Optional.of(c.lens()), c.from(), "");
          }

          @Override
          public ShotLens none(LensChoice.None c) {
            return STRAIGHT;
          }
        });
  }

  private static ShotLens among(List<LensSheet> sheets) {
    String first = "";
    for (LensSheet s : sheets) {
      try {
        return new ShotLens(Optional.of(s.track()), s.fileName(), "");
      } catch (InputError e) {
        first = first.isEmpty() ? e.reason() : first;
      }
    }
    return sheets.isEmpty()
        ? NONE
        : new ShotLens(Optional.empty(), sheets.get(0).fileName(), first);
  }
}
