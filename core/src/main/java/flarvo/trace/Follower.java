package flarvo.trace;

import boofcv.struct.image.GrayF32;

/**
 * Follows a feature from one frame to another. Holds what it works with, so each thread has its
 * own.
 */
final class Follower {

  private static final int COARSE_RADIUS = 6;
  private static final int COARSE_ROUNDS = 6;
  private static final int FINE_ROUNDS = 8;
  private static final int SHAPE_ROUNDS = 10;

  /** Levels that are enough where the last step predicts the next. */
  private static final int NEAR_LEVELS = 3;

  /** Where the last step was predicted within this, in pixels, the picture itself is enough. */
  private static final double PREDICTED_PX = 1;

  /** Correlation from one frame to the next. */
  private static final double LEAST_STEP = 0.6;

  private static final double LEAST_COARSE = 0.5;

  /** Nearer to the picture's edge than its radius and this, a square may leave it; in pixels. */
  private static final int NEAR_EDGE = 3;

  /** How far a level may lead, in radii of its pattern. */
  private static final double REACH = 1.5;

  /** Forward and back again ends this near to where it began, in pixels. */
  private static final double BACK_PX = 0.6;

  /** The pattern it is known by and the frame before agree within, in pixels. */
  private static final double AGREE_PX = 1.2;

  /**
   * Standard deviation of what a pattern's border moves in a frame against its centre. Camera moves
   * change it by up to 0.4 px a frame. Smaller, the shape lags behind, and features end early and
   * off their place; larger, more of them go astray along edges.
   */
  private static final double CHANGE_PX = 0.05;

  /** Correlation with the pattern that a feature is known by. */
  private static final double LEAST_ALIKE = 0.8;

  /** The same for what was hidden, and below it a pattern is not quite as it was. */
  private static final double VERY_ALIKE = 0.9;

  /** A pattern that has grown or shrunk by more than this since it was taken is taken anew. */
  private static final double OTHER_SIZE = 1.25;

  /** Ratio of the longest to the shortest side of what was a square. */
  private static final double MOST_SHEAR = 3;

  /** A pattern that is not quite as it was is taken anew after so many frames. */
  private static final int OLD = 8;

  /** Frames in a row in which a feature may be followed without its place being sure. */
  private static final int MOST_UNSURE = 12;

  /** What came of a step. */
  enum Step {
    /** It is where it was looked for, within the error that is allowed. */
    SURE,
    /** It moved on, and its place is not good enough to be kept. */
    UNSURE,
    /** It was not found, and stays as it was. */
    LOST
  }

  /** Where something hidden is looked for round the place that its neighbours foretell. */
  private static final int[][] ROUND = {
    {0, 0}, {4, 0}, {-4, 0}, {0, 4}, {0, -4}, {8, 0}, {-8, 0}, {0, 8}, {0, -8}, {6, 6}, {-6, 6},
    {6, -6}, {-6, -6}
  };

  /** Of these the nearer ones, which are enough for as many frames. */
  private static final int NEAR_ROUND = 5;

  private static final int NEAR_FRAMES = 4;

  private final int radius;
  private final double errorPx;
  private final double searchPx;
  private final MovedPattern coarse;
  private final MovedPattern fine;
  private final MovedPattern beside; // by the picture's edge: smaller, and off the place
  private final MovedPattern besideBack;
  private MovedPattern turned;
  private final double[] there = new double[2];
  private boolean whole; // whether the last step was by the whole square
  private final double[] small = new double[Pattern.WARP];
  private final ShapeEstimate shape = new ShapeEstimate();
  private final ShapeEstimate bestShape = new ShapeEstimate();
  private final double[] trial = new double[Pattern.WARP];

  Follower(TraceOptions options) {
    this(options, Double.POSITIVE_INFINITY);
  }

  /**
   * @param searchPx how far from where it is expected a feature may be found
   */
  Follower(TraceOptions options, double searchPx) {
    this.searchPx = searchPx;
    radius = options.radius();
    errorPx = options.errorPx();
    fine = new MovedPattern(radius);
    turned = new MovedPattern(radius);
    beside = new MovedPattern(Pattern.partRadius(radius));
    besideBack = new MovedPattern(Pattern.partRadius(radius));
    coarse = new MovedPattern(Math.min(radius, COARSE_RADIUS));
  }

  /**
   * Moves a feature from the frame in which it was seen to the next.
   *
   * @param px where it is expected, and how it got there from where it was
   */
  Step follow(Feature f, Levels from, Levels to, double px, double py, boolean wide) {
    if (!wide && f.missedPx < PREDICTED_PX) {
      Step s = follow(f, from, to, px, py, 1);
      if (s != Step.LOST) {
        return s;
      }
    }
    return follow(f, from, to, px, py, wide ? from.count() : Math.min(NEAR_LEVELS, from.count()));
  }

