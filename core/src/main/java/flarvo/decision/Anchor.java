package flarvo.decision;

import flarvo.report.InputError;
import flarvo.scene.Vec3;

/** Where something is put: on a tracker, or at a point of the levelled world. */
public sealed interface Anchor {

  /**
   * In solve space, as the shot stands.
   *
   * @throws InputError when the tracker is not in the shot
   */
  Vec3 in(ShotState s);

  /** How a title calls it. */
  String words();

  /** One answer for each kind: one that is added does not compile until it has them all. */
  interface Visitor<T> {
    /** On a tracker. */
    T tracker(Tracker a);

    /** At a point of the levelled world. */
    T world(World a);
  }

  /** The answer for the kind that this is. */
  <T> T accept(Visitor<T> visitor);

  /** A tracker, which is followed where that makes sense. */
  record Tracker(String name) implements Anchor {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.tracker(this);
    }

    @Override
    public Vec3 in(ShotState s) {
      return s.place(name)
          .orElseThrow(() -> InputError.words(Applied.notFound(name), "Choose another tracker"));
    }

    @Override
    public String words() {
      return name;
    }
  }

  /**
   * A point of the levelled world.
   *
   * @param metres canonical axes
   */
  record World(Vec3 metres) implements Anchor {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.world(this);
    }

    @Override
    public Vec3 in(ShotState s) {
      return s.level().inverse().apply(metres);
    }

    @Override
    public String words() {
      return "the ground";
    }
  }
}
