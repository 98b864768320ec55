package flarvo.lens.fit;

import flarvo.lens.Lens;
import java.util.List;

/**
 * A lens as lines tell it.
 *
 * @param residualPx RMS of the points' distances across their lines, in original pixels
 * @param maxPx the largest of them
 * @param beforePx RMS with the lens that was started from
 * @param strays lines left out because they are not straight under the lens of the others, with
 *     what they were off by then
 * @param tooShort lines left out because they have fewer than three points
 * @param cover share of the picture with evidence in it, 0 to 1
 * @param worstPx 95 % bound, over the whole picture at once, of how far the lens may put a point
 *     wrong, in original pixels; infinite where the lines do not determine it
 * @param untold groups of terms that these lines cannot tell apart
 */
public record LensEstimate(
    Lens lens,
    List<Term> terms,
    double residualPx,
    double maxPx,
    double beforePx,
    List<LineError> lines,
    List<LineError> strays,
    int tooShort,
    double cover,
    double worstPx,
    List<List<String>> untold) {

  /**
   * A coefficient that was looked for.
   *
   * @param sigma standard deviation; infinite where it is not determined
   */
  public record Term(String name, double value, double sigma) {}

  /** What is left of a line, in original pixels. */
  public record LineError(String name, int frame, double rmsPx) {}

  public LensEstimate {
    terms = List.copyOf(terms);
    lines = List.copyOf(lines);
    strays = List.copyOf(strays);
    untold = List.copyOf(untold);
  }

  LensEstimate withStrays(List<LineError> s) {
    return new LensEstimate(
        lens, terms, residualPx, maxPx, beforePx, lines, s, tooShort, cover, worstPx, untold);
  }
}
