package flarvo.trace;

import boofcv.struct.image.GrayF32;

/** Brightness between pixels. */
final class Bilinear {

  private Bilinear() {}

  /**
   * @param x of a pixel's index, 0 to under {@code width − 1}; and so is {@code y}
   */
  static double at(GrayF32 g, double x, double y) {
    int xi = (int) x;
    int yi = (int) y;
    double fx = x - xi;
    double fy = y - yi;
    int i = g.startIndex + yi * g.stride + xi;
    float[] d = g.data;
    return (d[i] + fx * (d[i + 1] - d[i])) * (1 - fy)
        + (d[i + g.stride] + fx * (d[i + g.stride + 1] - d[i + g.stride])) * fy;
  }
}
