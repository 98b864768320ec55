package flarvo.desktop.stop.level;

import flarvo.decision.MotionDecision;
import flarvo.decision.MovingObject;
import flarvo.decision.ShotState;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.desktop.stop.Tips;
import flarvo.motion.ObjectScale;
import flarvo.motion.ObjectSolve;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.scene.Vec3;
import java.io.File;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;
import java.util.Set;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Slider;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** Objects that move by themselves: their solves are put in, and their scale is stated or slid. */
public final class MovingPart extends VBox {

  /** Each way, as a power of ten. */
  private static final double REACH = 2;

  private final Session session;
  private final VBox all = new VBox(8);
  private List<MovingObject> shown = List.of();

  MovingPart(Session session) {
    super(8);
    setId("moving");
    this.session = session;
    Button add = Fields.button("moving-add", "Add object solve…", this::choose);
    Tips.on(add, "A solve of this shot that was made on an object: its camera and points");
    getChildren().addAll(Desk.heading("Moving objects"), add, all);
    session.state().addListener((o, a, b) -> fill());
    fill();
  }

  private void choose() {
    FileChooser c = new FileChooser();
    c.setTitle("Camera and points of the object's solve");
    List<File> files = c.showOpenMultipleDialog(getScene().getWindow());
    if (files != null) {
      add(files.stream().map(File::toPath).toList());
    }
  }

  /** Puts a solve in, called like its first file; its scale is to be settled. */
  public void add(List<Path> files) {
    String stem = files.get(0).getFileName().toString().replaceFirst("\\.[^.]*$", "");
    Set<String> taken =
        session.state().get().objects().stream()
            .map(MovingObject::name)
            .collect(java.util.stream.Collectors.toSet());
    String name = stem;
    for (int i = 2; taken.contains(name); i++) {
      name = stem + i;
    }
    session
        .store()
        .decide(new MotionDecision.AddMovingObject(name, files, new ObjectScale.Factor(1)));
  }

  private void fill() {
    ShotState s = session.state().get();
    if (s.objects().equals(shown) && all.getChildren().size() == shown.size()) {
      return;
    }
    shown = s.objects();
    all.getChildren().setAll(shown.stream().map(o -> box(s, o)).toList());
  }

  /** The scale as the statement settles it; empty where it does not. */
  private static OptionalDouble scale(ShotState s, MovingObject o) {
    try {
      // The object's scale does not depend on what else moves.
      Shot scene = s.vetting().applied(s.whole());
      return OptionalDouble.of(o.scale().of(ObjectSolve.of(scene, o.solve())));
    } catch (InputError e) {
      return OptionalDouble.empty();
    }
  }

  /** A place that is stated need not lie where the tracker is seen. */
  private static String miss(ShotState s, MovingObject o) {
    if (!(o.scale() instanceof ObjectScale.At at)) {
      return "";
    }
    try {
      Shot scene = s.vetting().applied(s.whole());
      double metres = at.missMetres(ObjectSolve.of(scene, o.solve()));
      return String.format(Locale.ROOT, "; its line of sight misses that by %.3f m", metres);
    } catch (InputError e) {
      return "";
    }
  }

