package flarvo.level;

import flarvo.convention.SignedAxis;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Statements as equations over the trackers that they name. */
final class Equations {

  static final Vec3 X = new Vec3(1, 0, 0);
  static final Vec3 Y = new Vec3(0, 1, 0);
  static final Vec3 Z = new Vec3(0, 0, 1);

  private final Map<String, Integer> numbers = new LinkedHashMap<>();
  private final List<Equation> list = new ArrayList<>();

  /**
   * @param counting whether each statement takes part
   */
  static Equations of(List<Stated> statements, boolean[] counting) {
    Equations e = new Equations();
    for (int i = 0; i < statements.size(); i++) {
      if (counting[i]) {
        e.add(i, statements.get(i).what(), statements.get(i).weight());
      }
    }
    return e;
  }

  List<Equation> list() {
    return list;
  }

  /** In the order of their numbers. */
  List<String> names() {
    return List.copyOf(numbers.keySet());
  }

  static Vec3 direction(SignedAxis a) {
    double s = a.sign();
    return new Vec3(a.index() == 0 ? s : 0, a.index() == 1 ? s : 0, a.index() == 2 ? s : 0);
  }

  private static List<Vec3> across(SignedAxis a) {
    return switch (a.index()) {
      case 0 -> List.of(Y, Z);
      case 1 -> List.of(X, Z);
      default -> List.of(X, Y);
    };
  }

  private int number(String tracker) {
    return numbers.computeIfAbsent(tracker, n -> numbers.size());
  }

  private void add(int k, Statement what, double weight) {
    list.addAll(
        what.accept(
            new Statement.Visitor<List<Equation>>() {
              @Override
              public List<Equation> at(Statement.At s) {
                return List.of(
                    place(k, s.tracker(), X, s.place().x(), weight),
                    place(k, s.tracker(), Y, s.place().y(), weight),
                    place(k, s.tracker(), Z, s.place().z(), weight));
              }

              @Override
              public List<Equation> onGround(Statement.OnGround s) {
                return s.trackers().stream().map(t -> place(k, t, Y, s.height(), weight)).toList();
              }

              @Override
              public List<Equation> along(Statement.Along s) {
                return across(s.axis()).stream()
                    .map(e -> way(k, s.from(), s.to(), e, weight))
                    .toList();
              }

              @Override
              public List<Equation> vertical(Statement.Vertical s) {
                return List.of(
                    way(k, s.one(), s.other(), X, weight), way(k, s.one(), s.other(), Z, weight));
              }

              @Override
              public List<Equation> onWall(Statement.OnWall s) {
                return wall(k, s, weight);
              }

              @Override
              public List<Equation> distance(Statement.Distance s) {
                int a = number(s.from());
                int b = number(s.to());
                double[] signs = {-1, 1};
                return List.of(
                    new Equation(k, null, new int[] {a, b}, signs, s.metres(), b, weight));
              }
            }));
  }

  private Equation place(int k, String tracker, Vec3 e, double known, double weight) {
    int t = number(tracker);
    return new Equation(k, e, new int[] {t}, new double[] {1}, known, t, weight);
  }

  private Equation way(int k, String from, String to, Vec3 e, double weight) {
    int a = number(from);
    int b = number(to);
    return new Equation(k, e, new int[] {a, b}, new double[] {-1, 1}, 0, b, weight);
  }

  /** Each tracker against the mean of all: where the wall stands is eliminated exactly. */
  private List<Equation> wall(int k, Statement.OnWall s, double weight) {
    int n = s.trackers().size();
    int[] points = new int[n];
    for (int i = 0; i < n; i++) {
      points[i] = number(s.trackers().get(i));
    }
    List<Equation> out = new ArrayList<>();
    for (int i = 0; i < n; i++) {
      double[] f = new double[n];
      java.util.Arrays.fill(f, -1.0 / n);
      f[i] += 1;
      out.add(new Equation(k, direction(s.facing()), points, f, 0, points[i], weight));
    }
    return out;
  }
}