  private Step follow(Feature f, Levels from, Levels to, double px, double py, int levels) {
    double x = f.x();
    double y = f.y();
    if (!there(f, from, to, px, py, levels)) {
      return Step.LOST;
    }
    System.arraycopy(f.warp, 0, trial, 0, Pattern.WARP);
    trial[0] = there[0];
    trial[1] = there[1];
    shape.setTo(f.shape);
    Pattern known = f.known.within(trial, to.whole());
    if (known == null) {
      return Step.LOST;
    }
    double score =
        known.fit(to.whole(), trial, SHAPE_ROUNDS, known.error(f.score), shape, CHANGE_PX);
    if (!(score >= LEAST_ALIKE)
        || Math.hypot(trial[0] - there[0], trial[1] - there[1]) > AGREE_PX
        || Math.hypot(trial[0] - px, trial[1] - py) > searchPx
        || !plausible(trial)) {
      return Step.LOST;
    }
    boolean sure = known.errorFromFit(score) <= errorPx;
    if (!sure && f.unsure >= MOST_UNSURE) {
      return Step.LOST;
    }
    see(f, to.frame());
    f.missedPx = Math.hypot(trial[0] - px, trial[1] - py);
    f.vx = trial[0] - x;
    f.vy = trial[1] - y;
    f.shape.setTo(shape);
    System.arraycopy(trial, 0, f.warp, 0, Pattern.WARP);
    f.age++;
    f.score = score;
    tell(f, sure);
    if (sure) {
      refresh(f, to.whole(), score);
    }
    return sure ? Step.SURE : Step.UNSURE;
  }

  /** Keeps what the step was looked back with, to go on from. */
  private void see(Feature f, int frame) {
    if (whole) {
      turned = f.see(turned, frame, there[0], there[1]);
    }
  }

  private static void tell(Feature f, boolean sure) {
    f.sure = sure;
    f.unsure = sure ? 0 : f.unsure + 1;
  }

  /**
   * Moves a feature along with its surroundings, through a blur in which it does not look as it
   * should.
   *
   * @return whether the step there and back agrees; false also where it was carried too long
   */
  boolean carry(Feature f, Levels from, Levels to, double px, double py) {
    double x = f.x();
    double y = f.y();
    if (f.unsure >= MOST_UNSURE || !there(f, from, to, px, py, from.count())) {
      return false;
    }
    see(f, to.frame());
    f.missedPx = Double.POSITIVE_INFINITY;
    f.vx = there[0] - x;
    f.vy = there[1] - y;
    f.warp[0] = there[0];
    f.warp[1] = there[1];
    f.age++;
    tell(f, false);
    return true;
  }

  /**
   * Leaves in {@link #there} where a step leads that comes back to where it began. On the way back
   * it is known where it should end, so the picture itself is enough.
   */
  private boolean there(Feature f, Levels from, Levels to, double px, double py, int levels) {
    double x = f.x();
    double y = f.y();
    there[0] = px;
    there[1] = py;
    for (int level = searched(levels) - 1; level > 0; level--) {
      coarsely(from.at().get(level), to.at().get(level), x, y, 1 << level);
    }
    int offX = inwards(x, there[0], to.whole().width);
    int offY = inwards(y, there[1], to.whole().height);
    whole = offX == 0 && offY == 0;
    if (!whole) {
      return thereByPart(from, to, x, y, px, py, offX, offY);
    }
    boolean seen = f.isSeen(from.frame(), AGREE_PX);
    MovedPattern p = seen ? f.seen : fine;
    double dx = seen ? f.seenX - x : 0;
    double dy = seen ? f.seenY - y : 0;
    if (!seen && !fine.take(from.whole(), x, y)) {
      return false;
    }
    double score = p.fit(to.whole(), there[0] + dx, there[1] + dy, FINE_ROUNDS);
    if (!(score >= LEAST_STEP) || isFar(p, there[0] + dx, there[1] + dy, REACH * radius)) {
      return false;
    }
    there[0] = p.x() - dx;
    there[1] = p.y() - dy;
    return Math.hypot(there[0] - px, there[1] - py) <= searchPx
        && turned.take(to.whole(), there[0], there[1])
        && turned.fit(from.whole(), x, y, FINE_ROUNDS) >= LEAST_STEP
        && !isFar(turned, x, y, BACK_PX);
  }

  /** How far off a place a part must lie so as to be in a picture; 0 where the whole square is. */
  private int inwards(double from, double to, int size) {
    int off = radius - beside.radius();
    int reach = radius + NEAR_EDGE;
    return Math.min(from, to) < reach ? off : Math.max(from, to) > size - 1 - reach ? -off : 0;
  }

