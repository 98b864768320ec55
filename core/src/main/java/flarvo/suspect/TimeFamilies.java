package flarvo.suspect;

import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;

/** Frames that are counted otherwise. */
final class TimeFamilies {

  private static final int FARTHEST = 48;

  private static final double[][] RATES = {
    {24, 25},
    {25, 24},
    {24, 30},
    {30, 24},
    {25, 30},
    {30, 25},
    {24, 48},
    {48, 24},
    {25, 50},
    {50, 25},
    {30, 60},
    {60, 30},
    {24, 60},
    {60, 24},
    {1000, 1001},
    {1001, 1000}
  };

  private TimeFamilies() {}

  /** Whole and half frames, and that which lays the first on the first. */
  static final class Shift implements Family {
    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      TreeSet<Integer> halves = new TreeSet<>();
      int most = Math.min(FARTHEST, Math.max(8, s.file.count() / 2));
      for (int h = -2 * most; h <= 2 * most; h++) {
        halves.add(h);
      }
      int lay = s.file.first() - e.frames[0];
      halves.add(2 * lay);
      halves.add(2 * (lay + 1));
      halves.add(2 * (lay - 1));
      halves.remove(0);
      List<Change> out = new ArrayList<>();
      for (int h : halves) {
        double by = h / 2.0;
        out.add(
            new Change(
                "frame-shift",
                number(-by),
                h % 2 == 0 ? 1 : 1.5,
                "Everything is " + frames(Math.abs(by)) + (by > 0 ? " late" : " early"),
                "shifted by " + number(-by),
                s.with(k -> k.frameStart += by * k.frameStep)));
      }
      return out;
    }

    private static String frames(double n) {
      return n == 1
          ? "one frame"
          : n == 0.5 ? "half a frame" : number(n).replace("+", "") + " frames";
    }

    /** Whole or half; by hand, since a hundred are written for each change that others go with. */
    private static String number(double by) {
      long whole = (long) Math.abs(by);
      return (by > 0 ? "+" : by < 0 ? "-" : "") + whole + (by == Math.rint(by) ? "" : ".5");
    }
  }

  /** Keys laid out at one rate and read at another, about the first frame. */
  static final class Stretch implements Family {
    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      List<Change> out = new ArrayList<>();
      for (double[] r : RATES) {
        double step = r[0] / r[1];
        for (int anchor : List.of(s.file.first(), 0)) {
          if (anchor == 0 && s.file.first() == 0) {
            continue;
          }
          out.add(
              new Change(
                  "rate-stretch",
                  (long) r[0] + "/" + (long) r[1],
                  1.2,
                  "Keys are at the wrong rate: "
                      + (long) r[1]
                      + " frames where there should be "
                      + (long) r[0],
                  "stretched to " + (long) r[1] + "/" + (long) r[0],
                  s.with(
                      k -> {
                        k.frameStart = anchor + (k.frameStart - anchor) * step;
                        k.frameStep *= step;
                      })));
        }
      }
      return out;
    }
  }
}
