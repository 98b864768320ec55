package flarvo.desktop.stop.proof;

import flarvo.desktop.state.Comparison;
import flarvo.desktop.state.Session;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.GeometryDrawing;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.Projector;
import flarvo.desktop.view.TrackerMark;
import flarvo.desktop.view.WorldDrawing;
import flarvo.scene.Pinhole;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;

/**
 * One side of a comparison: the points and geometry of the open shot, or those of what it is
 * compared with, each through its own camera. Overlaid, a whisker leads from where the shot sees a
 * point to where the other does.
 */
final class SeenLayer implements Layer {

  private static final double DOT = 2.5;

  /** A whisker shorter than this in the view is a dot that says nothing. */
  private static final double SHORTEST = 0.4;

  /** Up to this many pixels of the view a whisker is stretched. */
  private static final double LONGEST = 24;

  private final Session session;
  private final ProofWork work;
  private final Side side;
  private final GeometryDrawing geometry = new GeometryDrawing();
  private final double[] px = new double[3];
  private final double[] from = new double[3];
  private final Map<String, Place> own = new HashMap<>();
  private WorldShot indexed;

  private record Place(TrackerSet set, int at) {}

  SeenLayer(Session session, ProofWork work, Side side) {
    this.session = session;
    this.work = work;
    this.side = side;
  }

  @Override
  public Depth depth() {
    return Depth.UNDER;
  }

  @Override
  public Side side() {
    return side;
  }

  @Override
  public boolean compares() {
    return work.now().get() != null;
  }

  @Override
  public String caption() {
    Compared c = work.now().get();
    return side == Side.OWN ? "Source" : c == null ? "" : c.title();
  }

  @Override
  public List<Observable> dependsOn() {
    return List.of(work.now());
  }

  @Override
  public void draw(GraphicsContext g, DrawContext c) {
    Compared other = work.now().get();
    if (other == null) {
      return;
    }
    boolean bare = session.view().comparison().get() == Comparison.DIFFERENCE;
    if (side == Side.OWN) {
      if (!other.shot().meshes().isEmpty()) {
        edges(g, c, c.shot(), work.geometry(), 0, 0, bare ? Color.WHITE : c.palette().accent());
      }
      if (bare) {
        dots(g, c, c.shot(), c.shot().trackers(), 0, 0);
      }
      return;
    }
    WorldShot there = other.shot();
    // Over plates with overscan the recipient's picture is larger on all sides.
    double overX = (there.picture().width() - c.shot().picture().width()) / 2.0;
    double overY = (there.picture().height() - c.shot().picture().height()) / 2.0;
    edges(g, c, there, there, overX, overY, bare ? Color.WHITE : c.palette().attention());
    // A camera that came alone sees the points of the shot.
    List<TrackerSet> points = there.trackerCount() == 0 ? c.shot().trackers() : there.trackers();
    if (bare) {
      dots(g, c, there, points, overX, overY);
    } else {
      crosses(g, c, there, points, overX, overY);
    }
  }

  private static boolean sees(WorldShot s, int frame) {
    return s.camera().isPresent() && s.camera().get().frames().contains(frame);
  }

  private void edges(
      GraphicsContext g,
      DrawContext c,
      WorldShot eye,
      WorldShot of,
      double overX,
      double overY,
      Color colour) {
    if (!sees(eye, c.frame()) || of.meshes().isEmpty()) {
      return;
    }
    ShotCamera camera = eye.camera().get();
    Projector to =
        new Projector(
            new Pinhole(camera, eye.picture()).at(c.frame()),
            camera.poses().at(c.frame()).position(),
            c.at().left() - overX * c.at().scale(),
            c.at().top() - overY * c.at().scale(),
            c.at().scale());
    g.setStroke(colour);
    g.setLineWidth(1.2);
    WorldDrawing world = new WorldDrawing(g, to);
    geometry.draw(world, of, c.frame(), Similarity.IDENTITY);
    geometry.paths(world, of, Similarity.IDENTITY);
  }

  /** By how much a whisker is drawn longer than it is: what is long already stays as it is. */
  private static double stretched(double length, double stretch) {
    return length == 0 ? 1 : Math.max(1, Math.min(stretch, LONGEST / length));
  }

  /** Whether a point is followed at a frame; without 2D tracks every one is. */
  private static boolean live(DrawContext c, String name) {
    return c.shot().observations().isEmpty() || c.shot().observations().row(name, c.frame()) >= 0;
  }

  private void dots(
      GraphicsContext g,
      DrawContext c,
      WorldShot eye,
      List<TrackerSet> points,
      double overX,
      double overY) {
    if (!sees(eye, c.frame())) {
      return;
    }
    Pinhole p = new Pinhole(eye.camera().get(), eye.picture()).at(c.frame());
    g.setFill(Color.WHITE);
    for (TrackerSet t : points) {
      for (int i = 0; i < t.size(); i++) {
        if (live(c, t.names().get(i)) && onView(p, t, i, c, overX, overY)) {
          g.fillOval(px[0] - DOT, px[1] - DOT, 2 * DOT, 2 * DOT);
        }
      }
    }
  }

  private void crosses(
      GraphicsContext g,
      DrawContext c,
      WorldShot eye,
      List<TrackerSet> points,
      double overX,
      double overY) {
    if (!sees(eye, c.frame())) {
      return;
    }
    Pinhole p = new Pinhole(eye.camera().get(), eye.picture()).at(c.frame());
    boolean whiskers =
        session.view().comparison().get() == Comparison.OVERLAID && sees(c.shot(), c.frame());
    Pinhole q =
        whiskers ? new Pinhole(c.shot().camera().get(), c.shot().picture()).at(c.frame()) : null;
    double stretch = session.view().whiskers().get();
    index(c.shot());
    for (TrackerSet t : points) {
      for (int i = 0; i < t.size(); i++) {
        String name = t.names().get(i);
        if (!live(c, name) || !onView(p, t, i, c, overX, overY)) {
          continue;
        }
        double x = px[0];
        double y = px[1];
        Place here = whiskers ? own.get(name) : null;
        if (here != null && onView(q, here.set, here.at, c, 0, 0)) {
          from[0] = px[0];
          from[1] = px[1];
          double k = stretched(Math.hypot(x - from[0], y - from[1]), stretch);
          double dx = (x - from[0]) * k;
          double dy = (y - from[1]) * k;
          if (Math.abs(dx) + Math.abs(dy) > SHORTEST) {
            g.setStroke(c.palette().conflict());
            g.setLineWidth(1.4);
            g.strokeLine(from[0], from[1], from[0] + dx, from[1] + dy);
          }
        }
        TrackerMark.recipient(g, c.palette(), x, y);
      }
    }
  }

  @SuppressWarnings("ReferenceEquality") // shots never change
  private void index(WorldShot shot) {
    if (shot == indexed) {
      return;
    }
    indexed = shot;
    own.clear();
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        own.put(t.names().get(i), new Place(t, i));
      }
    }
  }

  /** Into {@code px}, in the view; false behind the camera. */
  private boolean onView(
      Pinhole p, TrackerSet t, int i, DrawContext c, double overX, double overY) {
    p.project(t, i, px);
    if (!(px[2] > 0)) {
      return false;
    }
    px[0] -= overX;
    px[1] -= overY;
    c.bend().to(px);
    px[0] = c.at().x(px[0]);
    px[1] = c.at().y(px[1]);
    return true;
  }
}
