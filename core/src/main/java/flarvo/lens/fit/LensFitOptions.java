package flarvo.lens.fit;

import flarvo.lens.Lens;
import flarvo.lens.LensModel;
import flarvo.lens.Normalisation;
import java.util.List;

/**
 * What a fit looks for.
 *
 * @param start the lens to begin with; what is not looked for stays as it is there
 * @param terms coefficients to look for, by name
 * @param centre whether the centre of distortion is looked for too
 */
public record LensFitOptions(Lens start, List<String> terms, boolean centre) {

  public LensFitOptions {
    terms = List.copyOf(terms);
    for (String t : terms) {
      if (!start.distortion().model().coefficients().contains(t)) {
        throw new IllegalArgumentException(
            "the model "
                + start.distortion().model().code()
                + " has no coefficient '"
                + t
                + "'; it has "
                + String.join(", ", start.distortion().model().coefficients()));
      }
    }
    if (terms.stream().distinct().count() != terms.size()) {
      throw new IllegalArgumentException("a coefficient is named twice");
    }
    if (terms.isEmpty() && !centre) {
      throw new IllegalArgumentException("there is nothing to look for");
    }
  }

  /** The usual terms of a model, about the picture's centre. */
  public static LensFitOptions usual(LensModel model, Normalisation normalisation, double focal) {
    return new LensFitOptions(
        new Lens(model.neutral(), normalisation, 0.5, 0.5, focal), model.usual(), false);
  }
}
