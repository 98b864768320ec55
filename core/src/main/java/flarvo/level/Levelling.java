package flarvo.level;

import flarvo.report.InputError;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/** Solves statements together for one similarity. */
public final class Levelling {

  /** Costs that differ by less count as the same solution, seen from another side. */
  private static final double SAME = 1e-9;

  /** A statement whose going takes this share of the squares away disagrees with the others. */
  private static final double BLAME = 0.8;

  /** Where no single one is to blame, those with this share of the squares are named. */
  private static final double SHARE = 0.2;

  /** Residuals below this many deviations of the trackers' own error are noise. */
  private static final double NOISE = 4;

  /** Without 2D tracks: residuals below this share of the trackers' reach are noise. */
  private static final double FINE = 0.01;

  private final LevelScene scene;
  private final List<Stated> statements;
  private final Similarity start;
  private final String[] problems;
  private final boolean[] counting;

  private Levelling(LevelScene scene, List<Stated> statements, Similarity start) {
    this.scene = scene;
    this.statements = statements;
    this.start = start;
    problems = new String[statements.size()];
    counting = new boolean[statements.size()];
  }

  /**
   * The level that the statements make, nearest to one that stands.
   *
   * @param start what no statement determines stays as it is here
   */
  public static LevelReading of(LevelScene scene, List<Stated> statements, Similarity start) {
    return new Levelling(scene, statements, start).read();
  }

  /**
   * The nearest level to one that stands which meets the statements best, without looking for a
   * better one further off and without a word on it: for what is dragged, many times a second.
   */
  public static Similarity near(LevelScene scene, List<Stated> statements, Similarity start) {
    Levelling l = new Levelling(scene, statements, start);
    l.count();
    Equations all = Equations.of(statements, l.counting);
    if (all.list().isEmpty()) {
      return start;
    }
    Vec3[] at = l.places(all);
    return new LevelFit(all.list(), at, l.sized(all, at)).turned(start.rotation()).settle().level();
  }

  private void count() {
    for (int i = 0; i < statements.size(); i++) {
      problems[i] = statements.get(i).on() ? missing(statements.get(i).what()) : null;
      counting[i] = statements.get(i).on() && problems[i] == null;
    }
  }

  private LevelReading read() {
    count();
    Equations all = Equations.of(statements, counting);
    if (all.list().isEmpty()) {
      return new LevelReading(
          start, lines(null, all), everything(), Double.NaN, Double.NaN, Double.NaN);
    }
    Vec3[] at = places(all);
    LevelFit fit = best(all, at);
    oneDirection(fit);
    conflicts(fit, all);
    double[] errors = errors(fit, all, at);
    return new LevelReading(
        fit.level(), lines(fit, all), FreeParts.of(fit), errors[0], errors[1], errors[2]);
  }

  private static List<String> everything() {
    return List.of("everything: state something, or take the first guess");
  }

  /** Null where the statement can count. */
  private String missing(Statement s) {
    try {
      s.check();
    } catch (InputError e) {
      return e.getMessage();
    }
    List<String> gone = s.trackers().stream().filter(t -> !scene.places().containsKey(t)).toList();
    if (!gone.isEmpty()) {
      return String.join(", ", gone)
          + (gone.size() == 1 ? " is" : " are")
          + " no longer in the shot; restore culled trackers, or state it of others";
    }
    if (s.isBetweenTwo()) {
      Vec3 d =
          scene.places().get(s.trackers().get(0)).minus(scene.places().get(s.trackers().get(1)));
      if (!(d.length() > 0)) {
        return "both trackers are in one place";
      }
    }
    return null;
  }

  private Vec3[] places(Equations e) {
    return e.names().stream().map(scene.places()::get).toArray(Vec3[]::new);
  }

  /** The best of many starts: a turn has more than one lowest place. */
  private LevelFit best(Equations all, Vec3[] at) {
    LevelFit first = new LevelFit(all.list(), at, sized(all, at));
    List<LevelFit> found = new ArrayList<>();
    found.add(first.turned(start.rotation()).settle());
    for (Rotation r : starts()) {
      found.add(first.turned(r).settle());
    }
    double least = found.stream().mapToDouble(f -> f.cost).min().orElseThrow();
    double same = least * (1 + SAME) + SAME * SAME * first.reach() * first.reach();
    return found.stream()
        .filter(f -> f.cost <= same)
        .min(
            Comparator.<LevelFit>comparingInt(f -> backwards(f).size())
                .thenComparing(this::isUpsideDown)
                .thenComparingDouble(f -> f.turn.angleTo(start.rotation())))
        .orElseThrow();
  }

