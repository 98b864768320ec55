package flarvo.cli;

import flarvo.lens.LensModel;
import flarvo.lens.Normalisation;
import flarvo.report.InputError;

/** Names of models and units, as they are typed. */
final class LensWords {

  private LensWords() {}

  static LensModel model(String typed) {
    return LensModel.of(typed)
        .orElseThrow(
            () ->
                InputError.words(
                    "the distortion model '" + typed + "' is not known",
                    "Known are " + LensModel.codes()));
  }

  static Normalisation normalisation(String typed) {
    return Normalisation.of(typed)
        .orElseThrow(
            () ->
                InputError.words(
                    "--normalisation does not know '" + typed + "'",
                    "It is half-width, half-height, half-diagonal or focal-length"));
  }

  /**
   * Whether the first of two words was typed.
   *
   * @throws InputError when it was neither
   */
  static boolean either(String option, String typed, String yes, String no) {
    if (!typed.equals(yes) && !typed.equals(no)) {
      throw InputError.words(option + " takes " + yes + " or " + no + ", not '" + typed + "'", "");
    }
    return typed.equals(yes);
  }
}
