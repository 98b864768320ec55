package flarvo.desktop.stop.dispatch;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.desktop.state.SendState;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Tips;
import flarvo.desktop.work.Lane;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Losses;
import flarvo.dispatch.Outgoing;
import flarvo.dispatch.PathPattern;
import flarvo.dispatch.Sidecars;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import javafx.collections.ListChangeListener;
import javafx.collections.MapChangeListener;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;

/** What the chosen delivery is: dialect, format, contents, frames; and what it loses. */
public final class DispatchDesk extends Desk {

  private final Session session;
  private final ComboBox<String> dialect = new ComboBox<>();
  private final ComboBox<String> format = new ComboBox<>();
  private final ComboBox<String> plate = new ComboBox<>();
  private final TextField first = new TextField();
  private final TextField name = new TextField();
  private final TextField file = new TextField();
  private final Label result = Desk.wrapped();
  private final VBox conventions = new VBox(3);
  private final VBox losses = new VBox(4);
  private Object lossesAsked = new Object(); // for which delivery as it stood they were asked last
  private String lossesOf = ""; // whose are shown
  private final Button send = new Button("Send delivery");
  private final RowEdits edits;
  private final TimeAndScale time;
  private final ExtractPart extract;
  private final MotionPart motion;
  private final ContentsPart contents;
  private boolean filling;

  public DispatchDesk(Session session) {
    super("Dispatch");
    this.session = session;
    edits = new RowEdits(session);
    time = new TimeAndScale(edits::dialects, session.message()::set);
    extract = new ExtractPart(edits::deliveries, session.message()::set);
    contents = new ContentsPart(session, edits);
    motion = new MotionPart(edits::deliveries, session.message()::set);
    offer(session.dialects());
    session.knownDialects().addListener((o, a, b) -> offer(b));
    format
        .getItems()
        .setAll(
            Formats.all().stream().filter(SceneFormat::writes).map(SceneFormat::title).toList());
    for (ComboBox<String> c : List.of(dialect, format)) {
      c.setPrefWidth(186);
      c.getStyleClass().add("small-field");
      c.setOnAction(e -> change());
    }
    plate.setId("delivery-plate");
    plate.getStyleClass().add("small-field");
    plate.setOnAction(e -> changePlate());
    dialect.setId("delivery-dialect");
    format.setId("delivery-format");
    first.setId("delivery-first");
    first.getStyleClass().addAll("number", "small-field");
    first.setPrefColumnCount(8);
    first.setOnAction(e -> changeFirst());
    for (TextField f : List.of(name, file)) {
      f.getStyleClass().add("small-field");
      f.setPrefWidth(186);
    }
    losses.setId("delivery-losses");
    name.setId("delivery-name");
    name.setOnAction(e -> changeName());
    file.setId("delivery-file");
    Tips.on(
        file,
        "{project} {shot} {recipient} {version} {first} {last} {ext}; relative to deliveries/");
    file.setOnAction(e -> changeFile());
    result.setId("delivery-result");
    send.getStyleClass().add("small-button");
    send.setMaxWidth(Double.MAX_VALUE);
    send.setOnAction(e -> session.sending().send(session.chosen().get()));
    getChildren()
        .addAll(
            send,
            row("Recipient", name),
            row("Dialect", dialect),
            row("Format", format),
            row("First frame", first),
            time,
            extract,
            row("Plates", plate),
            row("File", file),
            result,
            heading("Contents"),
            contents,
            heading("Motion, film and time"),
            motion,
            heading("On a plain import"),
            new ImportPart(session),
            new ChainPart(session),
            heading("Recipient's dialect"),
            conventions,
            heading("Lost or changed"),
            losses);
    session.chosen().addListener((o, a, b) -> fill());
    session.chosenRows().addListener((ListChangeListener<Delivery>) c -> fill());
    session.state().addListener((o, a, b) -> fill());
    session.sending().states().addListener((MapChangeListener<Object, Object>) c -> sentence());
    fill();
  }

  private void offer(Dialects known) {
    String chosen = dialect.getValue();
    dialect.getItems().setAll(known.all().stream().map(Dialect::name).toList());
    dialect.setValue(chosen);
  }

  private void change() {
    Delivery d = session.chosen().get();
    if (filling || d == null) {
      return;
    }
    if (!dialect.getValue().equals(d.dialect().name())) {
      Dialect to = session.dialects().get(dialect.getValue());
      edits.deliveries(x -> x.withDialect(to), "dialect");
    } else if (!format.getValue().equals(d.format().title())) {
      SceneFormat to =
          Formats.all().stream()
              .filter(f -> f.title().equals(format.getValue()))
              .findFirst()
              .orElseThrow();
      edits.deliveries(x -> x.withFormat(to), "format");
    }
  }

  /** The roles of the shot's plates; the role that the delivery has, where there are none. */
  private void fillPlates(Shot shot, Delivery d) {
    List<String> roles =
        shot.plates().stream()
            .map(PlateSequence::role)
            .filter(r -> r != PlateRole.PROXY)
            .map(PlateRole::word)
            .distinct()
            .toList();
    plate.getItems().setAll(roles.contains(d.plate().word()) ? roles : List.of(d.plate().word()));
    plate.setValue(d.plate().word());
    plate.setDisable(roles.size() < 2);
  }

  private void changePlate() {
    Delivery d = session.chosen().get();
    if (!filling && d != null && plate.getValue() != null) {
      PlateRole role = PlateRole.of(plate.getValue());
      edits.deliveries(x -> x.withPlate(role), "plates");
    }
  }

