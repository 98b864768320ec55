package flarvo.desktop.view;

import flarvo.desktop.state.Comparison;
import flarvo.desktop.state.Session;
import flarvo.desktop.theme.Palette;
import flarvo.desktop.theme.Theme;
import java.util.function.BiConsumer;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.effect.BlendMode;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;

/**
 * The picture with the shot and with what it is compared with: over each other, beside each other,
 * to both sides of an edge, in turn, or as what is left when one is taken from the other.
 */
final class ComparedDrawing {

  private final Session session;
  private final LayerList layers;
  private final BiConsumer<GraphicsContext, DrawContext> plate;
  private final BiConsumer<GraphicsContext, DrawContext> trackers;

  ComparedDrawing(
      Session session,
      LayerList layers,
      BiConsumer<GraphicsContext, DrawContext> plate,
      BiConsumer<GraphicsContext, DrawContext> trackers) {
    this.session = session;
    this.layers = layers;
    this.plate = plate;
    this.trackers = trackers;
  }

  /**
   * @param c of the whole view, or of its left half where both stand beside each other
   * @param w of the view; {@code h} likewise
   */
  void draw(GraphicsContext g, DrawContext c, Comparison how, double w, double h) {
    switch (how) {
      case OVERLAID -> {
        plate.accept(g, c);
        own(g, c);
        layers.draw(Layer.Side.OTHER, g, c);
      }
      case BLINK -> {
        plate.accept(g, c);
        boolean other = session.view().otherShown().get();
        if (other) {
          layers.draw(Layer.Side.OTHER, g, c);
        } else {
          own(g, c);
        }
        caption(g, c, other ? Layer.Side.OTHER : Layer.Side.OWN, c.at().left());
      }
      case WIPE -> wipe(g, c, w, h);
      case BESIDE -> beside(g, c, w, h);
      case DIFFERENCE -> difference(g, c);
    }
  }

  private void own(GraphicsContext g, DrawContext c) {
    trackers.accept(g, c);
    layers.draw(Layer.Side.OWN, g, c);
  }

  private void wipe(GraphicsContext g, DrawContext c, double w, double h) {
    plate.accept(g, c);
    double picture = c.shot().picture().width() * c.at().scale();
    double edge = Math.floor(c.at().left() + session.view().divide().get() * picture);
    clipped(g, 0, edge, h, () -> own(g, c));
    clipped(g, edge, w, h, () -> layers.draw(Layer.Side.OTHER, g, c));
    g.setFill(c.palette().ink());
    g.fillRect(edge, c.at().top(), 1, c.shot().picture().height() * c.at().scale());
    clipped(g, 0, edge, h, () -> caption(g, c, Layer.Side.OWN, c.at().left()));
    clipped(g, edge, w, h, () -> caption(g, c, Layer.Side.OTHER, edge));
  }

  private void beside(GraphicsContext g, DrawContext c, double w, double h) {
    double half = Math.floor(w / 2);
    clipped(
        g,
        0,
        half,
        h,
        () -> {
          plate.accept(g, c);
          own(g, c);
          caption(g, c, Layer.Side.OWN, Math.max(0, c.at().left()));
        });
    DrawContext there = c.movedRight(w / 2);
    clipped(
        g,
        half,
        w,
        h,
        () -> {
          plate.accept(g, there);
          layers.draw(Layer.Side.OTHER, g, there);
          caption(g, there, Layer.Side.OTHER, Math.max(half, there.at().left()));
        });
    g.setFill(c.palette().lines());
    g.fillRect(half, 0, 1, h);
  }

  /** Both sides draw alike here, so that nothing is left where they agree. */
  private void difference(GraphicsContext g, DrawContext c) {
    double s = c.at().scale();
    g.setFill(Color.BLACK);
    g.fillRect(
        c.at().left(),
        c.at().top(),
        c.shot().picture().width() * s,
        c.shot().picture().height() * s);
    layers.draw(Layer.Side.OWN, g, c);
    BlendMode before = g.getGlobalBlendMode();
    g.setGlobalBlendMode(BlendMode.DIFFERENCE);
    layers.draw(Layer.Side.OTHER, g, c);
    g.setGlobalBlendMode(before);
  }

  private static void clipped(
      GraphicsContext g, double from, double to, double h, Runnable drawing) {
    g.save();
    CanvasPane.clip(g, from, 0, to, h);
    drawing.run();
    g.restore();
  }

  private void caption(GraphicsContext g, DrawContext c, Layer.Side side, double left) {
    String text = layers.caption(side);
    if (text.isEmpty()) {
      return;
    }
    Palette p = c.palette();
    double top = Math.max(0, c.at().top());
    g.setFont(Font.font(Theme.WORDS, 12));
    g.setFill(p.panel().deriveColor(0, 1, 1, 0.85));
    g.fillRect(left + 8, top + 8, text.length() * 6.2 + 14, 20);
    g.setFill(p.ink());
    g.fillText(text, left + 15, top + 22);
  }
}
