package flarvo.vet.adjust;

import java.util.Arrays;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.factory.LinearSolverFactory_DDRM;
import org.ejml.interfaces.linsol.LinearSolverDense;

/**
 * The pose of one camera from points that stand, and its focal length where that is free, by damped
 * least squares with a forgiving loss.
 */
public final class CameraFit {

  private static final double SETTLED = 1e-7;

  private final ObservationModel model;
  private final int size;
  private final LinearSolverDense<DMatrixRMaj> solver;
  private final DMatrixRMaj normal;
  private final DMatrixRMaj gradient;
  private final DMatrixRMaj step;

  /**
   * @param focal whether the focal length is found too
   */
  public CameraFit(boolean focal) {
    model =
        new ObservationModel(
            focal
                ? AdjustOptions.USUAL.withFocal(AdjustOptions.Focal.PER_FRAME)
                : AdjustOptions.USUAL);
    size = model.cameraSize;
    solver = LinearSolverFactory_DDRM.symmPosDef(size);
    normal = new DMatrixRMaj(size, size);
    gradient = new DMatrixRMaj(size, 1);
    step = new DMatrixRMaj(size, 1);
  }

  /**
   * Moves the camera to where its rows fit best, near where it stands.
   *
   * @param rows of the tracks, all of this camera
   * @param points of the bundle, one for each row
   * @return the median distance in pixels that is left
   */
  public double fit(
      Bundle b, Tracks t, int camera, int[] rows, int[] points, RobustLoss loss, int rounds) {
    double cost = cost(b, t, camera, rows, points, loss);
    double damping = 1e-4;
    for (int round = 0; round < rounds; round++) {
      normal.zero();
      gradient.zero();
      for (int k = 0; k < rows.length; k++) {
        double squared = model.derive(b, camera, points[k], t.x[rows[k]], t.y[rows[k]]);
        double w = loss.weight(squared);
        for (int c = 0; c < size; c++) {
          double a0 = w * model.jc[c];
          double a1 = w * model.jc[size + c];
          gradient.data[c] -= a0 * model.r[0] + a1 * model.r[1];
          for (int d = 0; d < size; d++) {
            normal.data[c * size + d] += a0 * model.jc[d] + a1 * model.jc[size + d];
          }
        }
      }
      for (int c = 0; c < size; c++) {
        normal.data[c * size + c] = normal.data[c * size + c] * (1 + damping) + 1e-12;
      }
      if (!solver.setA(normal)) {
        break;
      }
      solver.solve(gradient, step);
      double[] old = saved(b, camera);
      BundleStep.turn(b.rotation, 9 * camera, step.data[0], step.data[1], step.data[2]);
      for (int a = 0; a < 3; a++) {
        b.centre[3 * camera + a] += step.data[3 + a];
      }
      if (size > 6) {
        b.focal[camera] += step.data[6];
      }
      double trial = b.focal[camera] > 0 ? cost(b, t, camera, rows, points, loss) : Double.NaN;
      if (trial < cost) {
        boolean settled = cost - trial < SETTLED * cost;
        cost = trial;
        damping = Math.max(1e-9, damping / 5);
        if (settled) {
          break;
        }
      } else {
        restore(b, camera, old);
        damping *= 8;
        if (damping > 1e8) {
          break;
        }
      }
    }
    double[] d = new double[rows.length];
    for (int k = 0; k < rows.length; k++) {
      d[k] = Math.sqrt(model.residual(b, camera, points[k], t.x[rows[k]], t.y[rows[k]]));
    }
    Arrays.sort(d);
    return d.length == 0 ? Double.NaN : d[d.length / 2];
  }

  private double cost(Bundle b, Tracks t, int camera, int[] rows, int[] points, RobustLoss loss) {
    double sum = 0;
    for (int k = 0; k < rows.length; k++) {
      sum += loss.rho(model.residual(b, camera, points[k], t.x[rows[k]], t.y[rows[k]]));
    }
    return sum;
  }

  private static double[] saved(Bundle b, int camera) {
    double[] s = Arrays.copyOfRange(b.rotation, 9 * camera, 9 * camera + 13);
    System.arraycopy(b.centre, 3 * camera, s, 9, 3);
    s[12] = b.focal[camera];
    return s;
  }

  private static void restore(Bundle b, int camera, double[] s) {
    System.arraycopy(s, 0, b.rotation, 9 * camera, 9);
    System.arraycopy(s, 9, b.centre, 3 * camera, 3);
    b.focal[camera] = s[12];
  }
}
