package flarvo.decision;

import flarvo.plate.PlateLuma;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.trace.KeyedMatte;
import flarvo.trace.Mask;
import flarvo.trace.Matte;
import java.util.List;

/** A shot's keyed plates as a mask. */
final class KeyedPlates {

  private KeyedPlates() {}

  /**
   * The mask that it is.
   *
   * @param use what of them counts
   * @param plates of the shot
   * @param picture of the shot, in whose pixels the mask is
   * @throws InputError when the shot has no keyed plates, or they have no alpha
   */
  static Mask of(KeyedMatte use, List<PlateSequence> plates, PictureSize picture) {
    if (!use.isUsed()) {
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
    if (use == KeyedMatte.WHITE) {
      return new Matte(f -> PlateLuma.of(keyed, f), picture);
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
    return new Matte(f -> PlateLuma.alpha(keyed, f), picture);
  }
}
