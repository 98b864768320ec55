package flarvo.lens;

/** Which lens the original plates of a shot were taken with, as decided. */
public sealed interface LensChoice {

  /** One answer for each kind: one that is added does not compile until it has them all. */
  interface Visitor<T> {
    /** A received sheet. */
    T received(Received c);

    /** A lens that was fitted or typed. */
    T given(Given c);

    /** No lens: the plates are straight. */
    T none(None c);
  }

  /** The answer for the kind that this is. */
  <T> T accept(Visitor<T> visitor);

  /**
   * A received sheet.
   *
   * @param sheet name of its file; empty, as where nothing was decided, for the first that makes a
   *     lens
   */
  record Received(String sheet) implements LensChoice {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.received(this);
    }
  }

  /**
   * A lens that was fitted or typed.
   *
   * @param from where it came from, for people
   */
  record Given(LensTrack lens, String from) implements LensChoice {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.given(this);
    }
  }

  /** The plates are straight as they are. */
  record None() implements LensChoice {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.none(this);
    }
  }
}
