package flarvo.suspect;

import flarvo.convention.RotationOrder;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import java.util.ArrayList;
import java.util.List;

/** Angles and positions that were copied or read as something else. */
final class RotationFamilies {

  private static final int[][] SWAPS = {{0, 2, 1}, {1, 0, 2}, {2, 1, 0}, {1, 2, 0}, {2, 0, 1}};
  private static final String[] AXIS = {"x", "y", "z"};

  static final List<RotationOrder> ALL = List.of(RotationOrder.values());

  private RotationFamilies() {}

  /**
   * What may be wrong with the same angles besides: they are then known to be in one order.
   *
   * @param on a change of angles, in whose scene they stand
   * @return none for a change of something else
   */
  static List<Family> besides(Change on) {
    if (on.cause().equals("rotation-order")) {
      RotationOrder meant = order(on);
      return List.of(new Channels(List.of(meant)), new Degrees(List.of(meant)));
    }
    return on.cause().equals("degrees-radians")
        ? List.of(new Channels(List.of(order(on))))
        : List.of();
  }

  /** The order that a change ends in, which is the last word of its value. */
  private static RotationOrder order(Change c) {
    return RotationOrder.valueOf(c.value().substring(c.value().length() - 3));
  }

  /** The rotations' angles in an order, one frame after the other without jumps. */
  private static double[][] angles(TriedScene s, RotationOrder order) {
    FiledScene f = s.file;
    double[][] out = new double[f.count()][];
    double hint = 0;
    Rotation local = local(s);
    for (int i = 0; i < out.length; i++) {
      out[i] = order.decompose(f.pose(i).rotation().after(local), hint);
      hint = out[i][order.name().charAt(0) - 'X'];
    }
    return out;
  }

  /** The camera's own axes count as part of its rotation: the angles are of both. */
  private static Rotation local(TriedScene s) {
    double[] m = s.knobs.local;
    return Axes.determinant(m) > 0
        ? Rotation.fromRows(m[0], m[3], m[6], m[1], m[4], m[7], m[2], m[5], m[8])
        : Rotation.IDENTITY;
  }

  private static TriedScene turned(TriedScene s, double[][] angles, RotationOrder order) {
    List<Pose> poses = new ArrayList<>(angles.length);
    for (int i = 0; i < angles.length; i++) {
      double[] a = angles[i];
      Rotation r = order.compose(a[0], a[1], a[2]);
      poses.add(new Pose(s.file.pose(i).position(), r));
    }
    boolean mirrors = Axes.determinant(s.knobs.local) < 0;
    return s.with(s.file.withPoses(poses))
        .with(k -> k.local = mirrors ? k.local : TriedScene.IDENTITY);
  }

  /** Angles that were meant in another order. */
  static final class Order implements Family {
    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      List<Change> out = new ArrayList<>();
      for (RotationOrder read : RotationOrder.values()) {
        double[][] a = angles(s, read);
        for (RotationOrder meant : RotationOrder.values()) {
          if (read != meant) {
            out.add(
                new Change(
                    "rotation-order",
                    read + ">" + meant,
                    1.4,
                    "The angles were read in the order " + read,
                    "turned in the order " + meant,
                    turned(s, a, meant)));
          }
        }
      }
      return out;
    }
  }

  /** Degrees taken for radians, or the other way round. */
  static final class Degrees implements Family {
    private final List<RotationOrder> orders;

    /**
     * @param orders that the angles may be in
     */
    Degrees(List<RotationOrder> orders) {
      this.orders = orders;
    }

    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      List<Change> out = new ArrayList<>();
      for (RotationOrder order : orders) {
        double[][] a = angles(s, order);
        out.add(change(s, a, order, 180 / Math.PI, "radians", "degrees"));
        out.add(change(s, a, order, Math.PI / 180, "degrees", "radians"));
      }
      return out;
    }

    private static Change change(
        TriedScene s, double[][] a, RotationOrder order, double k, String are, String read) {
      double[][] scaled = new double[a.length][3];
      for (int i = 0; i < a.length; i++) {
        for (int c = 0; c < 3; c++) {
          scaled[i][c] = k * a[i][c];
        }
      }
      return new Change(
          "degrees-radians",
          are + ", " + order,
          1.4,
          "The angles are " + are + " and were read as " + read,
          "as " + are + " in the order " + order,
          turned(s, scaled, order));
    }
  }

  /** Positions with a wrong sign, or two in each other's place, as in values copied by hand. */
  static final class Positions implements Family {
    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      List<Change> out = new ArrayList<>();
      for (int sign = 1; sign < 7; sign++) {
        out.add(positions(s, new int[] {0, 1, 2}, sign));
      }
      for (int[] swap : SWAPS) {
        out.add(positions(s, swap, 0));
      }
      return out;
    }
  }

  /** The same of angles. */
  static final class Channels implements Family {
    private final List<RotationOrder> orders;

    /**
     * @param orders that the angles may be in
     */
    Channels(List<RotationOrder> orders) {
      this.orders = orders;
    }

    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      List<Change> out = new ArrayList<>();
      for (RotationOrder order : orders) {
        double[][] a = angles(s, order);
        for (int sign = 1; sign < 8; sign++) {
          out.add(rotations(s, a, order, new int[] {0, 1, 2}, sign));
        }
        for (int[] swap : SWAPS) {
          out.add(rotations(s, a, order, swap, 0));
        }
      }
      return out;
    }

    private static Change rotations(
        TriedScene s, double[][] a, RotationOrder order, int[] from, int sign) {
      double[][] out = new double[a.length][3];
      for (int i = 0; i < a.length; i++) {
        for (int axis = 0; axis < 3; axis++) {
          double v = a[i][from[axis]];
          out[i][axis] = (sign >> axis & 1) == 0 ? v : -v;
        }
      }
      return named("rotation", from, sign, ", " + order, turned(s, out, order), 1.6);
    }
  }

  private static Change positions(TriedScene s, int[] from, int sign) {
    double[] old = s.file.positions();
    double[] p = new double[old.length];
    for (int i = 0; i < p.length; i++) {
      int axis = i % 3;
      p[i] = (sign >> axis & 1) == 0 ? old[i - axis + from[axis]] : -old[i - axis + from[axis]];
    }
    return named("position", from, sign, "", s.with(s.file.withPositions(p)), 1.5);
  }

  private static Change named(
      String what, int[] from, int sign, String order, TriedScene scene, double cost) {
    StringBuilder which = new StringBuilder();
    for (int axis = 0; axis < 3; axis++) {
      if (sign != 0 ? (sign >> axis & 1) == 1 : from[axis] != axis) {
        which.append(which.isEmpty() ? "" : " ").append(AXIS[axis]);
      }
    }
    int channels = Integer.bitCount(sign);
    boolean signs = sign != 0;
    return new Change(
        signs ? "channel-sign" : "channel-swap",
        what + " " + which + order,
        cost + 0.1 * channels,
        signs
            ? "The sign of " + what + " " + which + " is wrong"
            : "The " + what + " channels " + which + " are swapped",
        signs ? "with the sign changed" : "with them swapped back",
        scene);
  }
}
