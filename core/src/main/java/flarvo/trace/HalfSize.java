package flarvo.trace;

import boofcv.factory.filter.kernel.FactoryKernelGaussian;
import boofcv.struct.convolve.Kernel1D_F32;
import boofcv.struct.image.GrayF32;

/**
 * A picture of half the size: blurred by five pixels of a Gaussian each way, and every second pixel
 * of every second row taken. Beyond the border the kernel is cut off and weighs what is left. As
 * BoofCV's discrete pyramid does it, in a third of its time, and with the last column and row of
 * odd sizes, which that leaves empty.
 */
final class HalfSize {

  private static final int RADIUS = 2;
  private static final int TAPS = 2 * RADIUS + 1;

  private static final float[] KERNEL =
      FactoryKernelGaussian.gaussian(Kernel1D_F32.class, -1, RADIUS).data;

  private final GrayF32 from;

  /** The last five rows, in arrays of their own, so that the loop over them is vectorised. */
  private final float[][] rows = new float[TAPS][];

  private final float[] blurred;

  private HalfSize(GrayF32 from) {
    this.from = from;
    for (int i = 0; i < TAPS; i++) {
      rows[i] = new float[from.width];
    }
    blurred = new float[from.width];
  }

  /** Pixel {@code x} of it lies at {@code 2 x} of the picture. */
  static GrayF32 of(GrayF32 g) {
    return new HalfSize(g).made();
  }

  private GrayF32 made() {
    GrayF32 out = new GrayF32((from.width + 1) / 2, (from.height + 1) / 2);
    for (int y = 0, read = 0; y < out.height; y++) {
      int low = Math.max(0, 2 * y - RADIUS);
      int high = Math.min(from.height - 1, 2 * y + RADIUS);
      for (; read <= high; read++) {
        System.arraycopy(
            from.data, from.startIndex + read * from.stride, rows[read % TAPS], 0, from.width);
      }
      if (high - low == TAPS - 1) {
        down(row(low), row(low + 1), row(low + 2), row(low + 3), row(low + 4));
      } else {
        downAtBorder(2 * y, low, high);
      }
      across(out.data, out.startIndex + y * out.stride, out.width);
    }
    return out;
  }

  private float[] row(int y) {
    return rows[y % TAPS];
  }

  private void down(float[] a, float[] b, float[] c, float[] d, float[] e) {
    float[] out = blurred;
    float far = KERNEL[0];
    float near = KERNEL[1];
    float middle = KERNEL[2];
    for (int x = 0; x < out.length; x++) {
      out[x] = middle * c[x] + near * (b[x] + d[x]) + far * (a[x] + e[x]);
    }
  }

  private void downAtBorder(int centre, int low, int high) {
    for (int x = 0; x < blurred.length; x++) {
      float sum = 0;
      float weight = 0;
      for (int y = low; y <= high; y++) {
        float k = KERNEL[y - centre + RADIUS];
        sum += k * row(y)[x];
        weight += k;
      }
      blurred[x] = sum / weight;
    }
  }

  private void across(float[] out, int at, int count) {
    float[] b = blurred;
    float far = KERNEL[0];
    float near = KERNEL[1];
    float middle = KERNEL[2];
    int whole = Math.min(count, (b.length - RADIUS - 1) / 2 + 1);
    out[at] = acrossAtBorder(0);
    for (int i = 1; i < whole; i++) {
      int x = 2 * i;
      out[at + i] = middle * b[x] + near * (b[x - 1] + b[x + 1]) + far * (b[x - 2] + b[x + 2]);
    }
    for (int i = Math.max(1, whole); i < count; i++) {
      out[at + i] = acrossAtBorder(2 * i);
    }
  }

  private float acrossAtBorder(int centre) {
    float sum = 0;
    float weight = 0;
    for (int x = Math.max(0, centre - RADIUS);
        x <= Math.min(blurred.length - 1, centre + RADIUS);
        x++) {
      float k = KERNEL[x - centre + RADIUS];
      sum += k * blurred[x];
      weight += k;
    }
    return sum / weight;
  }
}
