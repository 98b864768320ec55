package flarvo.vet.resolve;

import boofcv.abst.geo.EstimateNofEpipolar;
import boofcv.abst.geo.f.EstimateNto1ofEpipolar;
import boofcv.alg.geo.f.DistanceEpipolarConstraint;
import boofcv.alg.geo.robust.Se3FromEssentialGenerator;
import boofcv.factory.geo.ConfigTriangulation;
import boofcv.factory.geo.FactoryMultiView;
import boofcv.struct.geo.AssociatedPair;
import java.util.Arrays;
import java.util.List;
import org.ddogleg.solver.Polynomial;
import org.ddogleg.solver.PolynomialRoots;
import org.ddogleg.solver.impl.FindRealRootsSturm;
import org.ddogleg.solver.impl.WrapRealRootsSturm;
import org.ddogleg.struct.DogArray;
import org.ejml.data.Complex_F64;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.factory.LinearSolverFactory_DDRM;
import org.ejml.dense.row.linsol.qr.SolveNullSpaceQRP_DDRM;
import org.ejml.interfaces.linsol.LinearSolverDense;

/**
 * Essential matrices of five points in two frames (Nistér, "An Efficient Solution to the Five-Point
 * Relative Pose Problem", 2004). The library's own writes its coefficients out in methods so long
 * that Java never compiles them; here polynomials are multiplied.
 *
 * <p>The matrix is {@code x X + y Y + z Z + W}, of four matrices that agree with the points.
 * Polynomials of x, y and z are arrays: linear ones x, y, z, 1; squares and cubes in the order of
 * the tables.
 */
final class FivePoint implements EstimateNofEpipolar {

  private static final int POINTS = 5;

  /** Where the product of two linear terms stands: xx xy xz x yy yz y zz z 1. */
  private static final int[][] SQUARE = {
    {0, 1, 2, 3},
    {1, 4, 5, 6},
    {2, 5, 7, 8},
    {3, 6, 8, 9},
  };

  /**
   * Where the product of a square and a linear term stands: x³ y³ x²y xy² x²z x² y²z y² xyz xy xz²
   * xz x yz² yz y z³ z² z 1.
   */
  private static final int[][] CUBE = {
    {0, 2, 4, 5},
    {2, 3, 8, 9},
    {4, 8, 10, 11},
    {5, 9, 11, 12},
    {3, 1, 6, 7},
    {8, 6, 13, 14},
    {9, 7, 14, 15},
    {10, 13, 16, 17},
    {11, 14, 17, 18},
    {12, 15, 18, 19},
  };

  private final DMatrixRMaj rows = new DMatrixRMaj(POINTS, 9);
  private final DMatrixRMaj span = new DMatrixRMaj(9, 4);
  private final SolveNullSpaceQRP_DDRM nullSpace = new SolveNullSpaceQRP_DDRM();
  private final LinearSolverDense<DMatrixRMaj> solver = LinearSolverFactory_DDRM.linear(10);
  private final DMatrixRMaj left = new DMatrixRMaj(10, 10);
  private final DMatrixRMaj right = new DMatrixRMaj(10, 10);
  private final DMatrixRMaj reduced = new DMatrixRMaj(10, 10);
  private final PolynomialRoots roots =
      new WrapRealRootsSturm(new FindRealRootsSturm(11, -1, 1e-10, 20, 20));
  private final Polynomial determinant = new Polynomial(11);
  private final double[][] e = new double[9][4];
  private final double[][] square = new double[9][10]; // of E times its transpose
  private final double[] minor = new double[10];
  private final double[] cube = new double[20];
  private final double[][] byX = new double[3][4]; // powers of z, the lowest first
  private final double[][] byY = new double[3][4];
  private final double[][] by1 = new double[3][5];
  private final double[] x = new double[8];
  private final double[] y = new double[8];
  private final double[] w = new double[7];

  /**
   * Camera moves by a few more points than five, which tell the right one of up to ten.
   *
   * @param more how many more
   */
  static Se3FromEssentialGenerator moves(int more) {
    return new Se3FromEssentialGenerator(
        new EstimateNto1ofEpipolar(new FivePoint(), new DistanceEpipolarConstraint(), more),
        FactoryMultiView.triangulate2ViewMetricH(ConfigTriangulation.GEOMETRIC()));
  }

  @Override
  public int getMinimumPoints() {
    return POINTS;
  }

  /**
   * Finds all that agree.
   *
   * @param points five, in normalised coordinates
   * @param found matrices E with {@code p2ᵀ E p1 = 0}, in no particular scale
   * @return whether there is any
   */
  @Override
  public boolean process(List<AssociatedPair> points, DogArray<DMatrixRMaj> found) {
    found.reset();
    span(points);
    constraints();
    if (!solver.setA(left)) {
      return false;
    }
    solver.solve(right, reduced);
    hideZ();
    if (!roots.process(determinant)) {
      return false;
    }
    for (Complex_F64 root : roots.getRoots()) {
      if (root.isReal() && !add(root.real, found.grow())) {
        found.removeTail();
      }
    }
    return found.size > 0;
  }

