package flarvo.desktop.stop.dispatch;

import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Tips;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Extract;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.motion.Framing;
import flarvo.motion.Held;
import flarvo.motion.Parent;
import flarvo.motion.Parents;
import flarvo.motion.Recast;
import flarvo.motion.Retime;
import flarvo.motion.Stand;
import flarvo.motion.ZoomOn;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.scene.Shot;
import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;
import javafx.util.StringConverter;

/**
 * How a delivery has the shot's motion, film and time: what stands still, zoom, picture, retime.
 */
public final class MotionPart extends VBox {

  private static final String AS_SOLVED = "as solved";
  private static final String CAMERA = "the camera";
  private static final String GROUP = "group ";
  private static final String WORLD = "the world";

  private final ComboBox<String> still = new ComboBox<>();
  private final TextField frame = new TextField();
  private final ComboBox<String> zoom = new ComboBox<>();
  private final ComboBox<String> cameraIn = new ComboBox<>();
  private final TextField parent = new TextField();
  private final CheckBox baked = new CheckBox("Bake groups to the world");
  private final TextField part = new TextField();
  private final TextField size = new TextField();
  private final Button load = new Button("Retime…");
  private final Button reverse = new Button("Reverse");
  private final Button plain = new Button("No retime");
  private final Button bake = new Button("Bake into the film back");
  private final HBox shift;
  private final Label says = Desk.wrapped();
  private final BiConsumer<UnaryOperator<Delivery>, String> change;
  private final Consumer<String> refuse;
  private Delivery shown;
  private Shot shot;
  private boolean filling;

  /**
   * @param change takes a change of a delivery, and what of it changes
   * @param refuse takes why something that was typed cannot be
   */
  MotionPart(BiConsumer<UnaryOperator<Delivery>, String> change, Consumer<String> refuse) {
    super(8);
    setId("delivery-motion");
    this.change = change;
    this.refuse = refuse;
    still.setId("delivery-still");
    still.setPrefWidth(128);
    still.setConverter(
        new StringConverter<>() {
          @Override
          public String toString(String item) {
            return item == null || !item.startsWith(GROUP) ? item : item.substring(GROUP.length());
          }

          @Override
          public String fromString(String item) {
            return item;
          }
        });
    Tips.on(still, "What stands still while the rest takes over its motion; the picture stays");
    still.setOnAction(e -> changeStill());
    frame.setId("delivery-still-frame");
    Tips.on(
        frame,
        "Plate frame at which it stands where it is; or a pose x,y,z,pan,tilt,roll in metres"
            + " and degrees; or another camera, whose motion it takes");
    frame.setAccessibleText("Where it stands: plate frame, pose or another camera");
    frame.setPrefColumnCount(5);
    frame.setOnAction(e -> changeStill());
    zoom.setId("delivery-zoom");
    zoom.setPrefWidth(186);
    zoom.getItems().setAll(Stream.of(ZoomOn.values()).map(ZoomOn::label).toList());
    Tips.on(zoom, "Which length changes when the camera zooms");
    zoom.setOnAction(e -> changeZoom());
    cameraIn.setId("delivery-camera-in");
    cameraIn.setPrefWidth(186);
    Tips.on(
        cameraIn, "The moving group that the camera is parented to; its keys are in that space");
    cameraIn.setOnAction(e -> changeParents());
    parent.setId("delivery-parent");
    parent.setPromptText("none");
    parent.setPrefColumnCount(14);
    Tips.on(
        parent,
        "Everything is parented to a node: name,scale, such as rig,100; then x,y,z in metres and"
            + " pan,tilt,roll");
    parent.setAccessibleText("Parent of everything: name and scale");
    parent.setOnAction(e -> changeParents());
    baked.setId("delivery-baked");
    Tips.on(baked, "Moving groups are not nested; their keys are in world space");
    baked.setOnAction(e -> changeParents());
    part.setId("delivery-crop");
    part.setPromptText("whole");
    part.setPrefColumnCount(9);
    Tips.on(part, "Part of the picture: left, top and size, such as 100,50,1600x900");
    part.setAccessibleText("Part of the picture");
    part.setOnAction(e -> changePicture());
    size.setId("delivery-size");
    size.setPrefColumnCount(8);
    Tips.on(size, "Resolution of the picture that is made");
    size.setAccessibleText("Resolution of the picture that is made");
    size.setOnAction(e -> changePicture());
    load.setId("delivery-retime");
    Tips.on(load, "A table of new frame and plate frame, a line each");
    load.setOnAction(e -> choose());
    reverse.setId("delivery-reverse");
    reverse.setOnAction(e -> reverse());
    plain.setId("delivery-no-retime");
    plain.setOnAction(e -> retime(Optional.empty()));
    bake.setId("delivery-bake-shift");
    Tips.on(
        bake,
        "For recipients that know no lens shift: picture and film back grow until the lens is"
            + " in their middle");
    bake.setOnAction(e -> bakeShift());
    shift = Desk.row("Lens shift", bake);
    shift.managedProperty().bind(shift.visibleProperty());
    for (Button b : List.of(load, reverse, plain, bake)) {
      b.getStyleClass().add("small-button");
      b.setMinWidth(USE_PREF_SIZE);
    }
    for (var c : List.of(still, frame, zoom, cameraIn, parent, part, size)) {
      c.getStyleClass().add("small-field");
    }
    for (TextField f : List.of(frame, part, size)) {
      f.getStyleClass().add("number");
    }
    says.setId("delivery-motion-says");
    says.managedProperty().bind(says.visibleProperty());
    HBox time = new HBox(6, load, reverse, plain);
    plain.managedProperty().bind(plain.visibleProperty());
    HBox held = new HBox(6, still, frame);
    HBox picture = new HBox(6, part, size);
    for (HBox b : List.of(time, held, picture)) {
      b.setAlignment(Pos.CENTER_LEFT);
    }
    getChildren()
        .addAll(
            Desk.row("Stands still", held),
            Desk.row("Zoom on", zoom),
            Desk.row("Picture", picture),
            shift,
            Desk.row("Time", time),
            Desk.row("Parent", parent),
            Desk.row("Camera in", cameraIn),
            baked,
            says);
  }

