package flarvo.desktop.stop.level;

import flarvo.desktop.state.Session;
import flarvo.desktop.theme.Palette;
import flarvo.desktop.view.Labels;
import flarvo.desktop.view.Projector;
import flarvo.desktop.view.WorldDrawing;
import flarvo.level.Stated;
import flarvo.level.Statement;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import flarvo.stage.Solid;
import flarvo.stage.Staging;
import flarvo.stage.StandIn;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;

/** Everything of Level in one view: what is stated, gauges, stand-ins, locators, handles. */
final class LevelLayer {

  private static final double FOOT_PX = 9;

  private final Session session;
  private final LevelWork level;
  private final BuildWork build;
  private final Handles handles;
  private final Labels labels = new Labels();
  private final double[] px = new double[3];

  LevelLayer(Session session, LevelWork level, BuildWork build, Handles handles) {
    this.session = session;
    this.level = level;
    this.build = build;
    this.handles = handles;
  }

  /**
   * @param to through the level that is shown
   * @param held the handle that is dragged; may be null
   */
  void draw(GraphicsContext g, Palette p, Projector to, Handles.Handle held) {
    Similarity shown = level.shown();
    Staging s = level.staging();
    labels.clear();
    if (session.view().handlesShown().get()) {
      handles.draw(g, p, to, held, labels);
    }
    placed(g, p, to, shown, s);
    stated(g, p, to, shown, s);
  }

  private void placed(GraphicsContext g, Palette p, Projector to, Similarity shown, Staging s) {
    WorldDrawing w = new WorldDrawing(g, to);
    List<Solid> standIns = new ArrayList<>();
    for (StandIn i : s.standIns()) {
      standIns.add(Solid.of(i.mesh().under(shown)));
    }
    String chosen = build.chosen().get();
    for (int i = 0; i < standIns.size(); i++) {
      String name = s.standIns().get(i).name();
      Color c = name.equals(chosen) ? p.ink() : Color.web("#8FA8E8");
      w.solid(standIns.get(i), c, 0.12, standIns);
      name(g, p, to, standIns.get(i).faces().get(0).get(0), name);
    }
    Map<String, Vec3> places = level.scene().places();
    List<Solid> before = new ArrayList<>(standIns);
    List<Solid> gauges = new ArrayList<>();
    for (Gauge q : s.gauges()) {
      gauges.add(q.following(places).solid(shown));
    }
    before.addAll(gauges);
    for (int i = 0; i < gauges.size(); i++) {
      Gauge q = s.gauges().get(i);
      Solid solid = gauges.get(i);
      Color c = q.name().equals(chosen) ? p.ink() : p.attention();
      w.solid(solid, c, 0.45, before);
      name(g, p, to, shown.apply(q.following(places).foot()), q.name());
    }
    g.setStroke(p.ink());
    g.setLineWidth(1);
    for (var l : s.locators()) {
      Vec3 at = shown.apply(places.getOrDefault(l.tracker(), l.place()));
      double r = l.metres() / 2;
      w.line(at.minus(new Vec3(r, 0, 0)), at.plus(new Vec3(r, 0, 0)));
      w.line(at.minus(new Vec3(0, r, 0)), at.plus(new Vec3(0, r, 0)));
      w.line(at.minus(new Vec3(0, 0, r)), at.plus(new Vec3(0, 0, r)));
      name(g, p, to, at, l.name());
    }
  }

  private void name(GraphicsContext g, Palette p, Projector to, Vec3 at, String name) {
    to.project(at, px);
    if (px[2] > 0) {
      labels.draw(g, p, name, px[0], px[1]);
    }
  }

  /** A short foot under what is stated to be on the ground; a line with its words for ways. */
  private void stated(GraphicsContext g, Palette p, Projector to, Similarity shown, Staging s) {
    Map<String, Vec3> places = level.scene().places();
    WorldDrawing w = new WorldDrawing(g, to);
    g.setLineWidth(1.6);
    for (Stated t : s.statements()) {
      if (!t.on()) {
        continue;
      }
      g.setStroke(p.accent());
      Mark mark = t.what().accept(MARKS);
      if (mark.isFoot()) {
        for (String n : t.what().trackers()) {
          Vec3 v = places.get(n);
          if (v != null) {
            to.project(shown.apply(v), px);
            if (px[2] > 0) {
              g.strokeLine(px[0], px[1], px[0], px[1] + FOOT_PX);
              g.strokeLine(px[0] - 4, px[1] + FOOT_PX, px[0] + 4, px[1] + FOOT_PX);
            }
          }
        }
      } else if (mark.isLine()) {
        Vec3 a = places.get(t.what().trackers().get(0));
        Vec3 b = places.get(t.what().trackers().get(1));
        if (a != null && b != null) {
          w.line(shown.apply(a), shown.apply(b));
          name(g, p, to, shown.apply(a.plus(b.minus(a).times(mark.at()))), mark.words());
        }
      }
    }
  }

  /**
   * How a statement is shown.
   *
   * @param words beside a line
   * @param at where along the line the words stand, 0 to 1
   */
  private record Mark(boolean isFoot, boolean isLine, String words, double at) {
    static final Mark NONE = new Mark(false, false, "", 0);
    static final Mark FOOT = new Mark(true, false, "", 0);

    static Mark line(String words) {
      return new Mark(false, true, words, 0.4);
    }
  }

  private static final Statement.Visitor<Mark> MARKS =
      new Statement.Visitor<>() {
        @Override
        public Mark at(Statement.At s) {
          return Mark.NONE;
        }

        @Override
        public Mark along(Statement.Along s) {
          // Not on the words of a distance between the same two.
          return new Mark(false, true, s.axis().toString(), 0.85);
        }

        @Override
        public Mark onGround(Statement.OnGround s) {
          return Mark.FOOT;
        }

        @Override
        public Mark onWall(Statement.OnWall s) {
          return Mark.NONE;
        }

        @Override
        public Mark distance(Statement.Distance s) {
          return Mark.line(String.format(Locale.ROOT, "%.3f m", s.metres()));
        }

        @Override
        public Mark vertical(Statement.Vertical s) {
          return Mark.line("upright");
        }
      };
}
