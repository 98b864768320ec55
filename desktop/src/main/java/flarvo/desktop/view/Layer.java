package flarvo.desktop.view;

import java.util.List;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;

/** Something that is drawn into a view. */
public interface Layer {

  /** Over what it lies. What changes often lies over what is costly to draw. */
  enum Depth {
    /** With plate and trackers. */
    UNDER,
    /** Over them. */
    OVER
  }

  Depth depth();

  /** What it is drawn again for, beside shot, frame, selection and view. */
  List<Observable> dependsOn();

  void draw(GraphicsContext g, DrawContext c);
}
