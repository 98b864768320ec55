package flarvo.format.abc;

import flarvo.format.ByteSource;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/** One property with its samples. Samples that repeat are stored once. */
final class AbcProperty {

  /** Every sample begins with a digest of itself. */
  private static final int DIGEST = 16;

  final String name;
  final boolean array;
  final AbcPod pod;
  final int extent;
  final int samples;
  final AbcSampling sampling;
  private final int firstChanged;
  private final int lastChanged;
  private final OgawaFile.Group group;
  private final int mostNumbers;

  AbcProperty(
      String name,
      boolean array,
      AbcPod pod,
      int extent,
      int samples,
      int firstChanged,
      int lastChanged,
      AbcSampling sampling,
      OgawaFile.Group group,
      int mostNumbers) {
    this.name = name;
    this.array = array;
    this.pod = pod;
    this.extent = extent;
    this.samples = samples;
    this.firstChanged = firstChanged;
    this.lastChanged = lastChanged;
    this.sampling = sampling;
    this.group = group;
    this.mostNumbers = mostNumbers;
  }

  boolean isConstant() {
    return samples <= 1 || (firstChanged == 0 && lastChanged == 0);
  }

  private int stored(int sample) {
    if (isConstant() || sample < firstChanged) {
      return 0;
    }
    return Math.min(sample, lastChanged) - firstChanged + 1;
  }

  private ByteSource bytes(int sample) {
    int i = stored(Math.max(0, Math.min(sample, samples - 1)));
    ByteSource data = group.data(array ? 2 * i : i);
    return data.size() < DIGEST
        ? data.part(data.file(), 0, 0)
        : data.part(data.file(), DIGEST, data.size() - DIGEST);
  }

  double[] numbers(int sample) {
    ByteSource data = bytes(sample);
    int n = data.size() / pod.bytes;
    if (n > mostNumbers) {
      throw data.garbled(0, "the property " + name + " claims " + n + " numbers");
    }
    double[] out = new double[n];
    var b = data.buffer(0, data.size());
    for (int i = 0; i < n; i++) {
      out[i] =
          switch (pod) {
            case BOOLEAN, UINT8 -> b.get(i) & 0xFF;
            case INT8, STRING -> b.get(i);
            case UINT16 -> b.getShort(2 * i) & 0xFFFF;
            case INT16 -> b.getShort(2 * i);
            case FLOAT16 -> flarvo.format.Half.toDouble(b.getShort(2 * i));
            case UINT32 -> b.getInt(4 * i) & 0xFFFFFFFFL;
            case INT32, WSTRING -> b.getInt(4 * i);
            case UINT64, INT64 -> b.getLong(8 * i);
            case FLOAT32 -> b.getFloat(4 * i);
            case FLOAT64 -> b.getDouble(8 * i);
          };
    }
    return out;
  }

  /** An error at the first sample. */
  flarvo.report.InputError garbled(String cause) {
    return bytes(0).garbled(0, cause);
  }

  /** Texts with a 0 behind each. */
  List<String> texts(int sample) {
    byte[] b = bytes(sample).bytes(0, bytes(sample).size());
    List<String> out = new ArrayList<>();
    int start = 0;
    for (int i = 0; i < b.length; i++) {
      if (b[i] == 0) {
        out.add(new String(b, start, i - start, StandardCharsets.UTF_8));
        start = i + 1;
      }
    }
    return out;
  }

  /** Linear between samples and constant outside; quantities of equal length only. */
  double[] at(double seconds) {
    if (isConstant()) {
      return numbers(0);
    }
    int low = 0;
    int high = samples - 1;
    while (low < high) { // the first sample at or behind the time
      int middle = (low + high) >>> 1;
      if (sampling.time(middle) < seconds - GRID_SECONDS) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    double time = sampling.time(low);
    if (low == 0 || Math.abs(time - seconds) <= GRID_SECONDS || time < seconds) {
      return numbers(low);
    }
    double before = sampling.time(low - 1);
    double u = (seconds - before) / (time - before);
    double[] a = numbers(low - 1);
    double[] b = numbers(low);
    for (int i = 0; i < Math.min(a.length, b.length); i++) {
      a[i] += (b[i] - a[i]) * u;
    }
    return a;
  }

  /** Two times nearer than this are the same, for times are sums of rounded seconds. */
  static final double GRID_SECONDS = 1e-6;
}
