package flarvo.desktop.view;

import java.util.ArrayList;
import java.util.List;
import javafx.beans.InvalidationListener;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;

/** The layers that the shown stop draws into a view, followed while it is shown. */
final class LayerList {

  private final Runnable under;
  private final Runnable over;
  private final List<Layer> layers = new ArrayList<>();
  private final List<Runnable> ties = new ArrayList<>();

  /**
   * @param under asked to draw the lower depth again
   */
  LayerList(Runnable under, Runnable over) {
    this.under = under;
    this.over = over;
  }

  void set(List<Layer> next) {
    ties.forEach(Runnable::run);
    ties.clear();
    layers.clear();
    layers.addAll(next);
    for (Layer l : next) {
      Runnable again = l.depth() == Layer.Depth.UNDER ? under : over;
      for (Observable o : l.dependsOn()) {
        InvalidationListener told = x -> again.run();
        o.addListener(told);
        ties.add(() -> o.removeListener(told));
      }
    }
    under.run();
    over.run();
  }

  void draw(Layer.Depth depth, GraphicsContext g, DrawContext c) {
    for (Layer l : layers) {
      if (l.depth() == depth && l.side() == Layer.Side.NONE) {
        l.draw(g, c);
      }
    }
  }

  /** Whether a stop compares the shot with something now. */
  boolean compares() {
    return layers.stream().anyMatch(l -> l.side() == Layer.Side.OTHER && l.compares());
  }

  void draw(Layer.Side side, GraphicsContext g, DrawContext c) {
    for (Layer l : layers) {
      if (l.side() == side) {
        l.draw(g, c);
      }
    }
  }

  String caption(Layer.Side side) {
    return layers.stream().filter(l -> l.side() == side).map(Layer::caption).findFirst().orElse("");
  }
}