  /** The same by a smaller square off the place, which moves as the place does. */
  private boolean thereByPart(
      Levels from, Levels to, double x, double y, double px, double py, int offX, int offY) {
    double fromX = there[0] + offX;
    double fromY = there[1] + offY;
    if (!beside.take(from.whole(), x + offX, y + offY)
        || !(beside.fit(to.whole(), fromX, fromY, FINE_ROUNDS) >= LEAST_STEP)
        || isFar(beside, fromX, fromY, REACH * beside.radius())) {
      return false;
    }
    there[0] = beside.x() - offX;
    there[1] = beside.y() - offY;
    return Math.hypot(there[0] - px, there[1] - py) <= searchPx
        && besideBack.take(to.whole(), beside.x(), beside.y())
        && besideBack.fit(from.whole(), x + offX, y + offY, FINE_ROUNDS) >= LEAST_STEP
        && !isFar(besideBack, x + offX, y + offY, BACK_PX);
  }

  /** Moves what is expected to where a smaller picture has it, if it has it near by. */
  private void coarsely(GrayF32 from, GrayF32 to, double x, double y, int size) {
    if (!coarse.take(from, x / size, y / size)) {
      return;
    }
    double px = there[0] / size;
    double py = there[1] / size;
    double score = coarse.fit(to, px, py, COARSE_ROUNDS);
    if (score >= LEAST_COARSE && !isFar(coarse, px, py, REACH * coarse.radius())) {
      there[0] = coarse.x() * size;
      there[1] = coarse.y() * size;
    }
  }

  private static boolean isFar(MovedPattern p, double x, double y, double most) {
    double dx = p.x() - x;
    double dy = p.y() - y;
    return !(dx * dx + dy * dy <= most * most);
  }

  /** Levels that do not reach beyond the search area: they would lead to what lies there. */
  private int searched(int levels) {
    int n = 1;
    while (n < levels && REACH * COARSE_RADIUS * (1 << n) <= searchPx) {
      n++;
    }
    return n;
  }

  /** Looks for a hidden feature round the place where it should be. */
  boolean findAgain(Feature f, Levels to, double px, double py) {
    double best = VERY_ALIKE;
    Pattern fitted = null;
    int places = f.hidden > NEAR_FRAMES ? ROUND.length : NEAR_ROUND;
    for (int k = 0; k < places; k++) {
      int[] d = ROUND[k];
      System.arraycopy(f.warp, 0, small, 0, Pattern.WARP);
      small[0] = px + d[0];
      small[1] = py + d[1];
      shape.setTo(f.shape);
      Pattern known = f.known.within(small, to.whole());
      if (known == null) {
        continue;
      }
      double changePx = CHANGE_PX * Math.sqrt(1.0 + f.hidden);
      double score =
          known.fit(to.whole(), small, SHAPE_ROUNDS, known.error(f.score), shape, changePx);
      if (score > best
          && Math.hypot(small[0] - px, small[1] - py) < Math.min(2.0 * radius, searchPx)
          && plausible(small)) {
        best = score;
        fitted = known;
        bestShape.setTo(shape);
        System.arraycopy(small, 0, trial, 0, Pattern.WARP);
      }
    }
    boolean sure = fitted != null && fitted.errorFromFit(best) <= errorPx;
    if (fitted == null || !sure && f.unsure >= MOST_UNSURE) {
      return false;
    }
    System.arraycopy(trial, 0, f.warp, 0, Pattern.WARP);
    f.shape.setTo(bestShape);
    f.score = best;
    f.missedPx = Double.POSITIVE_INFINITY;
    tell(f, sure);
    return true;
  }

  /** Takes the pattern anew where it has become another, and is sure enough to be taken. */
  private void refresh(Feature f, GrayF32 image, double score) {
    double det = f.warp[2] * f.warp[5] - f.warp[3] * f.warp[4];
    boolean sized = det > OTHER_SIZE * OTHER_SIZE || det < 1 / (OTHER_SIZE * OTHER_SIZE);
    boolean fading = score < VERY_ALIKE && f.age >= OLD;
    if (!sized && !fading) {
      return;
    }
    double x = f.x();
    double y = f.y();
    if (f.known.take(image, x, y)) {
      f.takenAnew();
    } else if (fading || PatternImages.isIn(image, x, y, radius + 1)) {
      f.end(); // it cannot be taken anew, and is not what it was
    }
  }

  private static boolean plausible(double[] w) {
    double a = w[2] * w[2] + w[4] * w[4];
    double b = w[2] * w[3] + w[4] * w[5];
    double c = w[3] * w[3] + w[5] * w[5];
    double mean = (a + c) / 2;
    double root = Math.hypot((a - c) / 2, b);
    double least = mean - root;
    return w[2] * w[5] - w[3] * w[4] > 0
        && least > 0
        && (mean + root) < MOST_SHEAR * MOST_SHEAR * least;
  }
}
