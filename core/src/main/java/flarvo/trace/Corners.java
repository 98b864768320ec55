package flarvo.trace;

import boofcv.abst.filter.derivative.ImageGradient;
import boofcv.alg.feature.detect.intensity.GradientCornerIntensity;
import boofcv.factory.feature.detect.intensity.FactoryIntensityPointAlg;
import boofcv.factory.filter.derivative.FactoryDerivative;
import boofcv.struct.image.GrayF32;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * Finds where new features can be followed: corners by the smaller eigenvalue of the structure
 * tensor (Shi and Tomasi, 1994; by BoofCV), as evenly over the picture as its detail allows.
 */
final class Corners {

  /** Of the strongest corner in the picture: weaker ones are not worth following. */
  private static final double WEAKEST = 2e-4;

  /** Smaller eigenvalue of what grain alone makes, for each pixel of the window. */
  private static final double GRAIN = 1.5;

  /** Of the error that a feature may have, what grain alone may make of it. */
  private static final double GRAINS_SHARE = 0.6;

  /**
   * Least distances between features, tried in turn, as shares of the spacing at which as many as
   * are wanted would fill the picture: where there is little detail, they may stand closer.
   */
  private static final double[] APART = {0.9, 0.5, 0.3};

  /** The same, in pixels, whatever is wanted. */
  private static final double LEAST_APART_PX = 3;

  /** Cells to a spacing; of each, the strongest corner is tried. */
  private static final int CELLS = 6;

  private static final int SMALLEST_CELL = 3;

  /** Smaller over larger eigenvalue of the structure tensor: below it, it is an edge. */
  private static final double LEAST_CORNER = 0.15;

  private final int count;
  private final int radius;
  private final double errorPx;
  private final Mask mask;
  private final int window;
  private final ImageGradient<GrayF32, GrayF32> gradient =
      FactoryDerivative.three(GrayF32.class, GrayF32.class);
  private final GradientCornerIntensity<GrayF32> corner;
  private final GrayF32 dx = new GrayF32(1, 1);
  private final GrayF32 dy = new GrayF32(1, 1);
  private final GrayF32 strength = new GrayF32(1, 1);

  /** A place, and how good it is. */
  private record Candidate(int x, int y, float strength) {}

  Corners(TraceOptions options, Mask mask) {
    this.count = options.features();
    this.radius = options.radius();
    this.errorPx = options.errorPx();
    this.mask = mask;
    this.window = Math.max(2, radius / 2);
    corner = FactoryIntensityPointAlg.shiTomasi(window, false, GrayF32.class);
  }

  /**
   * New places, so that with those that are taken there are as many as wanted.
   *
   * @param taken x, y of features that live or hide
   * @return the new ones, the best first
   */
  List<Feature> beside(Levels levels, List<double[]> taken) {
    GrayF32 image = levels.whole();
    int wanted = count - taken.size();
    if (wanted <= 0) {
      return List.of();
    }
    double spacing = Math.sqrt((double) image.width * image.height / count);
    List<Candidate> all =
        candidates(image, Math.max(SMALLEST_CELL, (int) (spacing / CELLS)), levels.frame());
    List<Feature> out = new ArrayList<>();
    double grain = Grain.of(image);
    MovedPattern tried = new MovedPattern(radius);
    boolean[] poor = new boolean[all.size()];
    Spacing used = new Spacing(image.width, image.height, APART[0] * spacing);
    taken.forEach(p -> used.add(p[0], p[1]));
    for (double share : APART) {
      double apart = Math.max(share * spacing, LEAST_APART_PX);
      for (int i = 0; i < poor.length && out.size() < wanted; i++) {
        Candidate c = all.get(i);
        if (poor[i] || used.near(c.x(), c.y(), apart)) {
          continue;
        }
        Optional<Pattern> known = known(image, c, grain, tried);
        poor[i] = known.isEmpty();
        if (known.isPresent()) {
          used.add(c.x(), c.y());
          out.add(new Feature(known.get(), c.x(), c.y()));
        }
      }
    }
    return out;
  }

  /** What is round a place, if it can be followed. */
  private Optional<Pattern> known(GrayF32 image, Candidate c, double grain, MovedPattern tried) {
    if (!tried.take(image, c.x(), c.y())
        || tried.cornerness() <= LEAST_CORNER
        || tried.errorFromGrain(grain) >= GRAINS_SHARE * errorPx) {
      return Optional.empty();
    }
    Pattern p = new Pattern(radius);
    return p.take(image, c.x(), c.y()) ? Optional.of(p) : Optional.empty();
  }

  /** The strongest corner of each cell, the strongest of all first. */
  private List<Candidate> candidates(GrayF32 image, int cell, int frame) {
    dx.reshape(image.width, image.height);
    dy.reshape(image.width, image.height);
    gradient.process(image, dx, dy);
    corner.process(dx, dy, strength);
    int border = radius + 3;
    float most = 0;
    List<Candidate> out = new ArrayList<>();
    for (int y0 = border; y0 < image.height - border; y0 += cell) {
      for (int x0 = border; x0 < image.width - border; x0 += cell) {
        Candidate best = best(x0, y0, image.width - border, image.height - border, cell);
        if (!mask.covers(frame, best.x() + 0.5, best.y() + 0.5)) {
          out.add(best);
          most = Math.max(most, best.strength());
        }
      }
    }
    int side = 2 * window + 1;
    double least = Math.max(WEAKEST * most, GRAIN * side * side);
    out.removeIf(c -> c.strength() < least);
    out.sort(
        Comparator.comparingDouble(Candidate::strength)
            .reversed()
            .thenComparingInt(Candidate::y)
            .thenComparingInt(Candidate::x));
    return out;
  }

  private Candidate best(int x0, int y0, int endX, int endY, int cell) {
    int bx = x0;
    int by = y0;
    float best = -1;
    for (int y = y0; y < Math.min(endY, y0 + cell); y++) {
      for (int x = x0; x < Math.min(endX, x0 + cell); x++) {
        float v = strength.data[y * strength.stride + x];
        if (v > best) {
          best = v;
          bx = x;
          by = y;
        }
      }
    }
    return new Candidate(bx, by, best);
  }
}