  /** Shows a delivery of a shot; null for none. */
  public void show(Delivery d, Shot of) {
    filling = true;
    shown = d;
    shot = of;
    setDisable(d == null);
    List.of(frame, part, size, parent).forEach(MotionPart::good);
    if (d != null) {
      fill(d.extract().recast());
    }
    filling = false;
  }

  private void fill(Recast r) {
    List<String> items = new ArrayList<>(List.of(AS_SOLVED, CAMERA));
    Held.moving(shot).keySet().forEach(g -> items.add(GROUP + g));
    String now = r.held().map(h -> h.group().map(g -> GROUP + g).orElse(CAMERA)).orElse(AS_SOLVED);
    if (!items.contains(now)) {
      items.add(now);
    }
    if (!still.getItems().equals(items)) {
      still.getItems().setAll(items);
    }
    still.setValue(now);
    frame.setText(
        r.held().map(h -> h.stand().text()).orElse(Integer.toString(shot.frames().first())));
    frame.setDisable(r.held().isEmpty());
    zoom.setValue(r.zoom().label());
    fill(r.parents());
    part.setText(r.framing().map(MotionPart::words).orElse(""));
    PictureSize out = r.framing().map(f -> f.picture(shot.picture())).orElse(shot.picture());
    size.setText(out.width() + "x" + out.height());
    plain.setVisible(r.retime().isPresent());
    shift.setVisible(shot.camera().filter(c -> Framing.isShifted(c, shot.picture())).isPresent());
    List<String> all = new ArrayList<>();
    r.retime()
        .ifPresent(
            t ->
                all.add(
                    String.format(
                        Locale.ROOT,
                        "%d frames, %s: plate frames %s to %s.",
                        t.frames().count(),
                        t.frames(),
                        number(t.source(t.frames().first())),
                        number(t.source(t.frames().last())))));
    if (r.changesPicture()) {
      all.add("The plates do not go with it.");
    }
    r.framing()
        .filter(f -> f.picture(shot.picture()).pixelAspect() != 1)
        .ifPresent(
            f -> all.add("Pixel aspect " + number(f.picture(shot.picture()).pixelAspect()) + "."));
    says.setText(String.join(" ", all));
    says.setVisible(!all.isEmpty());
  }

  private void fill(Parents p) {
    List<String> items = new ArrayList<>(List.of(WORLD));
    items.addAll(Held.moving(shot).keySet());
    p.cameraIn().filter(g -> !items.contains(g)).ifPresent(items::add);
    if (!cameraIn.getItems().equals(items)) {
      cameraIn.getItems().setAll(items);
    }
    cameraIn.setValue(p.cameraIn().orElse(WORLD));
    parent.setText(p.under().map(Parent::text).orElse(""));
    baked.setSelected(p.baked());
  }

  private void changeParents() {
    if (filling || shown == null || cameraIn.getValue() == null) {
      return;
    }
    try {
      Optional<String> group = Optional.of(cameraIn.getValue()).filter(g -> !g.equals(WORLD));
      Optional<Parent> was = shown.extract().recast().parents().under();
      String typed = parent.getText().strip();
      // Its text is rounded: what was not typed stays as it is.
      Optional<Parent> under =
          was.map(Parent::text).orElse("").equals(typed)
              ? was
              : Optional.of(typed).filter(t -> !t.isBlank()).map(Parent::parse);
      Parents p = new Parents(baked.isSelected(), group, under);
      good(parent);
      recast(r -> r.withParents(p), "parents");
    } catch (InputError e) {
      bad(parent, e.getMessage());
    }
  }

