package flarvo.scene;

/** Where a camera has the points of one block; each array is {@link PointBlocks#SIZE} long. */
public final class ProjectedBlock {

  /** Canonical pixels. Where {@link #depth} is not above zero they mean nothing. */
  public final double[] x = new double[PointBlocks.SIZE];

  public final double[] y = new double[PointBlocks.SIZE];

  /** Metres along the view direction; not above zero at or behind the camera. */
  public final double[] depth = new double[PointBlocks.SIZE];

  final double[] near = new double[PointBlocks.SIZE]; // by one, the depth

  // Where the points of a group that moves are in the world.
  final double[] wx = new double[PointBlocks.SIZE];
  final double[] wy = new double[PointBlocks.SIZE];
  final double[] wz = new double[PointBlocks.SIZE];
}
