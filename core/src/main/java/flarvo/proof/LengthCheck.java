package flarvo.proof;

import flarvo.convention.Dialect;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Compares a known distance in the recipient's units, and where the world's origin lies, on the
 * trackers that stand still.
 */
final class LengthCheck {

  private final String[] names;
  private final double[] sent; // metres, three numbers each
  private final int count;
  private double worst; // metres

  /** Of two trackers that are named alike, the last counts. */
  private LengthCheck(List<TrackerSet> source, List<TrackerSet> found) {
    Map<String, Vec3> places = TrackerSet.stillPositions(found);
    names = new String[places.size()];
    sent = new double[3 * places.size()];
    int n = 0;
    for (int s = source.size() - 1; s >= 0; s--) {
      TrackerSet t = source.get(s);
      for (int i = t.size() - 1; i >= 0 && !t.moves(); i--) {
        Vec3 there = places.remove(t.names().get(i));
        if (there != null) {
          names[n] = t.names().get(i);
          sent[3 * n] = t.x(i);
          sent[3 * n + 1] = t.y(i);
          sent[3 * n + 2] = t.z(i);
          worst = Math.max(worst, apart(n, there.x(), there.y(), there.z()));
          n++;
        }
      }
    }
    count = n;
  }

  /**
   * @param source what was sent, and {@code found} what was read back, both canonical
   * @param raw the same in the file's own units
   * @param relative how far a length or a position may be off, as a share of the scene's size
   * @return nothing where fewer than two trackers can be compared
   */
  static List<Check> of(
      List<TrackerSet> source,
      List<TrackerSet> found,
      List<TrackerSet> raw,
      Dialect spoken,
      double relative) {
    LengthCheck c = new LengthCheck(source, found);
    if (c.count < 2) {
      return List.of();
    }
    // Two far apart: the farthest from any, and the farthest from that.
    int a = c.farthestFrom(0);
    int b = c.farthestFrom(a);
    double metres = c.apart(a, c.sent[3 * b], c.sent[3 * b + 1], c.sent[3 * b + 2]);
    double read =
        place(raw, c.names[a]).minus(place(raw, c.names[b])).length()
            * spoken.unit().metresPerUnit();
    return List.of(
        new Check(
            "knownDistance",
            Math.abs(read - metres) <= relative * metres,
            metres(metres),
            metres(read)),
        new Check(
            "origin",
            c.worst <= relative * Math.max(1, metres),
            "within 0.01 mm a metre",
            metres(c.worst) + " off"));
  }

  /** Of several that are equally far the first by name. */
  private int farthestFrom(int from) {
    int best = from;
    double most = -1;
    for (int i = 0; i < count; i++) {
      double d = apart(i, sent[3 * from], sent[3 * from + 1], sent[3 * from + 2]);
      if (d > most || d == most && names[i].compareTo(names[best]) < 0) {
        most = d;
        best = i;
      }
    }
    return best;
  }

  private double apart(int i, double x, double y, double z) {
    double dx = sent[3 * i] - x;
    double dy = sent[3 * i + 1] - y;
    double dz = sent[3 * i + 2] - z;
    return Math.sqrt(dx * dx + dy * dy + dz * dz);
  }

  private static Vec3 place(List<TrackerSet> sets, String name) {
    Vec3 place = null;
    for (TrackerSet t : sets) {
      int i = t.moves() ? -1 : t.names().lastIndexOf(name);
      place = i < 0 ? place : t.position(i);
    }
    return place;
  }

  private static String metres(double m) {
    return String.format(Locale.ROOT, "%.6f m", m);
  }
}
