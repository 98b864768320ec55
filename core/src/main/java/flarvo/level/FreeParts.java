package flarvo.level;

import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.ejml.simple.SimpleMatrix;

/** What no equation determines, read off the empty directions of the unknowns. */
final class FreeParts {

  private FreeParts() {}

  /** What stays undetermined, in words. */
  static List<String> of(LevelFit fit) {
    List<String> out = new ArrayList<>();
    boolean sized = fit.sizeKnown();
    List<double[]> empty = LevelFit.empty(fit.normal(), LevelFit.UNKNOWNS);
    SimpleMatrix turns = new SimpleMatrix(3, Math.max(1, empty.size()));
    for (int k = 0; k < empty.size(); k++) {
      for (int i = 0; i < 3; i++) {
        turns.set(i, k, empty.get(k)[i]);
      }
    }
    var svd = turns.svd();
    int rank = 0;
    for (int i = 0; i < Math.min(3, empty.size()); i++) {
      rank += svd.getSingleValue(i) > 1e-5 ? 1 : 0;
    }
    if (rank == 3) {
      out.add("all rotations");
    } else if (rank == 2) {
      Vec3 a = column(svd.getU(), 0);
      Vec3 b = column(svd.getU(), 1);
      if (Math.hypot(a.y(), b.y()) > 0.999) {
        // Up is among them; the other one lies level.
        out.add(axis(Equations.Y));
        out.add(axis(a.times(b.y()).minus(b.times(a.y())).normalized()));
      } else {
        out.add("two of three rotations");
      }
    } else if (rank == 1) {
      out.add(axis(column(svd.getU(), 0)));
    }
    // Shifts that are free by themselves: in the empty room there is one without any turn.
    double[][] shifts = {{0, 0, 0, 1, 0, 0, 0}, {0, 0, 0, 0, 1, 0, 0}, {0, 0, 0, 0, 0, 1, 0}};
    String[] names = {"position along X", "height", "position along Z"};
    for (int k = 0; k < 3; k++) {
      double in = 0;
      for (double[] v : empty) {
        double dot = 0;
        for (int i = 0; i < LevelFit.UNKNOWNS; i++) {
          dot += v[i] * shifts[k][i];
        }
        in += dot * dot;
      }
      if (in > 1 - 1e-6) {
        out.add(names[k]);
      }
    }
    if (!sized) {
      out.add("scale");
    }
    return out;
  }

  private static Vec3 column(SimpleMatrix m, int k) {
    return new Vec3(m.get(0, k), m.get(1, k), m.get(2, k));
  }

  private static String axis(Vec3 a) {
    if (Math.abs(a.y()) > 0.999) {
      return "rotation about the up axis";
    }
    if (Math.abs(a.y()) < 0.02) {
      double degrees = Math.toDegrees(Math.atan2(-a.z(), a.x()));
      return String.format(
          Locale.ROOT,
          "rotation about the line through the trackers (level, %d° from +X)",
          Math.round(Math.abs(degrees) > 90 ? degrees - Math.copySign(180, degrees) : degrees));
    }
    return String.format(
        Locale.ROOT, "rotation about the direction %.2f, %.2f, %.2f", a.x(), a.y(), a.z());
  }
}
