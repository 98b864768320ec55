package flarvo.suspect;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * What is wrong with a file, as far as evidence tells.
 *
 * @param errorPx of the file as it stands: mean over the frames of the median error
 * @param observations that it was measured on
 * @param suspects the best explanation first
 * @param notes what could not be measured, and what else is odd about the file
 */
public record SuspectReport(
    double errorPx, int observations, List<Suspect> suspects, List<String> notes) {

  public SuspectReport {
    suspects = List.copyOf(suspects);
    notes = List.copyOf(notes);
  }

  /** The same with more to be said. */
  public SuspectReport with(List<String> more) {
    List<String> all = new ArrayList<>(notes);
    all.addAll(more);
    return new SuspectReport(errorPx, observations, suspects, all);
  }

  /** The explanation, where there is one. */
  public Optional<Suspect> cause() {
    return suspects.stream().findFirst().filter(Suspect::confident);
  }
}
