package flarvo.plate.remap;

import flarvo.lens.Direction;
import flarvo.plate.SampleKind;
import java.util.Optional;

/**
 * How a sequence is made from another.
 *
 * @param direction from the picture that is had to the picture that is made
 * @param overscan of the undistorted one
 * @param proxy the picture is made so many times smaller, averaging; 1 for full size
 * @param depth how numbers are stored; empty: as the source, or as near as the format can
 */
public record RemapOptions(
    Bending bending,
    Direction direction,
    Overscan overscan,
    Filter filter,
    Light light,
    int proxy,
    Optional<SampleKind> depth) {

  /** The largest proxy: a 16th of the width is a thumbnail. */
  public static final int MOST_PROXY = 16;

  public RemapOptions {
    if (proxy < 1 || proxy > MOST_PROXY) {
      throw new IllegalArgumentException("a proxy is 1 to " + MOST_PROXY + " times smaller");
    }
  }

  /** Where each pixel of a frame is made from. */
  PositionGrid grid(int frame) {
    return bending.grid(frame, direction, overscan);
  }

  /** All of it as one word, to tell whether a picture was made in this way. */
  String how(int frame) {
    return bending.how(frame)
        + " "
        + direction
        + " "
        + overscan.original()
        + " "
        + overscan.width()
        + "x"
        + overscan.height()
        + (overscan.isCentred() ? "" : " at " + overscan.left() + "," + overscan.top())
        + " "
        + filter.code()
        + " "
        + light.code()
        + " "
        + proxy
        + " "
        + depth.map(SampleKind::code).orElse("same");
  }
}