  private static String number(double v) {
    return v == Math.rint(v) ? Long.toString((long) v) : String.format(Locale.ROOT, "%.3f", v);
  }

  private static String words(Framing f) {
    return number(f.x()) + "," + number(f.y()) + "," + number(f.width()) + "x" + number(f.height());
  }

  private void recast(UnaryOperator<Recast> to, String what) {
    change.accept(
        d -> {
          Extract e = d.extract();
          return d.withExtract(e.recast(to.apply(e.recast())));
        },
        what);
  }

  private void changeStill() {
    if (filling || shown == null || still.getValue() == null) {
      return;
    }
    try {
      String what = still.getValue();
      Stand at = Stand.parse(frame.getText());
      Optional<Held> h =
          what.equals(AS_SOLVED)
              ? Optional.empty()
              : Optional.of(
                  what.equals(CAMERA)
                      ? Held.camera(at)
                      : Held.group(what.substring(GROUP.length()), at));
      // What is not there is said here, and not when it is sent.
      h.ifPresent(x -> x.check(shot));
      good(frame);
      recast(r -> r.withHeld(h), "what stands still");
    } catch (InputError | IllegalArgumentException e) {
      bad(frame, e.getMessage());
    }
  }

  private void changeZoom() {
    if (filling || shown == null) {
      return;
    }
    Stream.of(ZoomOn.values())
        .filter(z -> z.label().equals(zoom.getValue()))
        .findFirst()
        .ifPresent(z -> recast(r -> r.withZoom(z), "zoom"));
  }

  private void changePicture() {
    if (filling || shown == null) {
      return;
    }
    PictureSize whole = shot.picture();
    try {
      boolean all = part.getText().isBlank();
      Optional<Framing> before = shown.extract().recast().framing();
      Framing f =
          all
              ? Framing.resize(whole, whole.width(), whole.height())
              : before // the field shows less than all of its digits
                  .filter(b -> words(b).equals(part.getText()))
                  .map(b -> b.at((int) Math.round(b.width()), (int) Math.round(b.height())))
                  .orElseGet(() -> Framing.crop(part.getText()));
      // Where only the part was typed, its own resolution follows.
      PictureSize was = before.map(b -> b.picture(whole)).orElse(whole);
      PictureSize typed = PictureSize.parse(size.getText());
      boolean sized = typed.width() != was.width() || typed.height() != was.height();
      Framing out = sized ? f.at(typed.width(), typed.height()) : f;
      good(part);
      good(size);
      boolean same = out.equals(Framing.resize(whole, whole.width(), whole.height()));
      recast(r -> r.withFraming(same ? Optional.empty() : Optional.of(out)), "picture");
    } catch (InputError | IllegalArgumentException e) {
      bad(part, e.getMessage());
    }
  }

  private void bakeShift() {
    try {
      Framing f = Framing.centred(shot.camera().orElseThrow(), shot.picture());
      recast(r -> r.withFraming(Optional.of(f)), "lens shift");
    } catch (InputError e) {
      refuse.accept(e.getMessage());
    }
  }

  private void choose() {
    FileChooser c = new FileChooser();
    c.setTitle("Retime: new frame and plate frame");
    File f = c.showOpenDialog(getScene().getWindow());
    if (f != null) {
      retime(f.toPath());
    }
  }

  /** Takes a table of frames. */
  public void retime(Path table) {
    try {
      retime(
          Optional.of(
              Retime.parse(
                  table.getFileName().toString(), TextSource.read(table, ReadLimits.USUAL))));
    } catch (InputError e) {
      refuse.accept(e.getMessage());
    }
  }

  private void reverse() {
    Extract e = shown.extract().plain();
    Retime r = Retime.reversed(e.frames(shot.frames()));
    retime(Optional.of(shown.extract().recast().retime().map(t -> reversed(t)).orElse(r)));
  }

  private static Retime reversed(Retime t) {
    return Retime.reversed(t.frames()).after(t);
  }

  private void retime(Optional<Retime> r) {
    if (shown != null) {
      recast(x -> x.withRetime(r), "time");
    }
  }

  private void bad(TextField f, String why) {
    if (!f.getStyleClass().contains("bad")) {
      f.getStyleClass().add("bad");
    }
    refuse.accept(why);
  }

  private static void good(TextField f) {
    f.getStyleClass().remove("bad");
  }
}
