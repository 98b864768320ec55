package flarvo.motion;

import flarvo.report.InputError;
import flarvo.scene.Vec3;
import java.util.Locale;

/**
 * What settles the scale of an object that one camera saw: a length on it, how far it is from the
 * camera, where it touches the ground, or a place where it is known to be.
 */
public sealed interface ObjectScale {

  /**
   * The object's scale.
   *
   * @throws InputError when it cannot be settled so
   */
  double of(ObjectSolve solve);

  /** The statement in words, without an end. */
  String words();

  /** One answer for each kind: one that is added does not compile until it has them all. */
  interface Visitor<T> {
    /** The scale itself. */
    T factor(Factor s);

    /** A length on the object. */
    T length(Length s);

    /** A distance from the camera. */
    T away(Away s);

    /** A tracker that touches the ground. */
    T onGround(OnGround s);

    /** A tracker at a known place. */
    T at(At s);
  }

  /** The answer for the kind that this is. */
  <T> T accept(Visitor<T> visitor);

  /** The scale itself. */
  record Factor(double k) implements ObjectScale {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.factor(this);
    }

    @Override
    public double of(ObjectSolve solve) {
      return positive(k, words());
    }

    @Override
    public String words() {
      return String.format(Locale.ROOT, "scale %s", k);
    }
  }

  /**
   * Two trackers of the object are so far apart.
   *
   * @param metres in the levelled world
   */
  record Length(String one, String other, double metres) implements ObjectScale {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.length(this);
    }

    @Override
    public double of(ObjectSolve s) {
      double is = s.place(one).minus(s.place(other)).length() * s.level().scale();
      return positive(metres / is, words());
    }

    @Override
    public String words() {
      return String.format(Locale.ROOT, "%s and %s are %s m apart", one, other, metres);
    }
  }

  /**
   * A tracker of the object is so far from the camera.
   *
   * @param metres in the levelled world
   */
  record Away(String tracker, int frame, double metres) implements ObjectScale {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.away(this);
    }

    @Override
    public double of(ObjectSolve s) {
      double is = s.at(s.place(tracker), frame, 1).minus(s.eye(frame)).length();
      return positive(metres / (is * s.level().scale()), words());
    }

    @Override
    public String words() {
      return String.format(
          Locale.ROOT, "%s is %s m from the camera at frame %d", tracker, metres, frame);
    }
  }

  /**
   * A tracker of the object touches the ground of the levelled world. On the way from the camera
   * through the tracker, height is linear in the scale.
   */
  record OnGround(String tracker, int frame) implements ObjectScale {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.onGround(this);
    }

    @Override
    public double of(ObjectSolve s) {
      double eye = s.level().apply(s.eye(frame)).y();
      double one = s.level().apply(s.at(s.place(tracker), frame, 1)).y();
      if (!(Math.abs(one - eye) > 1e-9 * Math.max(1, Math.abs(eye)))) {
        throw InputError.words(
            "the camera looks at " + tracker + " along the ground at frame " + frame,
            "Take another frame");
      }
      return positive(eye / (eye - one), words());
    }

    @Override
    public String words() {
      return tracker + " touches the ground at frame " + frame;
    }
  }

  /**
   * A tracker of the object is at a place, as near as its line of sight comes to it.
   *
   * @param metres in the levelled world
   */
  record At(String tracker, int frame, Vec3 metres) implements ObjectScale {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.at(this);
    }

    @Override
    public double of(ObjectSolve s) {
      Vec3 eye = s.level().apply(s.eye(frame));
      Vec3 way = s.level().apply(s.at(s.place(tracker), frame, 1)).minus(eye);
      return positive(metres.minus(eye).dot(way) / way.dot(way), words());
    }

    /** How far the tracker's line of sight passes the place, in metres of the levelled world. */
    public double missMetres(ObjectSolve s) {
      Vec3 eye = s.level().apply(s.eye(frame));
      Vec3 way = s.level().apply(s.at(s.place(tracker), frame, 1)).minus(eye);
      return eye.plus(way.times(of(s))).minus(metres).length();
    }

    @Override
    public String words() {
      return String.format(
          Locale.ROOT,
          "%s is at %s %s %s at frame %d",
          tracker,
          metres.x(),
          metres.y(),
          metres.z(),
          frame);
    }
  }

  private static double positive(double k, String words) {
    if (!(k > 0) || !Double.isFinite(k)) {
      throw InputError.words(
          "'" + words + "' puts the object behind the camera", "Check the statement");
    }
    return k;
  }
}
