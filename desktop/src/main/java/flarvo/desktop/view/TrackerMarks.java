package flarvo.desktop.view;

import flarvo.desktop.theme.Palette;
import flarvo.vet.TrackerGroup;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.Map;
import javafx.scene.SnapshotParameters;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.image.Image;
import javafx.scene.paint.Color;

/**
 * Many marks in one go: whiskers as one path a state, and, where there are very many, rings and
 * dots as stamps on whole pixels, which cost a tenth of a drawn ring.
 */
public final class TrackerMarks {

  /** From so many on, marks are stamped. */
  private static final int MANY = 400;

  private final Map<TrackerMark.State, Path> whiskers = new EnumMap<>(TrackerMark.State.class);
  private final Map<TrackerMark.State, Path> rings = new EnumMap<>(TrackerMark.State.class);
  private final Map<Look, Path> dots = new HashMap<>();
  private final Map<Look, Image> dotStamps = new HashMap<>();
  private final Map<TrackerMark.State, Image> stamps = new EnumMap<>(TrackerMark.State.class);
  private Palette palette;
  private Palette stamped;
  private boolean many;

  /** Shape and colour of a dot. */
  private record Look(TrackerGroup.Dot dot, int tint) {}

  private static final Look PLAIN = new Look(TrackerGroup.Dot.DISC, 0);

  /** Numbers that grow as they come and are used again. */
  private static final class Path {
    private double[] v = new double[256];
    private int n;

    void add(double x, double y) {
      if (n + 2 > v.length) {
        v = java.util.Arrays.copyOf(v, 2 * v.length);
      }
      v[n++] = x;
      v[n++] = y;
    }
  }

  TrackerMarks() {
    for (TrackerMark.State s : TrackerMark.State.values()) {
      whiskers.put(s, new Path());
      rings.put(s, new Path());
    }
  }

  /**
   * @param count of marks to expect
   */
  void begin(Palette p, int count) {
    palette = p;
    many = count > MANY;
    dots.values().forEach(d -> d.n = 0);
    whiskers.values().forEach(w -> w.n = 0);
    rings.values().forEach(r -> r.n = 0);
  }

  /**
   * Where a tracker was seen, and the stretched way to where the solve puts it.
   *
   * @param group says how the dot looks; null for the plain one
   */
  void observed(
      double ox,
      double oy,
      double x,
      double y,
      double stretch,
      TrackerMark.State state,
      TrackerGroup group) {
    Path w = whiskers.get(state);
    w.add(ox, oy);
    w.add(ox + (x - ox) * stretch, oy + (y - oy) * stretch);
    Look look = group == null ? PLAIN : new Look(group.dot(), group.tint());
    dots.computeIfAbsent(look, k -> new Path()).add(ox, oy);
  }

  void ring(double x, double y, TrackerMark.State state) {
    rings.get(state).add(x, y);
  }

  void draw(GraphicsContext g) {
    g.setLineWidth(1);
    whiskers.forEach(
        (state, w) -> {
          if (w.n > 0) {
            g.setStroke(TrackerMark.colour(state, palette));
            g.beginPath();
            for (int i = 0; i < w.n; i += 4) {
              g.moveTo(w.v[i], w.v[i + 1]);
              g.lineTo(w.v[i + 2], w.v[i + 3]);
            }
            g.stroke();
          }
        });
    dots.forEach((look, d) -> dots(g, look, d));
    rings.forEach(
        (state, r) -> {
          Image stamp = many && r.n > 0 ? stamp(state) : null;
          for (int i = 0; i < r.n; i += 2) {
            if (many) {
              g.drawImage(
                  stamp,
                  Math.rint(r.v[i]) - stamp.getWidth() / 2,
                  Math.rint(r.v[i + 1]) - stamp.getHeight() / 2);
            } else {
              TrackerMark.ring(g, palette, r.v[i], r.v[i + 1], state, false);
            }
          }
        });
  }

  private void dots(GraphicsContext g, Look look, Path d) {
    g.setFill(DotMark.colour(look.tint()));
    boolean plain = look.equals(PLAIN);
    for (int i = 0; i < d.n; i += 2) {
      if (!many) {
        DotMark.fill(g, look.dot(), d.v[i], d.v[i + 1], DotMark.RADIUS);
      } else if (plain) {
        g.fillRect(Math.rint(d.v[i]) - 1, Math.rint(d.v[i + 1]) - 1, 2, 2);
      } else {
        Image s = dotStamps.computeIfAbsent(look, TrackerMarks::dotStamp);
        double half = s.getWidth() / 2;
        g.drawImage(s, Math.rint(d.v[i]) - half, Math.rint(d.v[i + 1]) - half);
      }
    }
  }

  private static Image dotStamp(Look look) {
    Canvas c = new Canvas(10, 10);
    c.getGraphicsContext2D().setFill(DotMark.colour(look.tint()));
    DotMark.fill(c.getGraphicsContext2D(), look.dot(), 5, 5, DotMark.RADIUS);
    SnapshotParameters clear = new SnapshotParameters();
    clear.setFill(Color.TRANSPARENT);
    return c.snapshot(clear, null);
  }

  @SuppressWarnings("ReferenceEquality")
  private Image stamp(TrackerMark.State state) {
    if (stamped != palette) {
      stamped = palette;
      stamps.clear();
    }
    return stamps.computeIfAbsent(
        state,
        s -> {
          // No larger than needed: all of a stamp's pixels are blended, the empty ones too.
          Canvas c = new Canvas(2 * TrackerMark.acrossPx(s), 2 * TrackerMark.downPx(s));
          TrackerMark.ring(
              c.getGraphicsContext2D(), palette, c.getWidth() / 2, c.getHeight() / 2, s, false);
          SnapshotParameters clear = new SnapshotParameters();
          clear.setFill(Color.TRANSPARENT);
          return c.snapshot(clear, null);
        });
  }
}
