package flarvo.format.fbx;

import flarvo.scene.Fraction;
import flarvo.scene.Rate;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/** Ticks, frames and the table of time modes. */
final class FbxTime {

  static final long TICKS_PER_SECOND = 46_186_158_000L;

  /** The mode whose rate stands in a property of its own. */
  static final int CUSTOM = 14;

  private static final Map<Integer, Rate> MODES = new LinkedHashMap<>();

  static {
    MODES.put(11, new Rate(24, 1));
    MODES.put(13, new Rate(24000, 1001));
    MODES.put(10, new Rate(25, 1));
    MODES.put(6, new Rate(30, 1));
    MODES.put(9, new Rate(30000, 1001));
    MODES.put(5, new Rate(48, 1));
    MODES.put(4, new Rate(50, 1));
    MODES.put(3, new Rate(60, 1));
    MODES.put(17, new Rate(60000, 1001));
    MODES.put(16, new Rate(72, 1));
    MODES.put(15, new Rate(96, 1));
    MODES.put(2, new Rate(100, 1));
    MODES.put(1, new Rate(120, 1));
    MODES.put(18, new Rate(120000, 1001));
    MODES.put(12, new Rate(1000, 1));
    // Read only: the same rates counted with other timecodes.
    MODES.put(7, new Rate(30, 1));
    MODES.put(8, new Rate(30000, 1001));
  }

  private FbxTime() {}

  static Optional<Rate> rateOf(int mode) {
    return Optional.ofNullable(MODES.get(mode));
  }

  static int modeOf(Rate rate) {
    for (Map.Entry<Integer, Rate> e : MODES.entrySet()) {
      if (e.getValue().equals(rate)) {
        return e.getKey();
      }
    }
    return CUSTOM;
  }

  /** The tick nearest to a frame; for rates such as 24000/1001 a frame is no whole tick. */
  static long tickOf(int frame, Rate rate) {
    Fraction t = Fraction.of(frame).times(rate.den(), rate.num()).times(TICKS_PER_SECOND, 1);
    long floor = t.floor();
    Fraction rest = t.minus(Fraction.of(floor));
    return rest.compareTo(new Fraction(1, 2)) >= 0 ? floor + 1 : floor;
  }

  /** The tick of a key that lies between frames. */
  static double tickOf(double frame, Rate rate) {
    return Math.rint(frame * rate.den() / rate.num() * TICKS_PER_SECOND);
  }

  /** Position in frames of a tick; for display and grid checks. */
  static double frameOf(double tick, Rate rate) {
    return tick / TICKS_PER_SECOND * rate.num() / rate.den();
  }
}
