package flarvo.scene;

/** How much of a block of points a camera has in its picture. */
public enum Sight {
  /** None of them can be in it. */
  NONE,
  /** Some may be. */
  SOME,
  /** All are, and in front of the camera. */
  ALL
}
