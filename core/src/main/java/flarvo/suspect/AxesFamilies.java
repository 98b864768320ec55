package flarvo.suspect;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/** Axes and units of camera and world. */
final class AxesFamilies {

  private static final double[] UNITS = {
    0.001,
    0.01,
    0.1,
    0.0254,
    0.3048,
    2.54,
    25.4,
    30.48,
    10,
    100,
    1000,
    1 / 0.0254,
    1 / 0.3048,
    1 / 2.54,
    1 / 25.4,
    1 / 30.48
  };

  private AxesFamilies() {}

  /** The camera looks along another of its axes, or another is up. */
  static final class Camera implements Family {
    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      List<Change> out = new ArrayList<>();
      for (double[] m : Axes.TURNS.subList(1, Axes.TURNS.size())) {
        out.add(
            new Change(
                "camera-axes",
                Axes.words(m),
                1,
                "The camera's axes differ from those assumed",
                "with " + Axes.words(m) + " as right, up and back",
                s.with(k -> k.local = Axes.times(m, k.local))));
      }
      return out;
    }
  }

  /** Camera and points stand in worlds with other axes. */
  static final class World implements Family {
    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      List<Change> out = new ArrayList<>();
      for (double[] m : Axes.TURNS.subList(1, Axes.TURNS.size())) {
        out.add(
            new Change(
                "world-axes",
                Axes.words(m),
                1,
                "Camera and points are in worlds with different axes",
                "with the points' " + Axes.words(m) + " as X, Y and Z",
                points(s, m)));
      }
      return out;
    }
  }

  /** Points or picture mirrored against the camera. */
  static final class Hand implements Family {
    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      List<Change> out = new ArrayList<>();
      for (double[] m : Axes.MIRRORS) {
        out.add(
            new Change(
                "handedness",
                "points " + Axes.words(m),
                1,
                "Camera and points are of different handedness",
                "with the points' " + Axes.words(m) + " as X, Y and Z",
                points(s, m)));
        out.add(
            new Change(
                "handedness",
                "camera " + Axes.words(m),
                1.1,
                "The camera sees a mirrored world",
                "with " + Axes.words(m) + " as right, up and back",
                s.with(k -> k.local = Axes.times(m, k.local))));
      }
      return out;
    }
  }

  private static TriedScene points(TriedScene s, double[] m) {
    return s.with(
        k -> {
          k.points = Axes.times(m, k.points);
          k.offset = Axes.apply(m, k.offset);
        });
  }

  /** Points larger or smaller than the camera's path: usual ratios, and the one that fits. */
  static final class Unit implements Family {
    private static final String SAYS = "Points and camera are in different units";

    private static final Map<Double, String> NUMBERS = new ConcurrentHashMap<>();

    private final boolean fits;

    Unit(boolean fits) {
      this.fits = fits;
    }

    @Override
    public boolean isFixed() {
      return !fits;
    }

    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      List<Change> out = new ArrayList<>();
      if (!fits) {
        for (double u : UNITS) {
          out.add(fixed(s, u));
        }
        return out;
      }
      double k = fit(s, e, b);
      if (k > 1e-6 && k < 1e6 && Math.abs(k - 1) > 1e-4) {
        out.add(
            Change.fitted(
                "unit-scale",
                2,
                SAYS,
                "with the points times {}",
                s,
                List.of(Dial.UNIT),
                Math.log(k)));
      }
      return out;
    }

    private static Change fixed(TriedScene s, double by) {
      String value = NUMBERS.computeIfAbsent(by, Change::number);
      return new Change(
          "unit-scale",
          value,
          1,
          SAYS,
          "with the points times " + value,
          s.with(k -> Dial.UNIT.turn(k, Math.log(by))));
    }

    /** Each observed coordinate gives a scale of its own: x/z of s·Mp + t is what was observed. */
    private static double fit(TriedScene s, Evidence e, TriedScene.Bench b) {
      RobustRatio r = new RobustRatio();
      double[] xyz = s.file.points();
      TriedScene.View v = b.view;
      for (int f = 0; f < e.frames.length; f++) {
        if (!s.look(e.frames[f], e.picture.width(), e.picture.height(), v)) {
          continue;
        }
        for (int row = e.begin[f]; row < e.begin[f + 1]; row++) {
          int p = 3 * e.point[row];
          double[] m = {
            v.m[0] * xyz[p] + v.m[1] * xyz[p + 1] + v.m[2] * xyz[p + 2],
            v.m[3] * xyz[p] + v.m[4] * xyz[p + 1] + v.m[5] * xyz[p + 2],
            v.m[6] * xyz[p] + v.m[7] * xyz[p + 1] + v.m[8] * xyz[p + 2]
          };
          double ux = (e.x[row] - v.cx) / v.fx;
          double uy = -(s.observedY(e, row) - v.cy) / v.fy;
          r.add(m[0] + ux * m[2], -(v.t[0] + ux * v.t[2]));
          r.add(m[1] + uy * m[2], -(v.t[1] + uy * v.t[2]));
        }
      }
      return r.value();
    }
  }
}
