package flarvo.trace;

import flarvo.lens.LensMapper;
import flarvo.lens.LensTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import java.util.Objects;
import java.util.Optional;

/**
 * A mask that was drawn over a shot's plates.
 *
 * @param plates over which it was drawn; empty where it is not known, and it is taken as it is over
 *     whatever is followed
 * @param shape in pixels of the shot's picture, as these plates show it
 */
public record DrawnMask(Optional<PlateRole> plates, MaskShape shape) {

  public DrawnMask {
    Objects.requireNonNull(plates);
    Objects.requireNonNull(shape);
  }

  /** That of its shape. */
  public String name() {
    return shape.name();
  }

  /**
   * The same mask over other plates of the shot: a place is covered where the lens puts it inside
   * the shape. What lies beyond the lens's fold is not.
   *
   * @param followed plates that are followed
   * @param lens of the original plates; without one they are taken for straight
   * @param picture of the shot
   */
  public Mask over(PlateRole followed, Optional<LensTrack> lens, PictureSize picture) {
    boolean drawnBent = plates.orElse(followed) == PlateRole.ORIGINAL;
    boolean followedBent = followed == PlateRole.ORIGINAL;
    return lens.isEmpty() || drawnBent == followedBent
        ? shape
        : new Moved(shape, lens.get(), picture, drawnBent);
  }

  /** One over original plates for undistorted ones, or the other way. Safe for many threads. */
  private static final class Moved implements Mask {
    private final MaskShape shape;
    private final LensTrack lens;
    private final PictureSize picture;
    private final boolean drawnBent;
    private final ThreadLocal<OfFrame> mine = ThreadLocal.withInitial(OfFrame::new);

    /** The lens on the frame that was asked for last. */
    private static final class OfFrame {
      private final double[] at = new double[2];
      private LensMapper mapper;
      private int frame;
    }

    Moved(MaskShape shape, LensTrack lens, PictureSize picture, boolean drawnBent) {
      this.shape = shape;
      this.lens = lens;
      this.picture = picture;
      this.drawnBent = drawnBent;
    }

    @Override
    public boolean covers(int frame, double x, double y) {
      OfFrame o = mine.get();
      if (o.mapper == null || o.frame != frame && lens.breathes()) {
        o.mapper = lens.at(frame).on(picture);
        o.frame = frame;
      }
      boolean seen =
          drawnBent ? o.mapper.toOriginal(x, y, o.at) : o.mapper.toUndistorted(x, y, o.at);
      return seen && shape.covers(frame, o.at[0], o.at[1]);
    }
  }
}