  private VBox box(ShotState s, MovingObject o) {
    Label name = new Label(o.name());
    name.getStyleClass().add("card-title");
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    Button remove =
        Fields.button(
            "moving-remove-" + o.name(),
            "Remove",
            () -> session.store().decide(new MotionDecision.RemoveMovingObject(o.name())));
    double k = scale(s, o).orElse(1);
    boolean stated = !(o.scale() instanceof ObjectScale.Factor);
    Label says = Desk.wrapped();
    String why =
        stated
            ? o.scale().words()
            : "not settled: one camera sees the same near and small, or far and large";
    says.setText(String.format(Locale.ROOT, "Scale %.5g: %s.", k, why + miss(s, o)));
    says.setId("moving-says-" + o.name());
    Slider slide = new Slider(-REACH, REACH, 0);
    slide.setId("moving-scale-" + o.name());
    slide.setAccessibleText("Scale of " + o.name());
    Tips.on(slide, "Nearer and smaller, or farther and larger; the picture stays");
    slide.setBlockIncrement(0.02);
    slide
        .valueProperty()
        .addListener(
            (x, a, b) -> {
              if (!slide.isValueChanging()) {
                slid(o, k, b.doubleValue());
              }
            });
    slide
        .valueChangingProperty()
        .addListener(
            (x, a, b) -> {
              if (!b) {
                slid(o, k, slide.getValue());
              }
            });
    TextField length =
        Fields.small("moving-length-" + o.name(), "", "Two trackers of it and metres", 150);
    length.setPromptText("a b metres");
    TextField away = Fields.small("moving-away-" + o.name(), "", "A tracker of it and metres", 110);
    away.setPromptText("a metres");
    TextField place =
        Fields.small("moving-place-" + o.name(), "", "A tracker of it and where it is", 150);
    place.setPromptText("a x y z");
    Tips.on(place, "A tracker and its place at this frame, in metres of the levelled world");
    FlowPane ways =
        new FlowPane(
            6,
            6,
            length,
            Fields.button("moving-length-set-" + o.name(), "Set length", () -> length(o, length)),
            away,
            Fields.button("moving-away-set-" + o.name(), "Set distance", () -> away(o, away)),
            Fields.button("moving-ground-" + o.name(), "On the ground", () -> ground(o, away)),
            place,
            Fields.button("moving-place-set-" + o.name(), "Set place", () -> place(o, place)));
    VBox box = new VBox(6, new HBox(6, name, gap, remove), says, slide, ways);
    box.getStyleClass().addAll("card", stated ? "settled" : "open");
    return box;
  }

  private void slid(MovingObject o, double k, double power) {
    if (power != 0) {
      settle(o, new ObjectScale.Factor(k * Math.pow(10, power)));
    }
  }

  private void settle(MovingObject o, ObjectScale s) {
    session.store().decide(new MotionDecision.ScaleMovingObject(o.name(), s));
  }

  private void length(MovingObject o, TextField typed) {
    String[] p = typed.getText().strip().split("\\s+");
    try {
      settle(o, new ObjectScale.Length(p[0], p[1], Double.parseDouble(p[2])));
    } catch (NumberFormatException | ArrayIndexOutOfBoundsException e) {
      session.message().set("A length is two trackers and metres, such as t001 t007 0.58");
    }
  }

  private void away(MovingObject o, TextField typed) {
    String[] p = typed.getText().strip().split("\\s+");
    try {
      settle(o, new ObjectScale.Away(p[0], frame(), Double.parseDouble(p[1])));
    } catch (NumberFormatException | ArrayIndexOutOfBoundsException e) {
      session.message().set("A distance is a tracker and metres at this frame, such as t001 3.5");
    }
  }

  private void place(MovingObject o, TextField typed) {
    String[] p = typed.getText().strip().split("[\\s,]+");
    try {
      Vec3 at =
          new Vec3(Double.parseDouble(p[1]), Double.parseDouble(p[2]), Double.parseDouble(p[3]));
      settle(o, new ObjectScale.At(p[0], frame(), at));
    } catch (NumberFormatException | ArrayIndexOutOfBoundsException e) {
      session
          .message()
          .set("A place is a tracker and three lengths in metres, such as t001 1.2 0 -3");
    }
  }

  private void ground(MovingObject o, TextField typed) {
    String tracker = typed.getText().strip().split("\\s+")[0];
    if (tracker.isEmpty()) {
      session.message().set("Type the tracker that touches the ground at this frame");
      return;
    }
    settle(o, new ObjectScale.OnGround(tracker, frame()));
  }

  private int frame() {
    return session.playhead().frame().get();
  }
}
