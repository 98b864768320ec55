package flarvo.desktop.view;

import flarvo.desktop.state.Session;
import flarvo.desktop.theme.Theme;
import flarvo.scene.PlateSequence;
import flarvo.scene.WorldShot;
import java.util.Optional;
import javafx.scene.canvas.GraphicsContext;
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
    Optional<PlateSequence> plates = plates(c.shot());
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
        g.drawImage(image, at.left(), at.top(), w, h);
      } else if (cache.hasFailed(plates.get(), c.frame())) {
        words = "The plate for frame " + c.frame() + " cannot be read; request a new copy";
      }
    }
    if (!words.isEmpty()) {
      g.setFill(c.palette().quiet());
      g.setFont(Font.font(Theme.WORDS, 13));
      g.fillText(words, at.left() + 16, at.top() + 28);
    }
  }
}
