package flarvo.dispatch;

import flarvo.lens.LensTrack;
import flarvo.scene.Shot;
import java.util.Optional;

/**
 * What deliveries are made from.
 *
 * @param shot in solve space, with everything that was built on it
 * @param lens of the original plates; empty where none is known
 */
public record Outgoing(Shot shot, Optional<LensTrack> lens) {

  /** A shot of whose lens nothing is known. */
  public static Outgoing of(Shot shot) {
    return new Outgoing(shot, Optional.empty());
  }
}
