package flarvo.plate.remap;

import flarvo.lens.Direction;
import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.lens.fit.LensConversion;
import flarvo.lens.fit.LensFitOptions;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.util.Arrays;

/**
 * The lens that a distortion map stands for. A map says where each pixel goes and not why; a lens
 * can be turned round, changed and handed on.
 *
 * @param maxPx largest distance between map and lens over the whole map, in original pixels
 * @param rmsPx the same, root mean square
 * @param cover share of the map's pixels that say anything
 */
public record MapFit(Lens lens, double maxPx, double rmsPx, double cover) {

  /** Pixels that the lens is fitted to, across; all of them are compared. */
  private static final int ACROSS = 64;

  /** Fewer pixels than this in a map are no evidence. */
  private static final int FEWEST = 50;

  /**
   * Fits a lens to a map.
   *
   * @param map of the undistorted picture with its overscan (undistorting), or of the original
   * @param direction from the picture that is had to the picture that the map makes
   * @param overscan of the undistorted picture
   * @param options what is looked for
   * @throws InputError when the map is of another size, or nearly empty
   */
  public static MapFit of(
      PositionGrid map,
      Direction direction,
      Overscan overscan,
      LensFitOptions options,
      Progress progress) {
    boolean straight = direction == Direction.ORIGINAL_TO_UNDISTORTED;
    int w = straight ? overscan.width() : overscan.original().width();
    int h = straight ? overscan.height() : overscan.original().height();
    if (map.width() != w || map.height() != h) {
      throw InputError.words(
          "the map is " + map.width() + "x" + map.height() + ", not " + w + "x" + h,
          "Give the original's size with --size, and --overscan where it has one");
    }
    int step = Math.max(1, map.width() / ACROSS);
    double[] original = new double[2 * ((w + step - 1) / step) * ((h + step - 1) / step)];
    double[] undistorted = new double[original.length];
    double[] o = new double[2];
    double[] u = new double[2];
    int n = 0;
    for (int y = step / 2; y < h; y += step) {
      for (int x = step / 2; x < w; x += step) {
        if (pair(map, straight, overscan, x, y, o, u)) {
          original[n] = o[0];
          original[n + 1] = o[1];
          undistorted[n] = u[0];
          undistorted[n + 1] = u[1];
          n += 2;
        }
      }
    }
    if (n / 2 < FEWEST) {
      throw InputError.words("the map says nothing of nearly all of its pixels", "Is it a map?");
    }
    Lens lens =
        LensConversion.ofPairs(
                Arrays.copyOf(original, n),
                Arrays.copyOf(undistorted, n),
                overscan.original(),
                options,
                progress)
            .lens();
    return compared(map, straight, overscan, lens);
  }

  private static MapFit compared(PositionGrid map, boolean straight, Overscan overscan, Lens lens) {
    LensMapper m = lens.on(overscan.original());
    double most = 0;
    double sum = 0;
    long n = 0;
    double[] o = new double[2];
    double[] u = new double[2];
    double[] p = new double[2];
    for (int y = 0; y < map.height(); y++) {
      for (int x = 0; x < map.width(); x++) {
        if (pair(map, straight, overscan, x, y, o, u)) {
          boolean there = m.toOriginal(u[0], u[1], p);
          double d = there ? Math.hypot(p[0] - o[0], p[1] - o[1]) : Double.POSITIVE_INFINITY;
          most = Math.max(most, d);
          sum += d * d;
          n++;
        }
      }
    }
    double all = (double) map.width() * map.height();
    return new MapFit(lens, most, Math.sqrt(sum / n), n / all);
  }

  /** A pixel's place in both pictures, in pixels without overscan; false where there is nothing. */
  private static boolean pair(
      PositionGrid map,
      boolean straight,
      Overscan overscan,
      int x,
      int y,
      double[] original,
      double[] undistorted) {
    double[] from = straight ? original : undistorted;
    double[] made = straight ? undistorted : original;
    map.at(x, y, from);
    made[0] = x + 0.5;
    made[1] = y + 0.5;
    undistorted[0] -= overscan.left();
    undistorted[1] -= overscan.top();
    // Beyond the original there is no evidence: maps often hold a border that is made up.
    return original[0] >= 0
        && original[1] >= 0
        && original[0] <= overscan.original().width()
        && original[1] <= overscan.original().height()
        && !Double.isNaN(undistorted[0]);
  }
}
