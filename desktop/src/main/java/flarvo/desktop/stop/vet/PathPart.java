package flarvo.desktop.stop.vet;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.scene.FrameRange;
import java.util.Optional;
import java.util.TreeSet;
import javafx.scene.control.Button;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Mending the path in chosen frames. */
public final class PathPart extends VBox {

  private static final int PASSES = 8;
  private static final int MOST_FRAMES = 100_000;

  private final Session session;
  private final VetWork vet;
  private final TextField frames = new TextField();
  private final TextField limit = new TextField("0.5");

  PathPart(Session session, VetWork vet) {
    super(6);
    this.session = session;
    this.vet = vet;
    frames.setPromptText("1010-1016");
    frames.setId("path-frames");
    frames.setAccessibleText("Frames to repair, such as 1010-1016, 1020");
    frames.getStyleClass().addAll("small-field", "number");
    frames.setPrefWidth(112);
    limit.setId("path-limit");
    limit.setAccessibleText("Largest shift of the picture by smoothing, in pixels");
    limit.getStyleClass().addAll("small-field", "number");
    limit.setPrefWidth(54);
    Button jumps = new Button("Jumps");
    jumps.setMinWidth(Region.USE_PREF_SIZE);
    jumps.getStyleClass().add("small-button");
    jumps.setOnAction(
        e -> {
          if (vet.measures().get() != null) {
            frames.setText(
                String.join(
                    ", ",
                    vet.measures().get().jumps().outliers().stream()
                        .map(Object::toString)
                        .toList()));
          }
        });
    Button smooth = new Button("Smooth");
    smooth.setId("path-smooth");
    smooth.getStyleClass().add("small-button");
    smooth.setOnAction(e -> smooth());
    Button bridge = new Button("Delete and bridge");
    bridge.setId("path-bridge");
    bridge.getStyleClass().add("small-button");
    bridge.setOnAction(e -> chosen().ifPresent(vet::bridge));
    getChildren()
        .addAll(
            Desk.heading("Path"),
            Desk.row("Frames", new HBox(6, frames, jumps)),
            Desk.row("max. shift, px", limit),
            new HBox(6, smooth, bridge));
  }

  private void smooth() {
    Optional<TreeSet<Integer>> c = chosen();
    String t = limit.getText().trim().replaceAll("\\s*px$", "");
    if (!t.matches("[0-9]*\\.?[0-9]+") || !(Double.parseDouble(t) > 0)) {
      session.message().set("Enter the largest shift in pixels, such as 0.5");
      return;
    }
    c.ifPresent(
        s -> vet.smooth(new FrameRange(s.first(), s.last()), PASSES, Double.parseDouble(t)));
  }

  /** Ranges and single frames; empty, with a word to the user, where it is none. */
  private Optional<TreeSet<Integer>> chosen() {
    TreeSet<Integer> out = new TreeSet<>();
    try {
      for (String part : frames.getText().trim().split("[,;\\s]+")) {
        FrameRange r = range(part);
        if (r.count() > MOST_FRAMES) {
          throw new NumberFormatException();
        }
        for (int f = r.first(); f <= r.last(); f++) {
          out.add(f);
        }
      }
      return Optional.of(out);
    } catch (IllegalArgumentException e) {
      session.message().set("Enter frames as 1010-1016, 1020");
      return Optional.empty();
    }
  }

  private static FrameRange range(String part) {
    int dash = part.indexOf('-', 1);
    return dash < 0
        ? new FrameRange(Integer.parseInt(part), Integer.parseInt(part))
        : new FrameRange(
            Integer.parseInt(part.substring(0, dash)), Integer.parseInt(part.substring(dash + 1)));
  }
}
