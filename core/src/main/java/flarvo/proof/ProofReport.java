package flarvo.proof;

import flarvo.report.Note;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/**
 * Whether a delivered file holds.
 *
 * @param drift empty when there is no camera to measure with; then the places of points are
 *     compared
 * @param limitPx largest drift that still holds
 */
public record ProofReport(
    Optional<DriftReport> drift, double limitPx, List<Check> checks, List<Note> losses) {

  /** A hundredth of a pixel: what nobody can see. */
  public static final double USUAL_LIMIT_PX = 0.01;

  public ProofReport {
    checks = List.copyOf(checks);
    losses = List.copyOf(losses);
  }

  /** Whether something was compared and no drift is over the limit. */
  public boolean driftHolds() {
    return drift
        .map(d -> d.compared() > 0 && d.maxPx() <= limitPx)
        .orElse(
            checks.stream()
                .map(Check::name)
                .anyMatch(Set.of(PlaceCheck.NAME, MeshCheck.NAME, CardCheck.NAME)::contains));
  }

  /** Whether the drift and every check hold. */
  public boolean holds() {
    return driftHolds() && checks.stream().allMatch(Check::holds);
  }

  /** The same with more that was compared. */
  public ProofReport with(List<Check> more) {
    return with(more, List.of());
  }

  /** The same with more that was compared, and more that is lost or changed. */
  public ProofReport with(List<Check> more, List<Note> lost) {
    List<Check> checked = new ArrayList<>(checks);
    checked.addAll(more);
    List<Note> notes = new ArrayList<>(losses);
    notes.addAll(lost);
    return new ProofReport(drift, limitPx, checked, notes);
  }

  /** One sentence for a status line. */
  public String sentence() {
    if (holds()) {
      return drift
          .map(d -> String.format(Locale.ROOT, "holds: %.6f px at most", d.maxPx()))
          .orElse("holds: every point is in place");
    }
    return checks.stream()
        .filter(c -> !c.holds())
        .findFirst()
        .map(c -> "does not hold: " + c.name() + " is " + c.found() + ", not " + c.expected())
        .orElseGet(
            () ->
                drift
                    .filter(d -> d.compared() > 0)
                    .map(
                        d ->
                            String.format(
                                Locale.ROOT,
                                "does not hold: %.4f px at frame %d",
                                d.maxPx(),
                                d.worstFrame()))
                    .orElse("does not hold: there was nothing to compare"));
  }
}
