package flarvo.scene;

/**
 * The points of one block, and where a camera has them: in homogeneous pixels, so that nothing is
 * divided until it is known what for. Each array is {@link PointBlocks#SIZE} long. The points are
 * kept from the middle of their block: what a camera's place adds to all of them is then one number
 * a block, as exact as it is near the origin.
 */
public final class ProjectedBlock {

  /** Canonical pixels are {@code x / depth} and {@code y / depth}. */
  public final double[] x = new double[PointBlocks.SIZE];

  public final double[] y = new double[PointBlocks.SIZE];

  /** Metres along the view direction; not above zero at or behind the camera. */
  public final double[] depth = new double[PointBlocks.SIZE];

  // The points from the middle of the block, and where that is.
  final double[] px = new double[PointBlocks.SIZE];
  final double[] py = new double[PointBlocks.SIZE];
  final double[] pz = new double[PointBlocks.SIZE];
  final double[] middle = new double[3];

  /** Takes the points of a block. */
  public void load(PointBlocks points, int block) {
    System.arraycopy(points.amid(), 3 * block, middle, 0, 3);
    from(middle[0], points.x(block), px);
    from(middle[1], points.y(block), py);
    from(middle[2], points.z(block), pz);
  }

  private static void from(double middle, double[] of, double[] out) {
    for (int i = 0; i < PointBlocks.SIZE; i++) {
      out[i] = of[i] - middle;
    }
  }
}