  /** The start with the size that distances give, where there are any. */
  private Similarity sized(Equations all, Vec3[] at) {
    double solved = 0;
    double known = 0;
    for (Equation e : all.list()) {
      if (e.isDistance()) {
        double w = e.weight() * e.weight() * e.known();
        solved += w * e.combined(at).length();
        known += w * e.known();
      }
    }
    if (!(known > 0) || !(solved > 0)) {
      return start;
    }
    double k = known / solved / start.scale();
    return new Similarity(known / solved, start.rotation(), start.translation().times(k));
  }

  /** Directions of the equations laid on the axes, one pair after the other. */
  private List<Rotation> starts() {
    List<Rotation> out = new ArrayList<>();
    Vec3[] axes = {Equations.X, Equations.Y, Equations.Z};
    for (Vec3 a : axes) {
      for (int s = -1; s <= 1; s += 2) {
        for (Vec3 b : axes) {
          if (a.dot(b) == 0) {
            for (int t = -1; t <= 1; t += 2) {
              Vec3 x = a.times(s);
              Vec3 y = b.times(t);
              Vec3 z = x.cross(y);
              Rotation axial =
                  Rotation.fromRows(x.x(), y.x(), z.x(), x.y(), y.y(), z.y(), x.z(), y.z(), z.z());
              out.add(axial.after(start.rotation()));
            }
          }
        }
      }
    }
    List<Vec3> from = new ArrayList<>();
    List<Vec3> to = new ArrayList<>();
    for (int i = 0; i < statements.size(); i++) {
      if (counting[i] && statements.get(i).what() instanceof Statement.Along a) {
        from.add(scene.places().get(a.to()).minus(scene.places().get(a.from())).normalized());
        to.add(Equations.direction(a.axis()));
      }
    }
    Optional<Vec3> ground = ground();
    for (int s = -1; s <= 1; s += 2) {
      List<Vec3> f = new ArrayList<>(from);
      List<Vec3> t = new ArrayList<>(to);
      if (ground.isPresent()) {
        f.add(ground.get().times(s));
        t.add(Equations.Y);
      }
      if (f.size() == 1) {
        out.add(
            Rotation.between(start.rotation().apply(f.get(0)), t.get(0)).after(start.rotation()));
      } else if (!f.isEmpty()) {
        out.add(flarvo.scene.SimilarityFit.turnOf(f, t));
      }
    }
    return out;
  }

  /** Normal of the plane through what is stated to be on the ground, in solve space. */
  private Optional<Vec3> ground() {
    List<Vec3> on = new ArrayList<>();
    for (int i = 0; i < statements.size(); i++) {
      if (counting[i] && statements.get(i).what() instanceof Statement.OnGround g) {
        g.trackers().forEach(t -> on.add(scene.places().get(t)));
      }
    }
    return on.size() < 3 ? Optional.empty() : PlaneFit.of(on).map(PlaneFit::normal);
  }

  /** Whether the camera's own up points down on the whole. */
  private boolean isUpsideDown(LevelFit f) {
    double up = 0;
    for (Pose p : scene.poses()) {
      up += f.turn.apply(p.rotation().apply(Equations.Y)).y();
    }
    return up < 0;
  }

  /** Statements whose way runs against the axis that they name. */
  private List<Integer> backwards(LevelFit f) {
    List<Integer> out = new ArrayList<>();
    for (int i = 0; i < statements.size(); i++) {
      if (counting[i] && statements.get(i).what() instanceof Statement.Along a) {
        Vec3 d = scene.places().get(a.to()).minus(scene.places().get(a.from()));
        if (f.turn.apply(d).dot(Equations.direction(a.axis())) < 0) {
          out.add(i);
        }
      }
    }
    return out;
  }

  private void oneDirection(LevelFit fit) {
    for (int i : backwards(fit)) {
      problems[i] = "it points the other way: another statement says the opposite";
    }
  }

  /** Names the statement whose going makes the others agree. */
  private void conflicts(LevelFit fit, Equations all) {
    boolean odd = false;
    for (int i = 0; i < statements.size(); i++) {
      odd |= counting[i] && squares(fit, all, i) > NOISE * NOISE * noise(fit, all, i);
    }
    if (!odd || statements.size() < 2) {
      return;
    }
    List<Integer> suspects = new ArrayList<>();
    for (int i = 0; i < statements.size(); i++) {
      if (counting[i] && without(i, fit) <= (1 - BLAME) * fit.cost) {
        suspects.add(i);
      }
    }
    if (suspects.isEmpty()) {
      for (int i = 0; i < statements.size(); i++) {
        if (counting[i] && problems[i] == null && squares(fit, all, i) > SHARE * fit.cost) {
          problems[i] = "several statements conflict";
        }
      }
      return;
    }
    for (int i : suspects) {
      if (problems[i] == null) {
        problems[i] =
            suspects.size() == 1
                ? "it disagrees with the others; without it they agree"
                : "it disagrees with "
                    + suspects.stream()
                        .filter(k -> k != i)
                        .map(k -> "'" + statements.get(k).what().words() + "'")
                        .collect(Collectors.joining(" and "))
                    + "; without one of them the rest agrees";
      }
    }
  }

