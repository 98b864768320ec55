package flarvo.receive;

/** What is said of a lens: a focal length, one that changes, or only an angle of view. */
public sealed interface FocalClaim {

  /** In millimetres; both alike where it does not change. */
  record Millimetres(double least, double most) implements FocalClaim {}

  /** Of a file that states no film back. */
  record VerticalDegrees(double angle) implements FocalClaim {}
}
