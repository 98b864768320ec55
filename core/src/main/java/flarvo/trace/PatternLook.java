package flarvo.trace;

import boofcv.struct.image.GrayF32;
import flarvo.scene.Luma;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;

/**
 * What a feature that was marked by hand looked like at its mark, and what it looks like on another
 * frame, turned and scaled as it fits best.
 *
 * @param markedOn frame of the nearest mark
 * @param side pixels across both pictures
 * @param marked brightness round the mark, row by row
 * @param now the same on the other frame
 * @param correlation normalised, −1 to 1; of the two pictures
 */
public record PatternLook(int markedOn, int side, float[] marked, float[] now, double correlation) {

  private static final int ROUNDS = 10;

  /** So far a fit may lead from where the feature was found, in pixels; else it is shown there. */
  private static final double MOST_MOVED = 2;

  /**
   * Looks at a frame.
   *
   * @param feature in pixels of its plates, see {@link PlatePixels}
   * @param plates brightness by plate frame, of the plates that the feature is in
   * @return empty where the feature is not seen on the frame, a picture is missing, or its square
   *     leaves the picture
   */
  public static Optional<PatternLook> of(
      HandFeature feature, int frame, IntFunction<Optional<Luma>> plates) {
    int row = feature.path().row(feature.name(), frame);
    if (row < 0) {
      return Optional.empty();
    }
    Map.Entry<Integer, HandFeature.Mark> mark = nearest(feature, frame);
    Optional<GrayF32> first = plates.apply(mark.getKey()).map(Levels::image);
    Optional<GrayF32> other = plates.apply(frame).map(Levels::image);
    Pattern p = new Pattern(feature.radius());
    // Centres of pixels are whole numbers in this package.
    double mx = mark.getValue().x() - 0.5;
    double my = mark.getValue().y() - 0.5;
    if (first.isEmpty() || other.isEmpty() || !p.take(first.get(), mx, my)) {
      return Optional.empty();
    }
    double x = feature.path().x(row) - 0.5;
    double y = feature.path().y(row) - 0.5;
    double[] warp = Pattern.at(x, y);
    double score = p.fit(other.get(), warp, ROUNDS);
    if (!(score > 0) || Math.hypot(warp[0] - x, warp[1] - y) > MOST_MOVED) {
      warp = Pattern.at(x, y);
    }
    Optional<float[]> marked = square(first.get(), Pattern.at(mx, my), feature.radius());
    Optional<float[]> now = square(other.get(), warp, feature.radius());
    if (marked.isEmpty() || now.isEmpty()) {
      return Optional.empty();
    }
    return Optional.of(
        new PatternLook(
            mark.getKey(),
            2 * feature.radius() + 1,
            marked.get(),
            now.get(),
            correlation(marked.get(), now.get())));
  }

  private static Map.Entry<Integer, HandFeature.Mark> nearest(HandFeature f, int frame) {
    Map.Entry<Integer, HandFeature.Mark> before = f.marks().floorEntry(frame);
    Map.Entry<Integer, HandFeature.Mark> after = f.marks().ceilingEntry(frame);
    if (before == null || after == null) {
      return before == null ? after : before;
    }
    return frame - before.getKey() <= after.getKey() - frame ? before : after;
  }

  private static Optional<float[]> square(GrayF32 image, double[] w, int radius) {
    int side = 2 * radius + 1;
    float[] out = new float[side * side];
    for (int j = 0, k = 0; j < side; j++) {
      for (int i = 0; i < side; i++, k++) {
        double u = i - radius;
        double v = j - radius;
        double x = w[0] + u * w[2] + v * w[3];
        double y = w[1] + u * w[4] + v * w[5];
        if (!(x >= 0 && y >= 0 && x < image.width - 1 && y < image.height - 1)) {
          return Optional.empty();
        }
        out[k] = between(image, x, y);
      }
    }
    return Optional.of(out);
  }

  private static float between(GrayF32 image, double x, double y) {
    int xi = (int) x;
    int yi = (int) y;
    float fx = (float) (x - xi);
    float fy = (float) (y - yi);
    int at = image.startIndex + yi * image.stride + xi;
    float[] d = image.data;
    float top = d[at] + fx * (d[at + 1] - d[at]);
    at += image.stride;
    float low = d[at] + fx * (d[at + 1] - d[at]);
    return top + fy * (low - top);
  }

  private static double correlation(float[] a, float[] b) {
    double ma = mean(a);
    double mb = mean(b);
    double aa = 0;
    double bb = 0;
    double ab = 0;
    for (int i = 0; i < a.length; i++) {
      aa += (a[i] - ma) * (a[i] - ma);
      bb += (b[i] - mb) * (b[i] - mb);
      ab += (a[i] - ma) * (b[i] - mb);
    }
    return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
  }

  private static double mean(float[] v) {
    double s = 0;
    for (float x : v) {
      s += x;
    }
    return s / v.length;
  }
}
