package flarvo.scene;

import java.util.function.UnaryOperator;

/**
 * Coordinates of points, and what was worked out of them once somebody asked: the blocks that they
 * were gathered into, and where they are in the space that was asked for last. Sets that share
 * their points share these too: every delivery of a board asks for the same.
 */
final class PackedPoints {

  /** Three numbers a point; nobody changes them. */
  final double[] xyz;

  /** Gathered by whoever asks first; two at once come to the same. */
  private volatile PointBlocks blocks;

  private volatile Moved moved;

  private record Moved(Similarity by, PackedPoints to) {}

  PackedPoints(double[] xyz) {
    this.xyz = xyz;
  }

  PointBlocks blocks() {
    PointBlocks b = blocks;
    if (b == null) {
      b = PointBlocks.of(xyz);
      blocks = b;
    }
    return b;
  }

  /** The same points in another space. */
  PackedPoints under(Similarity s) {
    Moved m = moved;
    if (m == null || !m.by.equals(s)) {
      m = new Moved(s, new PackedPoints(map(xyz, s::apply)));
      moved = m;
    }
    return m.to;
  }

  /** Points or directions, three numbers each, with each of them changed. */
  static double[] map(double[] xyz, UnaryOperator<Vec3> change) {
    double[] out = new double[xyz.length];
    for (int i = 0; i < xyz.length; i += 3) {
      Vec3 v = change.apply(new Vec3(xyz[i], xyz[i + 1], xyz[i + 2]));
      out[i] = v.x();
      out[i + 1] = v.y();
      out[i + 2] = v.z();
    }
    return out;
  }
}
