package flarvo.trace;

import flarvo.scene.Luma;
import flarvo.scene.PictureSize;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;

/**
 * A received matte as a mask: white is masked. It may be of another size than the plate. A frame
 * that the matte does not have masks nothing.
 */
public final class Matte implements Mask {

  private static final float WHITE = 127.5f;
  private static final int FRAMES_KEPT = 16;

  private final IntFunction<Optional<Luma>> frames;
  private final PictureSize plate;
  private final Map<Integer, Optional<Luma>> kept =
      new LinkedHashMap<>() {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Integer, Optional<Luma>> e) {
          return size() > FRAMES_KEPT;
        }
      };

  /**
   * @param frames its brightness by plate frame
   * @param plate size of the plate that is followed
   */
  public Matte(IntFunction<Optional<Luma>> frames, PictureSize plate) {
    this.frames = frames;
    this.plate = plate;
  }

  @Override
  public boolean covers(int frame, double x, double y) {
    Optional<Luma> at = at(frame);
    if (at.isEmpty()) {
      return false;
    }
    Luma l = at.get();
    int px = (int) Math.floor(x * l.width() / plate.width());
    int py = (int) Math.floor(y * l.height() / plate.height());
    return px >= 0 && py >= 0 && px < l.width() && py < l.height() && l.at(px, py) > WHITE;
  }

  private synchronized Optional<Luma> at(int frame) {
    Optional<Luma> there = kept.get(frame);
    if (there == null) {
      there = frames.apply(frame);
      kept.put(frame, there);
    }
    return there;
  }
}
