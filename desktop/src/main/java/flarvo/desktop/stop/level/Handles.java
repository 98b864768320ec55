package flarvo.desktop.stop.level;

import flarvo.desktop.theme.Palette;
import flarvo.desktop.view.Labels;
import flarvo.desktop.view.Projector;
import flarvo.desktop.view.WorldDrawing;
import flarvo.scene.Rotation;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.util.Optional;
import javafx.scene.canvas.GraphicsContext;

/**
 * Named handles on a disc that lies on the ground round the origin: the world is taken hold of by
 * them, in Picture as in Space. What a handle does stands beside it.
 */
public final class Handles {

  /** Where a handle sits, in disc radii, and what it does. */
  public enum Handle {
    TURN("turn", 0.71, 0, 0.71),
    ALONG_X("x", 1.25, 0, 0),
    ALONG_Z("z", 0, 0, 1.25),
    HEIGHT("height", 0, 0.8, 0),
    SIZE("size", -0.71, 0, -0.71),
    TILT_X("tilt x", -1, 0, 0),
    TILT_Z("tilt z", 0, 0, -1);

    private final String word;
    private final Vec3 at;

    Handle(String word, double x, double y, double z) {
      this.word = word;
      this.at = new Vec3(x, y, z);
    }

    public String word() {
      return word;
    }
  }

  private static final double GRAB = 11;
  private static final double HALF = 4.5;

  /** Radians for a pixel of a tilt. */
  private static final double TILT = Math.toRadians(0.15);

  /** With Shift a handle goes this much slower. */
  private static final double FINE = 0.1;

  private final double[] px = new double[3];
  private double radius = 1;

  /** Of the disc, in metres. */
  public void setRadius(double metres) {
    radius = metres;
  }

  public double radius() {
    return radius;
  }

  void draw(GraphicsContext g, Palette p, Projector to, Handle held, Labels labels) {
    WorldDrawing w = new WorldDrawing(g, to);
    g.setStroke(p.attention());
    g.setLineWidth(1);
    Vec3 last = null;
    for (int i = 0; i <= 48; i++) {
      double a = 2 * Math.PI * i / 48;
      Vec3 v = new Vec3(Math.cos(a) * radius, 0, Math.sin(a) * radius);
      if (last != null) {
        w.line(last, v);
      }
      if (i % 2 == 0) {
        w.line(v, v.times(i % 12 == 0 ? 0.9 : 0.95));
      }
      last = v;
    }
    for (Handle k : Handle.values()) {
      to.project(k.at.times(radius), px);
      if (px[2] > 0) {
        labels.keepClear(px[0], px[1], HALF);
      }
    }
    for (Handle k : Handle.values()) {
      Vec3 at = k.at.times(radius);
      w.line(k == Handle.HEIGHT ? Vec3.ZERO : at.times(1 / Math.max(1, at.length() / radius)), at);
      to.project(at, px);
      if (!(px[2] > 0)) {
        continue;
      }
      g.setFill(p.panel());
      g.fillRect(px[0] - HALF, px[1] - HALF, 2 * HALF, 2 * HALF);
      g.setStroke(k == held ? p.ink() : p.attention());
      g.setLineWidth(k == held ? 2 : 1.4);
      g.strokeRect(px[0] - HALF, px[1] - HALF, 2 * HALF, 2 * HALF);
      labels.draw(g, p, k.word, px[0], px[1]);
    }
  }

  /** The handle under a place of the view. */
  public Optional<Handle> at(Projector to, double x, double y) {
    Handle best = null;
    double nearest = GRAB;
    for (Handle k : Handle.values()) {
      to.project(k.at.times(radius), px);
      double d = px[2] > 0 ? Math.hypot(px[0] - x, px[1] - y) : Double.POSITIVE_INFINITY;
      if (d < nearest) {
        nearest = d;
        best = k;
      }
    }
    return Optional.ofNullable(best);
  }

  /**
   * What a drag from one place of the view to another does to what the handle belongs to.
   *
   * @param fine slower, for the last bit
   * @return a similarity of the world about the disc's middle
   */
  public Similarity drag(
      Handle k, Projector to, double x0, double y0, double x1, double y1, boolean fine) {
    double slow = fine ? FINE : 1;
    Vec3 from = to.onLevel(x0, y0, 0);
    Vec3 now = to.onLevel(x1, y1, 0);
    switch (k) {
      case TURN -> {
        if (from == null || now == null) {
          return Similarity.IDENTITY;
        }
        double angle = Math.atan2(-now.z(), now.x()) - Math.atan2(-from.z(), from.x());
        angle = Math.atan2(Math.sin(angle), Math.cos(angle));
        return turned(new Vec3(0, 1, 0), slow * angle);
      }
      case ALONG_X, ALONG_Z -> {
        if (from == null || now == null) {
          return Similarity.IDENTITY;
        }
        Vec3 d = now.minus(from).times(slow);
        return shifted(k == Handle.ALONG_X ? new Vec3(d.x(), 0, 0) : new Vec3(0, 0, d.z()));
      }
      case HEIGHT -> {
        return shifted(new Vec3(0, slow * metresUp(to, y0, y1), 0));
      }
      case SIZE -> {
        to.project(Vec3.ZERO, px);
        double a = Math.hypot(x0 - px[0], y0 - px[1]);
        double b = Math.hypot(x1 - px[0], y1 - px[1]);
        double s = a > 1 && b > 1 ? Math.pow(b / a, slow) : 1;
        return new Similarity(s, Rotation.IDENTITY, Vec3.ZERO);
      }
      case TILT_X -> {
        return turned(new Vec3(1, 0, 0), slow * TILT * (y1 - y0));
      }
      case TILT_Z -> {
        return turned(new Vec3(0, 0, 1), slow * TILT * (y1 - y0));
      }
      default -> throw new IllegalStateException(k.word);
    }
  }

  private static Similarity turned(Vec3 axis, double angle) {
    return new Similarity(1, Rotation.about(axis, angle), Vec3.ZERO);
  }

  private static Similarity shifted(Vec3 by) {
    return new Similarity(1, Rotation.IDENTITY, by);
  }

  /** How high a metre at the middle stands in the view, taken the other way round. */
  private double metresUp(Projector to, double y0, double y1) {
    to.project(Vec3.ZERO, px);
    double low = px[1];
    to.project(new Vec3(0, radius, 0), px);
    double high = px[1];
    double each = (low - high) / radius;
    return Math.abs(each) > 1 ? (y0 - y1) / each : 0;
  }
}
