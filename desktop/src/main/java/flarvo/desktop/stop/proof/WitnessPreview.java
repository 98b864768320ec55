package flarvo.desktop.stop.proof;

import flarvo.decision.ShotState;
import flarvo.desktop.state.Session;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Layer;
import flarvo.desktop.work.Lane;
import flarvo.plate.Raster;
import java.util.List;
import java.util.Optional;
import javafx.beans.Observable;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.image.Image;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;

/** The witness picture of the current frame in the picture's place, as rendering would make it. */
public final class WitnessPreview implements Layer {

  /**
   * @param of what it was made from
   */
  private record Made(ShotState of, int frame, Image image) {}

  private final Session session;
  private final BooleanProperty on = new SimpleBooleanProperty();
  private final BooleanProperty keyed = new SimpleBooleanProperty();
  private final ObjectProperty<Made> made = new SimpleObjectProperty<>();
  private boolean shown;

  WitnessPreview(Session session) {
    this.session = session;
    on.addListener((o, a, b) -> ask());
    keyed.addListener((o, a, b) -> ask());
    session.state().addListener((o, a, b) -> ask());
    session.playhead().frame().addListener((o, a, b) -> ask());
    session.playhead().playing().addListener((o, a, b) -> ask());
  }

  /** Whether it is asked for. */
  BooleanProperty on() {
    return on;
  }

  /** Whether keyed plates lie over it. */
  BooleanProperty keyed() {
    return keyed;
  }

  /** What is shown; empty while it is not made. */
  public Optional<Image> image() {
    return Optional.ofNullable(made.get()).map(Made::image);
  }

  /** Whether the picture is one of this stop; nothing is rendered for another. */
  void setShown(boolean is) {
    shown = is;
    ask();
  }

  private void ask() {
    ShotState s = session.state().get();
    int frame = session.playhead().frame().get();
    if (!on.get() || !shown || !session.isOpen() || s.shot().camera().isEmpty()) {
      session.jobs().drop(this);
      made.set(null);
      return;
    }
    if (session.playhead().playing().get()) {
      return; // a frame cannot be drawn as fast as it is shown
    }
    boolean over = keyed.get();
    session
        .jobs()
        .newest(
            this,
            Lane.MEASURE,
            "Rendering frame " + frame,
            p -> new Made(s, frame, image(WitnessPart.job(s, over).witness(frame, p))),
            made::set,
            why -> {
              made.set(null);
              session.message().set(why);
            });
  }

  private static Image image(Raster r) {
    byte[] rgb = new byte[r.values().length];
    for (int i = 0; i < rgb.length; i++) {
      rgb[i] = (byte) Math.round(255 * r.values()[i]);
    }
    WritableImage to = new WritableImage(r.width(), r.height());
    to.getPixelWriter()
        .setPixels(
            0, 0, r.width(), r.height(), PixelFormat.getByteRgbInstance(), rgb, 0, 3 * r.width());
    return to;
  }

  @Override
  public Depth depth() {
    return Depth.UNDER;
  }

  @Override
  public List<Observable> dependsOn() {
    return List.of(made);
  }

  @Override
  @SuppressWarnings("ReferenceEquality") // states never change
  public void draw(GraphicsContext g, DrawContext c) {
    Made m = made.get();
    if (m == null || m.frame() != c.frame() || m.of() != session.state().get()) {
      return;
    }
    double w = m.image().getWidth() * c.at().scale();
    double h = m.image().getHeight() * c.at().scale();
    // Plates with overscan are larger on all sides.
    double x = (w - c.shot().picture().width() * c.at().scale()) / 2;
    double y = (h - c.shot().picture().height() * c.at().scale()) / 2;
    g.drawImage(m.image(), c.at().left() - x, c.at().top() - y, w, h);
  }
}
