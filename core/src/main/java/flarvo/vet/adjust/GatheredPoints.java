package flarvo.vet.adjust;

/**
 * What was gathered of each point while it was taken out of the normal equations, so that it need
 * not be derived once more for the point's own step. Several threads fill it, each with points of
 * its own.
 */
final class GatheredPoints {

  /** Bytes that it may take; above, points are gathered twice. */
  private static final long MOST_BYTES = 1L << 27;

  private static final int BLOCK = 9;
  private static final int GRADIENT = 3;

  private final Tracks tracks;
  private final int cb;
  private final double[][] ties; // Wᵀ: a list for each number of a point, cb numbers a row
  private final double[] blocks;
  private final double[] gradients;
  private final double[] shared; // shared × point

  private GatheredPoints(Tracks tracks, ObservationModel model) {
    this.tracks = tracks;
    cb = model.cameraSize;
    ties = new double[model.pointSize][cb * tracks.rows()];
    blocks = new double[BLOCK * tracks.points];
    gradients = new double[GRADIENT * tracks.points];
    shared = new double[model.sharedSize * model.pointSize * tracks.points];
  }

  /** One for the points of some tracks; null where it would be too large. */
  static GatheredPoints of(Tracks tracks, ObservationModel model) {
    long bytes = (long) Double.BYTES * model.pointSize * model.cameraSize * tracks.rows();
    return bytes > MOST_BYTES ? null : new GatheredPoints(tracks, model);
  }

  /** Keeps what was gathered of a point. */
  void put(int j, double[][] tie, double[] block, double[] gradient, double[] withShared) {
    for (int p = 0; p < ties.length; p++) {
      System.arraycopy(tie[p], 0, ties[p], first(j), cb * tracks.seen(j));
    }
    System.arraycopy(block, 0, blocks, BLOCK * j, BLOCK);
    System.arraycopy(gradient, 0, gradients, GRADIENT * j, GRADIENT);
    System.arraycopy(withShared, 0, shared, withShared.length * j, withShared.length);
  }

  /** Writes what is kept of a point, but for its ties. */
  void get(int j, double[] block, double[] gradient, double[] withShared) {
    System.arraycopy(blocks, BLOCK * j, block, 0, BLOCK);
    System.arraycopy(gradients, GRADIENT * j, gradient, 0, GRADIENT);
    System.arraycopy(shared, withShared.length * j, withShared, 0, withShared.length);
  }

  /** What ties points to cameras. */
  double[][] ties() {
    return ties;
  }

  /** Where the ties of a point begin. */
  int first(int j) {
    return cb * tracks.start[j];
  }
}
