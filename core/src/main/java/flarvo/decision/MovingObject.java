package flarvo.decision;

import flarvo.motion.ObjectScale;
import flarvo.motion.ObjectSolve;
import flarvo.scene.Shot;
import java.util.Objects;

/**
 * An object of the shot that moves by itself, and was solved by itself.
 *
 * @param name of its group
 * @param solve made on the object, in plate frames
 * @param scale what settles how large and how far it is
 */
public record MovingObject(String name, Shot solve, ObjectScale scale) {

  public MovingObject {
    Objects.requireNonNull(solve);
    Objects.requireNonNull(scale);
    if (name.isBlank()) {
      throw new IllegalArgumentException("a moving object needs a name");
    }
  }

  /** The same at another scale. */
  MovingObject at(ObjectScale s) {
    return new MovingObject(name, solve, s);
  }

  /**
   * A shot with the object in it.
   *
   * @throws flarvo.report.InputError when the two do not belong together, or the scale cannot be
   *     settled so
   */
  Shot in(Shot scene) {
    ObjectSolve o = ObjectSolve.of(scene, solve);
    return o.in(name, scale.of(o));
  }
}
