package flarvo.desktop.view;

import flarvo.desktop.state.Session;
import flarvo.desktop.theme.Theme;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.WorldShot;
import java.util.Optional;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.effect.BlendMode;
import javafx.scene.image.Image;
import javafx.scene.text.Font;

/** The plate of a frame, or the words that say why there is none. */
final class PlateDrawing {

  private final Session session;
  private final PlateCache cache;

  PlateDrawing(Session session, PlateCache cache) {
    this.session = session;
    this.cache = cache;
  }

  /**
   * Up to which pixel from the left the original plate is shown: 0 where the undistorted one is,
   * infinite where the original is in all of it.
   */
  double originalUntil(WorldShot shot) {
    if (wipes(shot)) {
      return session.view().wipe().get() * shot.picture().width();
    }
    if (differs(shot)) {
      return 0;
    }
    return plates(shot).filter(p -> p.role() == PlateRole.ORIGINAL).isPresent()
        ? Double.POSITIVE_INFINITY
        : 0;
  }

  private boolean wipes(WorldShot shot) {
    return session.view().wipe().get() >= 0 && hasBoth(shot);
  }

  private boolean differs(WorldShot shot) {
    return session.view().difference().get() && hasBoth(shot);
  }

  private static boolean hasBoth(WorldShot shot) {
    return shot.plate(PlateRole.ORIGINAL).isPresent()
        && shot.plate(PlateRole.UNDISTORTED).isPresent();
  }

  /** The plates that were asked for; others where the shot has none of that role. */
  private Optional<PlateSequence> plates(WorldShot shot) {
    return shot.plate(session.view().plateRole().get())
        .or(() -> shot.plates().stream().findFirst());
  }

  /** Null while the plate is not here. */
  Image image(WorldShot shot, int frame) {
    return plates(shot)
        .filter(x -> x.frames().contains(frame))
        .map(x -> cache.get(x, frame))
        .orElse(null);
  }

  /**
   * @param sharp whether pixels are shown as squares
   */
  void draw(GraphicsContext g, DrawContext c, boolean sharp) {
    Placed at = c.at();
    double w = c.shot().picture().width() * at.scale();
    double h = c.shot().picture().height() * at.scale();
    g.setFill(c.palette().panel());
    g.fillRect(at.left(), at.top(), w, h);
    if (!session.view().platesShown().get()) {
      return;
    }
    if (wipes(c.shot())) {
      double x = Math.min(1, session.view().wipe().get()) * w;
      part(g, c, c.shot().plate(PlateRole.UNDISTORTED), sharp, x, w);
      part(g, c, c.shot().plate(PlateRole.ORIGINAL), sharp, 0, x);
      return;
    }
    if (differs(c.shot())) {
      part(g, c, c.shot().plate(PlateRole.UNDISTORTED), sharp, 0, w);
      BlendMode before = g.getGlobalBlendMode();
      g.setGlobalBlendMode(BlendMode.DIFFERENCE);
      part(g, c, c.shot().plate(PlateRole.ORIGINAL), sharp, 0, w);
      g.setGlobalBlendMode(before);
      return;
    }
    part(g, c, plates(c.shot()), sharp, 0, w);
  }

  /** What lies between two places of the picture, counted from its left edge in the view. */
  private void part(
      GraphicsContext g,
      DrawContext c,
      Optional<PlateSequence> plates,
      boolean sharp,
      double from,
      double to) {
    Placed at = c.at();
    double w = c.shot().picture().width() * at.scale();
    double h = c.shot().picture().height() * at.scale();
    // Overscan lies round the picture, at its outer edges only.
    double overX = plates.map(PlateSequence::overscanX).orElse(0.0) * at.scale();
    double overY = plates.map(PlateSequence::overscanY).orElse(0.0) * at.scale();
    double wide =
        plates.map(p -> p.inner().isEmpty() ? w : p.size().width() * at.scale()).orElse(w);
    double high =
        plates.map(p -> p.inner().isEmpty() ? h : p.size().height() * at.scale()).orElse(h);
    double left = from > 0 ? from : Math.min(0, -overX);
    double right = to < w ? to : Math.max(w, wide - overX);
    double top = Math.min(0, -overY);
    g.save();
    CanvasPane.clip(
        g,
        at.left() + left,
        at.top() + top,
        at.left() + right,
        at.top() + Math.max(h, high - overY));
    String words = "";
    if (plates.isEmpty()) {
      words = "No plates. Drop the folder of an image sequence here.";
    } else if (!plates.get().frames().contains(c.frame())
        || plates.get().missing().contains(c.frame())) {
      words = "No plate for frame " + c.frame();
    } else {
      Image image = cache.get(plates.get(), c.frame());
      if (image != null) {
        g.setImageSmoothing(!sharp);
        g.drawImage(image, at.left() - overX, at.top() - overY, wide, high);
      } else if (cache.hasFailed(plates.get(), c.frame())) {
        words = "The plate for frame " + c.frame() + " cannot be read; request a new copy";
      }
    }
    if (!words.isEmpty()) {
      g.setFill(c.palette().quiet());
      g.setFont(Font.font(Theme.WORDS, 13));
      g.fillText(words, at.left() + from + 16, at.top() + 28);
    }
    g.restore();
  }
}
