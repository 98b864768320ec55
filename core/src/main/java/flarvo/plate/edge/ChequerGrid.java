package flarvo.plate.edge;

import boofcv.abst.fiducial.calib.ConfigChessboardX;
import boofcv.alg.fiducial.calib.chess.ChessboardCornerClusterToGrid.GridInfo;
import boofcv.alg.fiducial.calib.chess.ChessboardCornerGraph.Node;
import boofcv.alg.fiducial.calib.chess.DetectChessboardXCornerPatterns;
import boofcv.struct.image.GrayF32;
import flarvo.lens.fit.StraightLine;
import flarvo.scene.Luma;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Corners of a filmed chequer board, found by BoofCV without being told how many there are: its
 * rows and columns are straight in the world.
 *
 * @param rows of corners; a board of 8 × 6 fields has 5 rows of 7
 * @param xy x and y of each corner in turn, row by row, in canonical pixels
 */
public record ChequerGrid(int rows, int columns, double[] xy) {

  /** Fewer corners bend too little to show a lens. */
  private static final int FEWEST = 3;

  /** Boards in a picture, the largest first; empty where there is none. */
  public static List<ChequerGrid> in(Luma luma) {
    GrayF32 image = new GrayF32(luma.width(), luma.height());
    image.data = luma.luma().clone();
    ConfigChessboardX config = new ConfigChessboardX();
    // Boards that run out of the picture have no square at some of their corners.
    config.gridRequireCornerSquares = false;
    DetectChessboardXCornerPatterns<GrayF32> detector =
        new DetectChessboardXCornerPatterns<>(config, GrayF32.class);
    detector.findPatterns(image);
    List<ChequerGrid> out = new ArrayList<>();
    for (int i = 0; i < detector.getFoundChessboard().size; i++) {
      GridInfo g = detector.getFoundChessboard().get(i);
      if (g.rows >= FEWEST && g.cols >= FEWEST) {
        out.add(of(g));
      }
    }
    out.sort((a, b) -> Integer.compare(b.rows * b.columns, a.rows * a.columns));
    return out;
  }

  /** This detector counts pixels from their outer corners, as we do. */
  private static ChequerGrid of(GridInfo g) {
    double[] xy = new double[2 * g.rows * g.cols];
    for (int i = 0; i < g.rows * g.cols; i++) {
      Node n = g.nodes.get(i);
      xy[2 * i] = n == null ? Double.NaN : n.getX();
      xy[2 * i + 1] = n == null ? Double.NaN : n.getY();
    }
    return new ChequerGrid(g.rows, g.cols, xy);
  }

  /**
   * Its rows and columns as lines that are straight in the world.
   *
   * @param name that theirs begin with
   */
  public List<StraightLine> lines(String name, int frame) {
    List<StraightLine> out = new ArrayList<>();
    for (int i = 0; i < rows; i++) {
      out.add(new StraightLine(name + " row " + (i + 1), frame, row(i)));
    }
    for (int i = 0; i < columns; i++) {
      out.add(new StraightLine(name + " column " + (i + 1), frame, column(i)));
    }
    return out;
  }

  /** x and y of the corners of a row in turn; those that were not found are left out. */
  public double[] row(int row) {
    return line(row * columns, 1, columns);
  }

  /** The same of a column. */
  public double[] column(int column) {
    return line(column, columns, rows);
  }

  private double[] line(int first, int step, int count) {
    double[] out = new double[2 * count];
    int n = 0;
    for (int i = 0; i < count; i++) {
      int k = 2 * (first + i * step);
      if (!Double.isNaN(xy[k])) {
        out[n++] = xy[k];
        out[n++] = xy[k + 1];
      }
    }
    return Arrays.copyOf(out, n);
  }
}
