package flarvo.lens.fit;

import flarvo.lens.Lens;
import java.util.List;

/**
 * A lens as lines tell it.
 *
 * @param residualPx RMS of the points' distances across their lines, in original pixels
 * @param maxPx the largest of them
 * @param beforePx RMS with the lens that was started from
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
    untold = List.copyOf(untold);
  }
}
