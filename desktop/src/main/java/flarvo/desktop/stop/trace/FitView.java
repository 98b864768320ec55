package flarvo.desktop.stop.trace;

import flarvo.decision.ShotState;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.work.Lane;
import flarvo.plate.PlateLuma;
import flarvo.scene.PlateSequence;
import flarvo.trace.HandFeature;
import flarvo.trace.PatternLook;
import flarvo.trace.PlatePixels;
import java.util.Locale;
import java.util.Optional;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.image.ImageView;
import javafx.scene.image.WritableImage;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/**
 * The pattern of the selected feature as it was marked, beside what is found on the shown frame,
 * and how well that fits.
 */
final class FitView extends HBox {

  private static final double SIZE = 76;

  private final Session session;
  private final TraceBench bench;
  private final HandBench hand;
  private final ImageView marked = picture("As it was marked");
  private final ImageView now = picture("On this frame, turned and scaled as it fits best");
  private final Label words = Desk.wrapped();

  FitView(Session session, TraceBench bench) {
    super(8);
    this.session = session;
    this.bench = bench;
    hand = bench.hand();
    words.setId("trace-fit");
    getChildren().addAll(marked, now, new VBox(words));
    hand.selected().addListener((o, a, b) -> ask());
    session.state().addListener((o, a, b) -> ask());
    session.playhead().frame().addListener((o, a, b) -> ask());
    session.playhead().playing().addListener((o, a, b) -> ask());
    sceneProperty().addListener((o, a, b) -> ask());
    show(false);
  }

  private static ImageView picture(String what) {
    ImageView v = new ImageView();
    v.setFitWidth(SIZE);
    v.setFitHeight(SIZE);
    v.setSmooth(false);
    v.setAccessibleText(what);
    Tooltip.install(v, new Tooltip(what));
    return v;
  }

  private void show(boolean visible) {
    setVisible(visible);
    setManaged(visible);
  }

  private void ask() {
    Optional<HandFeature> feature = hand.feature();
    ShotState s = session.state().get();
    Optional<PlateSequence> plates = feature.flatMap(h -> s.shot().plate(h.plates()));
    if (plates.isEmpty() || getScene() == null || session.playhead().playing().get()) {
      session.jobs().drop(this);
      show(false);
      return;
    }
    HandFeature h = feature.get();
    HandFeature inPlates = PlatePixels.of(plates.get(), session.solved().picture()).toPlates(h);
    int frame = bench.frame();
    session
        .jobs()
        .newest(
            this,
            Lane.MEASURE,
            "Comparing " + h.name() + " with its mark",
            p -> PatternLook.of(inPlates, frame, f -> PlateLuma.of(plates.get(), f)),
            look -> show(h, frame, look),
            why -> show(false));
  }

  private void show(HandFeature h, int frame, Optional<PatternLook> look) {
    show(true);
    marked.setVisible(look.isPresent());
    now.setVisible(look.isPresent());
    marked.setManaged(look.isPresent());
    now.setManaged(look.isPresent());
    if (look.isEmpty()) {
      words.setText(h.name() + " is not seen on frame " + frame + ", or at the picture's edge");
      return;
    }
    PatternLook l = look.get();
    float least = Float.MAX_VALUE;
    float most = -Float.MAX_VALUE;
    for (float v : l.marked()) {
      least = Math.min(least, v);
      most = Math.max(most, v);
    }
    marked.setImage(image(l.marked(), l.side(), least, most));
    now.setImage(image(l.now(), l.side(), least, most));
    words.setText(
        String.format(
            Locale.ROOT, "marked on %d%nfits %.2f on %d", l.markedOn(), l.correlation(), frame));
  }

  /** Grey from the darkest to the brightest of the mark. */
  private static WritableImage image(float[] v, int side, float least, float most) {
    WritableImage out = new WritableImage(side, side);
    float span = Math.max(1e-3f, most - least);
    for (int i = 0; i < v.length; i++) {
      int c = (int) Math.max(0, Math.min(255, 255 * (v[i] - least) / span));
      out.getPixelWriter().setArgb(i % side, i / side, 0xFF000000 | c << 16 | c << 8 | c);
    }
    return out;
  }
}