  private void span(List<AssociatedPair> points) {
    for (int i = 0; i < POINTS; i++) {
      AssociatedPair p = points.get(i);
      double[] a = rows.data;
      int k = 9 * i;
      a[k] = p.p2.x * p.p1.x;
      a[k + 1] = p.p2.x * p.p1.y;
      a[k + 2] = p.p2.x;
      a[k + 3] = p.p2.y * p.p1.x;
      a[k + 4] = p.p2.y * p.p1.y;
      a[k + 5] = p.p2.y;
      a[k + 6] = p.p1.x;
      a[k + 7] = p.p1.y;
      a[k + 8] = 1;
    }
    nullSpace.process(rows, 4, span);
    for (int i = 0; i < 9; i++) {
      System.arraycopy(span.data, 4 * i, e[i], 0, 4);
    }
  }

  private static void addSquare(double[] a, double[] b, double k, double[] to) {
    for (int i = 0; i < 4; i++) {
      for (int j = 0; j < 4; j++) {
        to[SQUARE[i][j]] += k * a[i] * b[j];
      }
    }
  }

  private static void addCube(double[] square, double[] b, double[] to) {
    for (int i = 0; i < 10; i++) {
      for (int j = 0; j < 4; j++) {
        to[CUBE[i][j]] += square[i] * b[j];
      }
    }
  }

  /** Ten cubes that are nought: the determinant, and {@code E Eᵀ E − ½ trace(E Eᵀ) E}. */
  private void constraints() {
    Arrays.fill(cube, 0);
    for (int i = 0; i < 3; i++) {
      int a = (i + 1) % 3;
      int b = (i + 2) % 3;
      Arrays.fill(minor, 0);
      addSquare(e[3 + a], e[6 + b], 1, minor);
      addSquare(e[3 + b], e[6 + a], -1, minor);
      addCube(minor, e[i], cube);
    }
    store(0);
    for (int i = 0; i < 3; i++) {
      for (int j = 0; j < 3; j++) {
        double[] s = square[3 * i + j];
        Arrays.fill(s, 0);
        for (int k = 0; k < 3; k++) {
          addSquare(e[3 * i + k], e[3 * j + k], 1, s);
        }
      }
    }
    for (int k = 0; k < 10; k++) {
      double half = (square[0][k] + square[4][k] + square[8][k]) / 2;
      square[0][k] -= half;
      square[4][k] -= half;
      square[8][k] -= half;
    }
    for (int i = 0; i < 3; i++) {
      for (int j = 0; j < 3; j++) {
        Arrays.fill(cube, 0);
        for (int k = 0; k < 3; k++) {
          addCube(square[3 * i + k], e[3 * k + j], cube);
        }
        store(1 + 3 * i + j);
      }
    }
  }

  private void store(int row) {
    System.arraycopy(cube, 0, left.data, 10 * row, 10);
    System.arraycopy(cube, 10, right.data, 10 * row, 10);
  }

  /**
   * Three equations in x and y, whose coefficients are polynomials of z: of the reduced rows, that
   * of x²z less z times that of x², and so on with y² and xy.
   */
  private void hideZ() {
    for (int k = 0; k < 3; k++) {
      double[] r = reduced.data;
      int a = 10 * (4 + 2 * k);
      int b = a + 10;
      for (int part = 0; part < 2; part++) {
        double[] to = part == 0 ? byX[k] : byY[k];
        int at = 3 * part;
        to[3] = -r[b + at];
        to[2] = r[a + at] - r[b + at + 1];
        to[1] = r[a + at + 1] - r[b + at + 2];
        to[0] = r[a + at + 2];
      }
      by1[k][4] = -r[b + 6];
      by1[k][3] = r[a + 6] - r[b + 7];
      by1[k][2] = r[a + 7] - r[b + 8];
      by1[k][1] = r[a + 8] - r[b + 9];
      by1[k][0] = r[a + 9];
    }
    cross(byY[0], by1[1], by1[0], byY[1], x);
    cross(by1[0], byX[1], byX[0], by1[1], y);
    cross(byX[0], byY[1], byY[0], byX[1], w);
    determinant.resize(11);
    Arrays.fill(determinant.c, 0, 11, 0);
    addProduct(x, byX[2], 1, determinant.c);
    addProduct(y, byY[2], 1, determinant.c);
    addProduct(w, by1[2], 1, determinant.c);
  }

  /** {@code to = a b − c d}. */
  private static void cross(double[] a, double[] b, double[] c, double[] d, double[] to) {
    Arrays.fill(to, 0);
    addProduct(a, b, 1, to);
    addProduct(c, d, -1, to);
  }

  private static void addProduct(double[] a, double[] b, double k, double[] to) {
    for (int i = 0; i < a.length; i++) {
      for (int j = 0; j < b.length; j++) {
        to[i + j] += k * a[i] * b[j];
      }
    }
  }

  private static double at(double[] p, double z) {
    double sum = 0;
    for (int i = p.length - 1; i >= 0; i--) {
      sum = sum * z + p[i];
    }
    return sum;
  }

  /** False where the points leave it open, as when several of them are one. */
  private boolean add(double z, DMatrixRMaj to) {
    double one = at(w, z);
    double vx = at(x, z) / one;
    double vy = at(y, z) / one;
    to.reshape(3, 3);
    boolean finite = true;
    for (int i = 0; i < 9; i++) {
      to.data[i] = vx * e[i][0] + vy * e[i][1] + z * e[i][2] + e[i][3];
      finite &= Double.isFinite(to.data[i]);
    }
    return finite;
  }
}
