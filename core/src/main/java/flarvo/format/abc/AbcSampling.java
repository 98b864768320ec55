package flarvo.format.abc;

import flarvo.format.ByteCursor;
import flarvo.format.ByteSource;
import java.util.ArrayList;
import java.util.List;

/**
 * When samples were taken: so many times in each cycle, or, without a cycle, at times of their own.
 *
 * @param cycleSeconds NaN where there is no cycle
 * @param times seconds of the first cycle, or of all samples; never changed
 */
record AbcSampling(double cycleSeconds, double[] times) {

  /** Stands for "no cycle" in a file. */
  static final double ACYCLIC = Double.MAX_VALUE / 32;

  static List<AbcSampling> read(ByteSource data) {
    List<AbcSampling> out = new ArrayList<>();
    ByteCursor c = data.at(0);
    while (c.position() < data.size()) {
      int at = c.position();
      c.u32(); // how many samples anything takes at these times
      double cycle = c.f64();
      double[] times = new double[c.count32(8)];
      for (int i = 0; i < times.length; i++) {
        times[i] = c.f64();
        if (!Double.isFinite(times[i]) || (i > 0 && times[i] <= times[i - 1])) {
          throw data.garbled(at, "the times of samples are not in order");
        }
      }
      boolean acyclic = cycle == ACYCLIC;
      if (times.length == 0 || !acyclic && !(cycle > 0 && Double.isFinite(cycle))) {
        throw data.garbled(at, "the times of samples make no sense");
      }
      out.add(new AbcSampling(acyclic ? Double.NaN : cycle, times));
    }
    return out;
  }

  boolean isAcyclic() {
    return Double.isNaN(cycleSeconds);
  }

  /** One sample a cycle: the usual kind. */
  boolean isUniform() {
    return !isAcyclic() && times.length == 1;
  }

  /** In seconds; samples beyond stored times stay at the last one. */
  double time(int sample) {
    if (isAcyclic()) {
      return times[Math.min(sample, times.length - 1)];
    }
    int cycle = sample / times.length;
    return times[sample % times.length] + cycle * cycleSeconds;
  }
}