  /** What the trackers' own errors would make of one statement's squares. */
  private double noise(LevelFit fit, Equations all, int statement) {
    double sum = 0;
    for (Equation e : all.list()) {
      if (e.statement() != statement) {
        continue;
      }
      for (int k = 0; k < e.points().length; k++) {
        double f = e.factors()[k] * e.weight();
        Vec3 d = fit.inSolve(e);
        sum +=
            f
                * f
                * scene
                    .spread(all.names().get(e.points()[k]))
                    .map(s -> s.variance(d))
                    .orElse(FINE * FINE * fit.reach() * fit.reach());
      }
    }
    return sum;
  }

  /** What is left of the squares when a statement goes. */
  private double without(int gone, LevelFit fit) {
    boolean[] rest = counting.clone();
    rest[gone] = false;
    Equations e = Equations.of(statements, rest);
    return e.list().isEmpty() ? 0 : new LevelFit(e.list(), places(e), fit.level()).settle().cost;
  }

  private static double squares(LevelFit fit, Equations all, int statement) {
    double sum = 0;
    for (Equation e : all.list()) {
      if (e.statement() == statement) {
        double r = e.weight() * fit.residual(e);
        sum += r * r;
      }
    }
    return sum;
  }

  private List<LevelReading.Line> lines(LevelFit fit, Equations all) {
    List<LevelReading.Line> out = new ArrayList<>();
    for (int i = 0; i < statements.size(); i++) {
      double metres = Double.NaN;
      double px = Double.NaN;
      if (counting[i] && fit != null) {
        metres = 0;
        px = 0;
        int n = 0;
        Map<Integer, Vec3> moves = new java.util.HashMap<>();
        for (Equation e : all.list()) {
          if (e.statement() == i) {
            double r = fit.residual(e);
            metres += r * r;
            n++;
            Vec3 d = fit.inSolve(e);
            moves.merge(e.carrier(), d.times(-r), Vec3::plus);
          }
        }
        metres = Math.sqrt(metres / n) / fit.u;
        int seen = 0;
        for (Map.Entry<Integer, Vec3> m : moves.entrySet()) {
          double p = scene.pixels(all.names().get(m.getKey()), m.getValue());
          if (!Double.isNaN(p)) {
            px += p * p;
            seen++;
          }
        }
        px = seen == 0 ? Double.NaN : Math.sqrt(px / seen);
      }
      out.add(
          new LevelReading.Line(statements.get(i), metres, px, Optional.ofNullable(problems[i])));
    }
    return out;
  }

  /**
   * Lean of up, height and size, as the trackers' own errors carry over: {@code dz = −(JᵀJ)⁺ Jᵀ
   * dr}, with dr/dp of each tracker.
   */
  private double[] errors(LevelFit fit, Equations all, Vec3[] at) {
    double[] n = fit.normal();
    int m = LevelFit.UNKNOWNS;
    double[] inverse = LevelFit.pseudoInverse(n, m);
    double[] variance = new double[m];
    double[] row = new double[m];
    for (int t = 0; t < at.length; t++) {
      Optional<Spread> spread = scene.spread(all.names().get(t));
      if (spread.isEmpty()) {
        return new double[] {Double.NaN, Double.NaN, Double.NaN};
      }
      // One column for each axis of this tracker's error: Σ over equations of Jᵀ · dr/dp.
      double[][] by = new double[m][3];
      for (Equation e : all.list()) {
        for (int k = 0; k < e.points().length; k++) {
          if (e.points()[k] == t) {
            Vec3 d = fit.inSolve(e);
            Vec3 dr = d.times(e.factors()[k] * e.weight());
            fit.derive(e, row);
            for (int i = 0; i < m; i++) {
              by[i][0] += row[i] * dr.x();
              by[i][1] += row[i] * dr.y();
              by[i][2] += row[i] * dr.z();
            }
          }
        }
      }
      for (int i = 0; i < m; i++) {
        double x = 0;
        double y = 0;
        double z = 0;
        for (int k = 0; k < m; k++) {
          x += inverse[m * i + k] * by[k][0];
          y += inverse[m * i + k] * by[k][1];
          z += inverse[m * i + k] * by[k][2];
        }
        double length = Math.sqrt(x * x + y * y + z * z);
        if (length > 0) {
          Vec3 d = new Vec3(x / length, y / length, z / length);
          variance[i] += length * length * spread.get().variance(d);
        }
      }
    }
    double lean = Math.sqrt(variance[0] + variance[2]) / fit.reach();
    double height = Math.sqrt(variance[4]) / fit.u;
    double size = Math.sqrt(variance[6]) / fit.metres() / fit.u;
    return new double[] {lean, height, size};
  }
}
