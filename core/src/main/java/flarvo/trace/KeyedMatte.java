package flarvo.trace;

import flarvo.plate.PlateLuma;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import java.util.List;

/** What of a shot's keyed plates is a mask. */
public enum KeyedMatte {
  NONE("none"),
  /** What their alpha covers. */
  ALPHA("alpha"),
  /** Where they are white, as a matte that came as pictures is. */
  WHITE("white");

  private final String word;

  KeyedMatte(String word) {
    this.word = word;
  }

  /** In files. */
  public String word() {
    return word;
  }

  /** Whether there is one. */
  public boolean isUsed() {
    return this != NONE;
  }

  /**
   * The mask of a shot's plates.
   *
   * @param followed size of the plates that are followed
   * @throws InputError when the shot has no keyed plates, or they have no alpha
   */
  Mask of(List<PlateSequence> plates, PictureSize followed) {
    if (this == NONE) {
      return Mask.NONE;
    }
    PlateSequence keyed =
        plates.stream()
            .filter(p -> p.role() == PlateRole.KEYED)
            .findFirst()
            .orElseThrow(
                () ->
                    InputError.words(
                        "the shot has no keyed plates", "Add some, or use no matte of them"));
    if (this == WHITE) {
      return new Matte(f -> PlateLuma.of(keyed, f), followed);
    }
    // One frame tells for all: pictures of one sequence are of one kind.
    int first = keyed.frames().first();
    while (keyed.missing().contains(first)) {
      first++;
    }
    if (PlateLuma.alpha(keyed, first).isEmpty()) {
      throw new InputError(
          keyed.pattern(), "", "the keyed plates have no alpha", "Use their white as the matte");
    }
    return new Matte(f -> PlateLuma.alpha(keyed, f), followed);
  }
}
