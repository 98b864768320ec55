package flarvo.format.fbx;

/**
 * The slopes of a curve's keys, in units a second, by the mode of each key's tangents.
 *
 * <p>A file stores four numbers with a key: a slope to its right, a slope to the left of the next
 * key, and two weights. Only tangents that a user drew have slopes there. For automatic ones they
 * are a bias, and for tangents of tension, continuity and bias those three; their slopes follow
 * from the neighbours:
 *
 * <pre>
 *   chord of neighbours        c = (v₊ − v₋) / (t₊ − t₋)
 *   chords to the left, right  a = (v − v₋) / (t − t₋)      b = (v₊ − v) / (t₊ − t)
 *   automatic                  (c + a (1 − δ) + b δ) / 2    with δ = (t − t₋) / (t₊ − t₋)
 *   independent of time        c
 *   tension T, continuity C, bias B (Kochanek and Bartels 1984):
 *     left   ½ (1−T) ((1+B)(1−C) a + (1−B)(1+C) b)
 *     right  ½ (1−T) ((1+B)(1+C) a + (1−B)(1−C) b)
 * </pre>
 *
 * How automatic tangents are biased and clamped is checked against an independent reader of the
 * format (the curves of {@code FbxTangentsTest}, and {@code ./flarvo peers}).
 */
final class FbxTangents {

  static final long CONSTANT = 0x2;
  static final long LINEAR = 0x4;
  private static final long CUBIC = 0x8;
  private static final long TCB = 0x200;
  private static final long USER = 0x400;
  private static final long CLAMP = 0x1000;
  private static final long TIME_INDEPENDENT = 0x2000;
  private static final long CLAMP_PROGRESSIVE = 0x4000;

  /** Bias is stored in hundredths; over five it adds to the slope outright. */
  private static final double BIAS = 100;

  private static final double OUTRIGHT = 5;
  private static final double OUTRIGHT_SLOPE = 40;

  /** Biases that add up to less than this belong to one tangent. */
  private static final double SAME_BIAS = 1e-4;

  private final double[] seconds;
  private final double[] values;
  private final long[] flags;
  private final double[] left;
  private final double[] right;
  private final double[] leftWeights;
  private final double[] rightWeights;

  private FbxTangents(
      double[] seconds,
      double[] values,
      long[] flags,
      double[] left,
      double[] right,
      double[] leftWeights,
      double[] rightWeights) {
    this.seconds = seconds;
    this.values = values;
    this.flags = flags;
    this.left = left;
    this.right = right;
    this.leftWeights = leftWeights;
    this.rightWeights = rightWeights;
  }

  /**
   * Puts slopes in the place of what is stored.
   *
   * @param seconds of the keys, rising
   * @param left stored with the key before; overwritten
   * @param right stored with the key; overwritten
   * @param third stored with the key: the bias of tension, continuity and bias
   * @param leftWeights of each key's tangents, as shares of the way to its neighbour
   */
  static void solve(
      double[] seconds,
      double[] values,
      long[] flags,
      double[] left,
      double[] right,
      double[] second,
      double[] third,
      double[] leftWeights,
      double[] rightWeights) {
    FbxTangents t = new FbxTangents(seconds, values, flags, left, right, leftWeights, rightWeights);
    for (int i = 0; i < seconds.length; i++) {
      boolean cubic = isCubic(flags[i]);
      if (i > 0 && isCubic(flags[i - 1]) && (flags[i - 1] & TCB) != 0) {
        left[i] = 0; // what the key before stores is no slope
      }
      if (cubic && (flags[i] & TCB) != 0) {
        t.tensionContinuityBias(i, right[i], second[i], third[i]);
      } else if (cubic && (flags[i] & USER) == 0) {
        t.automatic(i);
      }
    }
  }

  /** What is neither constant nor cubic is linear. */
  static boolean isCubic(long flags) {
    return (flags & CONSTANT) == 0 && (flags & CUBIC) != 0;
  }

  /** Whether a key's slopes follow from its neighbours. */
  static boolean isSolved(long flags) {
    return isCubic(flags) && ((flags & TCB) != 0 || (flags & USER) == 0);
  }

