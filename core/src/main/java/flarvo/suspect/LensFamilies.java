package flarvo.suspect;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalDouble;

/** Focal length, film back, shift, and the picture that was tracked. */
final class LensFamilies {

  private static final double NOTHING = 2e-4;

  static final String FOCAL_SAYS = "Focal length and film back do not match";
  static final String FOCAL_UNDONE = "with the focal length times {} (or a film back {back})";

  private LensFamilies() {}

  /** What is projected and what was observed, row by row. */
  private interface Row {
    void see(double px, double py, double x, double y, TriedScene.View v);
  }

  private static void each(TriedScene s, Evidence e, TriedScene.Bench b, Row row) {
    double[] xyz = s.file.points();
    for (int f = 0; f < e.frames.length; f++) {
      if (!s.look(e.frames[f], e.picture.width(), e.picture.height(), b.view)) {
        continue;
      }
      for (int i = e.begin[f]; i < e.begin[f + 1]; i++) {
        int p = 3 * e.point[i];
        b.view.project(xyz[p], xyz[p + 1], xyz[p + 2], b.out);
        if (b.out[2] > 0) {
          row.see(b.out[0], b.out[1], e.x[i], s.observedY(e, i), b.view);
        }
      }
    }
  }

  /** The focal length, about the principal point. */
  static final class Focal implements Family {
    @Override
    public boolean isFixed() {
      return false;
    }

    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      RobustRatio r = new RobustRatio();
      each(
          s,
          e,
          b,
          (px, py, x, y, v) -> {
            r.add(px - v.cx, x - v.cx);
            r.add(py - v.cy, y - v.cy);
          });
      double k = r.value();
      if (!isFactor(k)) {
        return List.of();
      }
      return List.of(
          Change.fitted(
              "focal-length", 2, FOCAL_SAYS, FOCAL_UNDONE, s, List.of(Dial.FOCAL), Math.log(k)));
    }
  }

  /**
   * The film back's size, about the picture's centre: a lens shift in millimetres takes another
   * part of it then. Both sides alike, one alone (which is a pixel aspect), or each.
   */
  static final class Back implements Family {
    @Override
    public boolean isFixed() {
      return false;
    }

    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      RobustRatio both = new RobustRatio();
      RobustRatio across = new RobustRatio();
      RobustRatio high = new RobustRatio();
      double mx = e.picture.width() / 2.0;
      double my = e.picture.height() / 2.0;
      each(
          s,
          e,
          b,
          (px, py, x, y, v) -> {
            both.add(px - mx, x - mx);
            both.add(py - my, y - my);
            across.add(px - mx, x - mx);
            high.add(py - my, y - my);
          });
      List<Change> out = new ArrayList<>();
      double k = both.value();
      double kx = across.value();
      double ky = high.value();
      if (isFactor(k)) {
        out.add(
            Change.fitted(
                "film-back",
                2.05,
                "The film back has another size",
                "with the film back times {} ({back})",
                s,
                List.of(Dial.BACK),
                Math.log(k)));
      }
      if (isFactor(kx)) {
        out.add(aspect(s, "width", Dial.WIDTH, kx));
      }
      if (isFactor(ky)) {
        out.add(aspect(s, "height", Dial.HEIGHT, ky));
      }
      if (isFactor(kx) && isFactor(ky)) {
        out.add(
            Change.fitted(
                "film-back",
                3.2,
                "The film back has another size and another aspect",
                "with width and height times {}",
                s,
                List.of(Dial.WIDTH, Dial.HEIGHT),
                Math.log(kx),
                Math.log(ky)));
      }
      return out;
    }

    private static Change aspect(TriedScene s, String side, Dial dial, double k) {
      return Change.fitted(
          "pixel-aspect",
          2.1,
          "The pixel aspect, or the film back's " + side + ", is wrong",
          "with the pixel aspect times {}",
          s,
          List.of(dial),
          Math.log(k));
    }
  }

  private static boolean isFactor(double k) {
    return k > 0.02 && k < 50 && Math.abs(k - 1) > NOTHING;
  }

  /** The picture fits the back's width where it should fit its height, or the other way round. */
  static final class Fit implements Family {
    private final OptionalDouble backAspect;

    /**
     * @param backAspect width over height of the film back as the file states it
     */
    Fit(OptionalDouble backAspect) {
      this.backAspect = backAspect;
    }

    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      List<Change> out = new ArrayList<>();
      if (backAspect.isEmpty()) {
        return out;
      }
      double picture = e.picture.width() * e.picture.pixelAspect() / e.picture.height();
      for (double k :
          new double[] {picture / backAspect.getAsDouble(), backAspect.getAsDouble() / picture}) {
        if (isFactor(k)) {
          out.add(
              new Change(
                  "film-fit",
                  Change.number(k),
                  1.3,
                  "The picture is fitted to the wrong side of the film back",
                  "fitted to the other side",
                  s.with(
                      n -> {
                        n.kx *= k;
                        n.ky *= k;
                      })));
        }
      }
      return out;
    }
  }

  /** The sign or the unit of the lens shift. */
  static final class Shift implements Family {
    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      List<Change> out = new ArrayList<>();
      double[] k = s.file.intrinsics();
      boolean across = Math.abs(k[2] - e.picture.width() / 2.0) > 0.01;
      boolean high = Math.abs(k[3] - e.picture.height() / 2.0) > 0.01;
      if (across && high) {
        out.add(sign(s, "both", -1, -1));
      }
      if (across) {
        out.add(sign(s, "horizontal", -1, 1));
      }
      if (high) {
        out.add(sign(s, "vertical", 1, -1));
      }
      for (double u : new double[] {25.4, 1 / 25.4, 10, 0.1, 0}) {
        if (across || high) {
          String value = u == 0 ? "0" : Change.number(u);
          out.add(
              new Change(
                  "lens-shift-unit",
                  value,
                  1,
                  u == 0 ? "There should be no lens shift" : "The lens shift's unit is wrong",
                  u == 0 ? "without it" : "with the shift times " + value,
                  s.with(
                      n -> {
                        n.shiftX *= u;
                        n.shiftY *= u;
                      })));
        }
      }
      return out;
    }

    private static Change sign(TriedScene s, String which, int x, int y) {
      return new Change(
          "lens-shift-sign",
          which,
          1,
          "The lens shift has the wrong sign (" + which + ")",
          "with the sign changed",
          s.with(
              n -> {
                n.shiftX *= x;
                n.shiftY *= y;
              }));
    }
  }

  /** A principal point that is elsewhere: a crop off centre, or a shift that got lost. */
  static final class Offset implements Family {
    @Override
    public boolean isFixed() {
      return false;
    }

    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      RobustRatio x = new RobustRatio();
      RobustRatio y = new RobustRatio();
      each(
          s,
          e,
          b,
          (px, py, ox, oy, v) -> {
            x.add(1, ox - px);
            y.add(1, oy - py);
          });
      double dx = x.value();
      double dy = y.value();
      if (!(Math.hypot(dx, dy) > 0.1) || Math.hypot(dx, dy) > e.picture.width()) {
        return List.of();
      }
      return List.of(
          Change.fitted(
              "picture-offset",
              3,
              "The picture is cropped off centre, or a lens shift is missing",
              "moved by {} px",
              s,
              List.of(Dial.ACROSS, Dial.DOWN),
              dx,
              dy));
    }
  }

  /** Tracked on plates with the lens's distortion still in them. */
  static final class Distortion implements Family {
    @Override
    public boolean isFixed() {
      return false;
    }

    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      RobustRatio r = new RobustRatio();
      double half = Math.hypot(e.picture.width(), e.picture.height()) / 2;
      double mx = e.picture.width() / 2.0;
      double my = e.picture.height() / 2.0;
      each(
          s,
          e,
          b,
          (px, py, x, y, v) -> {
            double dx = px - mx;
            double dy = py - my;
            double q = (dx * dx + dy * dy) / (half * half);
            r.add(dx * q, x - px);
            r.add(dy * q, y - py);
          });
      double k = r.value();
      if (!(Math.abs(k) > NOTHING) || Math.abs(k) > 0.6) {
        return List.of();
      }
      return List.of(
          Change.fitted(
              "distorted-plate",
              2.15,
              "The tracks are from the original plates, the camera is for undistorted ones",
              "with a radial distortion of {} at the corners",
              s,
              List.of(Dial.RADIAL),
              k));
    }
  }

  /** Tracked on a picture of another size, such as a proxy. */
  static final class PictureScale implements Family {
    private static final double[] USUAL = {
      0.5, 2, 0.25, 4, 2 / 3.0, 1.5, 0.75, 4 / 3.0, 1920 / 2048.0, 2048 / 1920.0, 3840 / 4096.0
    };

    @Override
    public boolean isFixed() {
      return false;
    }

    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      RobustRatio r = new RobustRatio();
      each(
          s,
          e,
          b,
          (px, py, x, y, v) -> {
            r.add(px, x);
            r.add(py, y);
          });
      double k = r.value();
      if (!isFactor(k)) {
        return List.of();
      }
      double near = k;
      double cost = 2;
      for (double u : USUAL) {
        if (Math.abs(k / u - 1) < 0.005) {
          near = u;
          cost = 1.2;
        }
      }
      return List.of(
          Change.fitted(
              "picture-scale",
              cost,
              "The tracks are for a picture of another size",
              "with the tracks divided by {}",
              s,
              List.of(Dial.PICTURE),
              Math.log(near)));
    }
  }

  /** Tracks that count y from the other end. */
  static final class FlipY implements Family {
    @Override
    public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
      return List.of(
          new Change(
              "y-flip",
              "true",
              0.9,
              "The tracks' y axis is flipped",
              "with y flipped",
              s.with(n -> n.flipY = !n.flipY)));
    }
  }
}
