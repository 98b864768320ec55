package flarvo.convention;

import java.util.ArrayList;
import java.util.List;

/**
 * Which signed axis of a world points right, up and away from a viewer who stands upright in front
 * of the scene. All 48 signed permutations are allowed, 24 of each hand. Canonical: +X, +Y, −Z.
 */
public record WorldAxes(SignedAxis right, SignedAxis up, SignedAxis away) {

  public static final WorldAxes CANONICAL =
      new WorldAxes(SignedAxis.POSITIVE_X, SignedAxis.POSITIVE_Y, SignedAxis.NEGATIVE_Z);

  public WorldAxes {
    if (right.index() == up.index()
        || up.index() == away.index()
        || away.index() == right.index()) {
      throw new IllegalArgumentException(
          "right, up and away must lie along three different axes: "
              + right
              + ", "
              + up
              + ", "
              + away);
    }
  }

  /** All 48, in a fixed order. */
  public static List<WorldAxes> all() {
    List<WorldAxes> list = new ArrayList<>(48);
    for (SignedAxis r : SignedAxis.values()) {
      for (SignedAxis u : SignedAxis.values()) {
        for (SignedAxis a : SignedAxis.values()) {
          if (r.index() != u.index() && u.index() != a.index() && a.index() != r.index()) {
            list.add(new WorldAxes(r, u, a));
          }
        }
      }
    }
    return List.copyOf(list);
  }

  /** Right where right × up points towards the viewer. */
  public Handedness handedness() {
    return basis().determinant() > 0 ? Handedness.RIGHT : Handedness.LEFT;
  }

  /** The same world seen in a mirror: right and left change places. */
  public WorldAxes mirrored() {
    return new WorldAxes(right.negated(), up, away);
  }

  /** Canonical to this world: x goes to right, y to up, −z to away. */
  SignedBasis basis() {
    return new SignedBasis(right, up, away.negated());
  }
}