  private boolean hasLeft(int i) {
    return i > 0;
  }

  private boolean hasRight(int i) {
    return i + 1 < seconds.length;
  }

  private double chord(int from, int to) {
    return (values[to] - values[from]) / (seconds[to] - seconds[from]);
  }

  private void tensionContinuityBias(int i, double t, double c, double b) {
    double before = hasLeft(i) ? chord(i - 1, i) : 0;
    double after = hasRight(i) ? chord(i, i + 1) : 0;
    double half = hasLeft(i) && hasRight(i) ? 0.5 : 1;
    left[i] = half * (1 - t) * ((1 + b) * (1 - c) * before + (1 - b) * (1 + c) * after);
    right[i] = half * (1 - t) * ((1 + b) * (1 + c) * before + (1 - b) * (1 - c) * after);
  }

  private void automatic(int i) {
    if (hasLeft(i) && hasRight(i)) {
      double biasLeft = left[i];
      double biasRight = right[i];
      right[i] = between(i, biasRight);
      left[i] = Math.abs(biasLeft + biasRight) <= SAME_BIAS ? right[i] : between(i, -biasLeft);
    } else if (hasLeft(i) || hasRight(i)) {
      double bias = hasLeft(i) ? -left[i] : right[i];
      left[i] = hasLeft(i) ? atEnd(i, i - 1, i, bias) : atEnd(i, i, i + 1, bias);
      right[i] = left[i];
    } else {
      left[i] = 0;
      right[i] = 0;
    }
  }

  private double between(int i, double bias) {
    boolean flat = values[i - 1] == values[i] || values[i + 1] == values[i];
    if ((flags[i] & CLAMP) != 0 && flat) {
      return 0;
    }
    double slope = chord(i - 1, i + 1);
    if ((flags[i] & TIME_INDEPENDENT) == 0) {
      double before = chord(i - 1, i);
      double after = chord(i, i + 1);
      double share = (seconds[i] - seconds[i - 1]) / (seconds[i + 1] - seconds[i - 1]);
      slope = 0.5 * slope + 0.5 * (before * (1 - share) + after * share);
      slope = biased(slope, bias > 0 ? after : before, bias);
    }
    return (flags[i] & CLAMP_PROGRESSIVE) == 0 ? slope : withinNeighbours(i, slope);
  }

  private static double biased(double slope, double towards, double bias) {
    double weight = Math.abs(bias) / BIAS;
    if (weight <= 1e-4) {
      return slope;
    }
    double way = towards - slope;
    double out = slope * (1 - weight) + towards * weight;
    double over = weight - OUTRIGHT;
    if (over > 0) {
      out += over * over * Math.signum(Math.abs(way) > 1e-5 ? way : bias) * OUTRIGHT_SLOPE;
    }
    return out;
  }

  /** So flat that no end of a tangent lies beyond the neighbour on its side. */
  private double withinNeighbours(int i, double slope) {
    double sign = slope >= 0 ? 1 : -1;
    double rangeLeft = leftWeights[i] * (seconds[i] - seconds[i - 1]);
    double rangeRight = rightWeights[i] * (seconds[i + 1] - seconds[i]);
    double mostLeft = rangeLeft > 0 ? sign * (values[i] - values[i - 1]) / rangeLeft : 0;
    double mostRight = rangeRight > 0 ? sign * (values[i + 1] - values[i]) / rangeRight : 0;
    double most = Math.min(Math.max(0, mostLeft), Math.max(0, mostRight));
    return sign * Math.min(Math.abs(slope), most);
  }

  /** The first and the last key point at their only neighbour. */
  private double atEnd(int i, int from, int to, double bias) {
    boolean flat = values[from] == values[to];
    if ((flags[i] & CLAMP_PROGRESSIVE) != 0 || (flags[i] & CLAMP) != 0 && flat) {
      return 0;
    }
    double slope = chord(from, to);
    double over = Math.abs(bias) / BIAS - OUTRIGHT;
    if ((flags[i] & TIME_INDEPENDENT) == 0 && over > 0) {
      slope += over * over * Math.signum(bias) * OUTRIGHT_SLOPE;
    }
    return slope;
  }
}
