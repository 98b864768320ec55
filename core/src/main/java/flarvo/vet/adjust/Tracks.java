package flarvo.vet.adjust;

import java.util.Arrays;

/**
 * What was seen: rows of camera and pixel, point after point, cameras rising within a point. Owned
 * by the package; nobody writes to it once it is built.
 */
public final class Tracks {

  final int cameras;
  final int points;
  final int[] start; // first row of point j; one more entry than points
  final int[] camera;
  final double[] x;
  final double[] y;
  private final double[] weight; // of each point; null where all count alike

  private Tracks(int cameras, int[] start, int[] camera, double[] x, double[] y, double[] weight) {
    this.cameras = cameras;
    this.points = start.length - 1;
    this.start = start;
    this.camera = camera;
    this.x = x;
    this.y = y;
    this.weight = weight;
  }

  /**
   * The same rows, of which those of each point count for so much.
   *
   * @param weight of each point, above 0: what the squared errors of its rows are multiplied by
   */
  public Tracks weighted(double[] weight) {
    if (weight.length != points || !Arrays.stream(weight).allMatch(w -> w > 0 && w < 1e9)) {
      throw new IllegalArgumentException("a weight for each point, and above 0");
    }
    return new Tracks(cameras, start, camera, x, y, weight.clone());
  }

  /** What the squared errors of a point count for; usually 1. */
  double weight(int point) {
    return weight == null ? 1 : weight[point];
  }

  public int rows() {
    return camera.length;
  }

  public int points() {
    return points;
  }

  public int cameras() {
    return cameras;
  }

  /** Where the rows of a point begin; it has {@link #seen} of them. */
  public int firstRow(int point) {
    return start[point];
  }

  /** Index of the camera that made an observation. */
  public int camera(int row) {
    return camera[row];
  }

  /** Canonical pixels from the left. */
  public double x(int row) {
    return x[row];
  }

  /** Canonical pixels from the top. */
  public double y(int row) {
    return y[row];
  }

  /** Number of cameras that see a point. */
  public int seen(int point) {
    return start[point + 1] - start[point];
  }

  /** Collects points one after the other. */
  public static final class Builder {
    private final int cameras;
    private int[] start = new int[64];
    private int[] camera = new int[1024];
    private double[] x = new double[1024];
    private double[] y = new double[1024];
    private int points;
    private int rows;

    public Builder(int cameras) {
      this.cameras = cameras;
    }

    /** A row of the point that is being collected; cameras must rise. */
    public Builder see(int atCamera, double px, double py) {
      boolean first = rows == start[points];
      if (atCamera < 0 || atCamera >= cameras || !first && atCamera <= camera[rows - 1]) {
        throw new IllegalArgumentException("camera " + atCamera + " is out of order");
      }
      if (!Double.isFinite(px) || !Double.isFinite(py)) {
        throw new IllegalArgumentException("a pixel is not finite");
      }
      if (rows == camera.length) {
        camera = Arrays.copyOf(camera, 2 * rows);
        x = Arrays.copyOf(x, 2 * rows);
        y = Arrays.copyOf(y, 2 * rows);
      }
      camera[rows] = atCamera;
      x[rows] = px;
      y[rows] = py;
      rows++;
      return this;
    }

    /** Ends the point that is being collected. */
    public Builder endPoint() {
      points++;
      if (points == start.length) {
        start = Arrays.copyOf(start, 2 * points);
      }
      start[points] = rows;
      return this;
    }

    /** Every observation that was added, sorted by point. */
    public Tracks build() {
      return new Tracks(
          cameras,
          Arrays.copyOf(start, points + 1),
          Arrays.copyOf(camera, rows),
          Arrays.copyOf(x, rows),
          Arrays.copyOf(y, rows),
          null);
    }
  }
}
