package flarvo.convention;

import java.util.ArrayList;
import java.util.List;

/**
 * Which local axis a camera looks along and which is its up; the third follows from the hand of the
 * world it stands in. Canonical: −Z and +Y.
 */
public record CameraAxes(SignedAxis view, SignedAxis up) {

  public static final CameraAxes CANONICAL =
      new CameraAxes(SignedAxis.NEGATIVE_Z, SignedAxis.POSITIVE_Y);

  public CameraAxes {
    if (view.index() == up.index()) {
      throw new IllegalArgumentException("a camera cannot look along its up: " + view);
    }
  }

  /** All 24, in a fixed order. */
  public static List<CameraAxes> all() {
    List<CameraAxes> list = new ArrayList<>(24);
    for (SignedAxis v : SignedAxis.values()) {
      for (SignedAxis u : SignedAxis.values()) {
        if (v.index() != u.index()) {
          list.add(new CameraAxes(v, u));
        }
      }
    }
    return List.copyOf(list);
  }

  /** Canonical camera to this one, in a world of the given hand. */
  SignedBasis basis(Handedness hand) {
    int third = 3 - view.index() - up.index();
    SignedBasis guess = new SignedBasis(SignedAxis.of(third, 1), up, view.negated());
    return guess.determinant() == hand.determinant()
        ? guess
        : new SignedBasis(SignedAxis.of(third, -1), up, view.negated());
  }
}
