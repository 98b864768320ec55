package flarvo.lens;

/** Which lens the original plates of a shot were taken with, as decided. */
public sealed interface LensChoice {

  /**
   * A received sheet.
   *
   * @param sheet name of its file; empty, as where nothing was decided, for the first that makes a
   *     lens
   */
  record Received(String sheet) implements LensChoice {}

  /**
   * A lens that was fitted or typed.
   *
   * @param from where it came from, for people
   */
  record Given(LensTrack lens, String from) implements LensChoice {}

  /** The plates are straight as they are. */
  record None() implements LensChoice {}
}
