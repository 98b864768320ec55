package flarvo.trace;

import flarvo.scene.Observations;
import java.util.List;
import java.util.Optional;

/**
 * Features that were followed.
 *
 * @param observations in canonical pixels of the plates that were read
 * @param notes by frame
 */
public record Traced(Observations observations, List<TraceNote> notes) {

  public Traced {
    notes = List.copyOf(notes);
  }

  /** The first frame of another picture, where there is one: no camera goes across. */
  public Optional<TraceNote> cut() {
    return notes.stream().filter(n -> n.kind() == TraceNote.Kind.CUT).findFirst();
  }

  /** Mean number of frames on which a feature was seen. */
  public double meanLife() {
    int n = observations.names().size();
    return n == 0 ? 0 : (double) observations.size() / n;
  }
}