  private void changeFirst() {
    try {
      int f = Integer.parseInt(first.getText().trim());
      good(first);
      edits.dialects(x -> x.withFrames(x.frames().withFirstFrame(f)), "first frame");
    } catch (NumberFormatException e) {
      bad(first, "'" + first.getText() + "' is not a frame number; enter an integer");
    }
  }

  private void changeName() {
    Delivery d = session.chosen().get();
    String n = name.getText().strip();
    boolean taken =
        session.state().get().deliveries().stream()
            .anyMatch(x -> !x.equals(d) && x.name().equals(n));
    if (n.isEmpty() || taken) {
      bad(
          name,
          n.isEmpty() ? "A recipient needs a name" : "There is a recipient " + n + " already");
      return;
    }
    good(name);
    edits.one(d, d.withName(n), "name");
  }

  private void changeFile() {
    Delivery d = session.chosen().get();
    Delivery next = d.withFileName(file.getText().strip());
    try {
      PathPattern.check(next.fileName());
      session.sending().nextFile(next);
    } catch (IllegalArgumentException | InputError e) {
      bad(file, e.getMessage());
      return;
    }
    good(file);
    edits.one(d, next, "file name");
  }

  private void bad(TextField field, String why) {
    if (!field.getStyleClass().contains("bad")) {
      field.getStyleClass().add("bad");
    }
    session.message().set(why);
  }

  private static void good(TextField field) {
    field.getStyleClass().remove("bad");
  }

  private void fill() {
    if (filling) {
      return;
    }
    filling = true;
    Delivery d = session.chosen().get();
    boolean none = d == null || !session.isOpen();
    contents.show(none ? null : d);
    for (var c : List.of(name, dialect, format, first, plate, file, send)) {
      c.setDisable(none);
    }
    time.show(none ? null : d);
    extract.show(none ? null : d, session.state().get().shot().frames());
    motion.show(none ? null : d, session.state().get().shot());
    boolean several = session.chosenRows().size() > 1;
    name.setDisable(none || several);
    file.setDisable(none || several);
    conventions.getChildren().clear();
    lossesAsked = new Object();
    String now = none ? "" : d.name();
    if (!lossesOf.equals(now)) {
      lossesOf = now;
      losses.getChildren().clear();
    }
    result.setText("");
    if (!none) {
      Shot shot = session.state().get().shot();
      name.setText(d.name());
      file.setText(d.fileName());
      result.setText(nextFile(d));
      List.of(name, file, first).forEach(DispatchDesk::good);
      dialect.setValue(d.dialect().name());
      format.setValue(d.format().title());
      first.setText(
          Integer.toString(
              d.dialect()
                  .frames()
                  .mapFor(d.extract().frames(shot.frames()), shot.rate())
                  .recipientFirst()));
      fillPlates(shot, d);
      Dialect x = d.dialect();
      say(x);
      fillLosses(new Outgoing(shot, session.state().get().lens().track()), d);
    }
    filling = false;
    sentence();
  }

  /** A delivery may be millions of points, so they are looked through in the background. */
  private void fillLosses(Outgoing from, Delivery d) {
    Object asked = new Object();
    lossesAsked = asked;
    session
        .jobs()
        .newest(
            losses,
            Lane.MEASURE,
            "Listing what " + d.name() + " loses",
            p -> losses(from, d),
            notes -> {
              if (lossesAsked.equals(asked)) {
                show(notes);
              }
            },
            session.message()::set);
  }

  private void show(List<Note> notes) {
    losses.getChildren().clear();
    for (Note n : notes) {
      losses.getChildren().add(text(n.kind().word() + ": " + n));
    }
    if (notes.isEmpty()) {
      losses.getChildren().add(text("Nothing lost or changed."));
    }
  }

  private static List<Note> losses(Outgoing from, Delivery d) {
    try {
      List<Note> all = new ArrayList<>(Losses.of(d.extract().of(from.shot(d.contents())), d));
      all.addAll(Sidecars.of(from, d, Path.of(d.name())).notes());
      return all;
    } catch (InputError e) {
      return List.of(Note.lost(d.name(), e.reason()));
    }
  }

  private void say(Dialect x) {
    conventions
        .getChildren()
        .addAll(
            row("up", number(x.world().up() + ", " + x.handedness().word() + "-handed")),
            row("unit", number(x.pixels().isPresent() ? "pixels" : x.unit().toString())),
            row("camera looks", number(x.camera().view() + ", up " + x.camera().up())),
            row("angles", number(x.rotationOrder() + ", " + x.angles().word())),
            row("film fit", number(x.film().fit().word())));
  }

  private String nextFile(Delivery d) {
    try {
      return "deliveries/" + session.sending().nextFile(d);
    } catch (InputError e) {
      return e.getMessage();
    }
  }

  private static Label text(String s) {
    Label l = new Label(s);
    l.setWrapText(true);
    l.getStyleClass().add("note");
    return l;
  }

  private void sentence() {
    Delivery d = session.chosen().get();
    if (d == null) {
      say("Add a delivery per recipient; select one to see its dialect.");
      return;
    }
    SendState s = session.sending().states().get(d);
    if (session.chosenRows().size() > 1) {
      say(
          session.chosenRows().size()
              + " deliveries selected. A change applies to all of them; names and files stay.");
      return;
    }
    List<String> since = session.sending().since(d);
    result.setText(session.isOpen() ? nextFile(d) : "");
    if (!since.isEmpty()) {
      say(d.name() + " is stale. Since it was sent: " + Since.words(since) + ". Send it again.");
    } else if (s == null) {
      say(
          d.name()
              + " has not been sent. It will be written to "
              + result.getText()
              + ", read back and proven.");
    } else {
      say(d.name() + " " + s.message() + ".");
    }
  }
}
