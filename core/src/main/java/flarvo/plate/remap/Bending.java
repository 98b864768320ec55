package flarvo.plate.remap;

import flarvo.lens.Direction;
import flarvo.lens.LensTrack;

/** What bends a sequence: a lens, or a distortion map that stands for one. */
public sealed interface Bending permits LensBending, MapBending {

  /** What pictures go through that have a lens sheet. */
  static Bending of(LensTrack lens) {
    return new LensBending(lens);
  }

  /** What a frame goes through; frames with equal ones share a grid. */
  Object at(int frame);

  /** It as one word, to tell whether a picture was made through it. */
  String how(int frame);

  /**
   * Where each pixel of a frame is made from.
   *
   * @param direction from the picture that is had to the picture that is made
   * @param overscan of the undistorted one
   * @throws flarvo.report.InputError when a map cannot be read, or is of another size
   */
  PositionGrid grid(int frame, Direction direction, Overscan overscan);
}
