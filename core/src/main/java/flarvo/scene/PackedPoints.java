package flarvo.scene;

/** Coordinates of points, and the blocks that they were gathered into once somebody asked. */
final class PackedPoints {

  /** Three numbers a point; nobody changes them. */
  final double[] xyz;

  /** Gathered by whoever asks first; two at once come to the same. */
  private volatile PointBlocks blocks;

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
}
