package flarvo.desktop.stop.dispatch;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.decision.DispatchDecision;
import flarvo.desktop.state.SendState;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.CopiesText;
import flarvo.desktop.stop.Tips;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.format.FileNames;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Shot;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import javafx.beans.property.SimpleStringProperty;
import javafx.collections.ListChangeListener;
import javafx.collections.MapChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The delivery board: one row for each file that goes out. */
public final class DispatchBoard extends VBox implements CopiesText {

  private final Session session;
  private final TableView<Delivery> table = new TableView<>();
  private boolean following;
  private PlainImports imports;

  public DispatchBoard(Session session) {
    this.session = session;
    getStyleClass().add("board");
    Label title = new Label("Deliveries");
    title.getStyleClass().add("panel-title");
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    MenuButton add = new MenuButton("Add delivery");
    add.getStyleClass().add("small-button");
    offer(add, session.dialects());
    session.knownDialects().addListener((o, a, b) -> offer(add, b));
    Button remove = new Button("Remove");
    remove.getStyleClass().add("small-button");
    remove.setOnAction(e -> remove());
    Button sendAll = new Button("Send all");
    sendAll.setId("send-all");
    sendAll.getStyleClass().addAll("small-button", "accent");
    sendAll.setOnAction(e -> session.sending().sendAll());
    Button note = new Button("Hand-over note");
    note.setId("handover-note");
    note.getStyleClass().add("small-button");
    note.setDisable(true);
    Tips.on(note, "Writes a page that travels with the files");
    note.setOnAction(e -> session.sending().writeNote());
    session
        .sending()
        .states()
        .addListener(
            (MapChangeListener<Object, Object>) c -> note.setDisable(!session.sending().hasSent()));
    HBox bar = new HBox(8, title, gap, add, new BoardMenu(session), remove, note, sendAll);
    bar.setAlignment(Pos.CENTER_LEFT);
    bar.disableProperty().bind(session.open().not());
    remove.disableProperty().bind(session.chosen().isNull());
    table.setId("deliveries");
    table.setAccessibleText("Deliveries of the shot");
    table.setPlaceholder(placeholder());
    table.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
    Tips.on(table, "Select several to change them together");
    column("To", 96, false, Delivery::name);
    column("Dialect", 148, false, d -> d.dialect().name());
    column("Format", 78, false, d -> d.format().title());
    column("Frames", 92, true, this::frames);
    column("State", 78, false, this::stage);
    column("Drift", 100, true, this::drift);
    column("On import", 84, false, this::onImport);
    table.setColumnResizePolicy(TableView.CONSTRAINED_RESIZE_POLICY_FLEX_LAST_COLUMN);
    table.setFixedCellSize(26);
    VBox.setVgrow(table, Priority.ALWAYS);
    getChildren().addAll(bar, table);
    table
        .getSelectionModel()
        .selectedItemProperty()
        .addListener(
            (o, a, b) -> {
              if (!following && b != null) {
                follow();
              }
            });
    table
        .getSelectionModel()
        .getSelectedItems()
        .addListener((ListChangeListener<Delivery>) c -> follow());
    session.state().addListener((o, a, b) -> fill());
    session.store().now().addListener((o, a, b) -> refreshImports());
    session.chosen().addListener((o, a, b) -> select());
    session.chosenRows().addListener((ListChangeListener<Delivery>) c -> select());
    session
        .sending()
        .states()
        .addListener((MapChangeListener<Object, Object>) c -> table.refresh());
    table.setOnKeyPressed(
        e -> {
          if (e.getCode() == KeyCode.ENTER
              && !e.isShortcutDown()
              && session.chosen().get() != null) {
            session.sending().send(session.chosen().get());
            e.consume();
          }
        });
    fill();
  }

  @Override
  public String copiedName() {
    return "Deliveries";
  }

  /** The board as tab separated text, with its header. */
  @Override
  public String asText() {
    StringBuilder text = new StringBuilder();
    table.getColumns().forEach(c -> text.append(c.getText()).append('\t'));
    for (int i = 0; i < table.getItems().size(); i++) {
      text.append('\n');
      for (TableColumn<Delivery, ?> c : table.getColumns()) {
        text.append(c.getCellData(i)).append('\t');
      }
    }
    return text.append('\n').toString();
  }

  private void column(String name, double width, boolean number, Function<Delivery, String> value) {
    TableColumn<Delivery, String> c = new TableColumn<>(name);
    c.setCellValueFactory(f -> new SimpleStringProperty(value.apply(f.getValue())));
    c.setPrefWidth(width);
    c.setSortable(false);
    c.setReorderable(false);
    if (number) {
      c.getStyleClass().add("number-column");
    }
    table.getColumns().add(c);
  }

  private String frames(Delivery d) {
    Shot s = session.state().get().shot();
    try {
      FrameRange of = d.extract().frames(s.frames());
      return d.dialect().frames().mapFor(of, s.rate()).recipientFrames().toString();
    } catch (InputError e) {
      return "none left";
    }
  }

  private String stage(Delivery d) {
    SendState s = session.sending().states().get(d);
    if (s == null) {
      return session.sending().since(d).isEmpty() ? "not sent" : "stale";
    }
    return switch (s.stage()) {
      case SENDING -> "sending …";
      case FAILED -> "failed";
      case SENT -> s.proof().map(p -> p.holds() ? "holds" : "does not hold").orElse("sent");
    };
  }

  private String drift(Delivery d) {
    SendState s = session.sending().states().get(d);
    return s == null
        ? ""
        : s.proof()
            .flatMap(p -> p.drift())
            .map(r -> String.format(Locale.ROOT, "%.6f px", r.maxPx()))
            .orElse("");
  }

  /** Empty until it was tried. */
  private String onImport(Delivery d) {
    PlainImports.Outcome o = imports == null ? null : imports.of().get(d);
    return o == null ? "" : o.word();
  }

  private void refreshImports() {
    PlainImports now = session.store().now().get().get(PlainImports.SLOT).value();
    if (now != null && !now.equals(imports)) {
      imports = now;
      table.refresh();
    }
  }

  private void fill() {
    following = true;
    if (!session.isOpen()) {
      table.getItems().clear();
    } else {
      table.getItems().setAll(session.state().get().deliveries());
    }
    following = false;
    select();
  }

  /** What is selected here is selected in the session. */
  private void follow() {
    List<Delivery> rows =
        table.getSelectionModel().getSelectedItems().stream().filter(Objects::nonNull).toList();
    if (!following && !rows.isEmpty()) {
      following = true;
      Delivery main = table.getSelectionModel().getSelectedItem();
      session.choose(rows.contains(main) ? main : rows.get(0), List.copyOf(rows));
      following = false;
    }
  }

  /** What is selected in the session is selected here. */
  private void select() {
    if (following) {
      return;
    }
    following = true;
    var model = table.getSelectionModel();
    List<Delivery> wanted = List.copyOf(session.chosenRows());
    if (!Set.copyOf(wanted).equals(Set.copyOf(model.getSelectedItems()))) {
      model.clearSelection();
      wanted.forEach(model::select);
    }
    model.select(session.chosen().get());
    following = false;
  }

  private VBox placeholder() {
    Button usual = new Button("Add usual recipients");
    usual.setId("add-usual");
    usual.getStyleClass().add("small-button");
    usual.setOnAction(e -> BoardMenu.addFirst(session));
    usual.disableProperty().bind(session.open().not());
    VBox box = new VBox(8, new Label("No deliveries. Add one per recipient."), usual);
    box.setAlignment(Pos.CENTER);
    return box;
  }

  private void offer(MenuButton add, Dialects known) {
    add.getItems().clear();
    for (Dialect d : known.all()) {
      MenuItem item = new MenuItem(d.name() + "    " + d.description());
      item.setOnAction(e -> add(d));
      add.getItems().add(item);
    }
  }

  private void add(Dialect d) {
    SceneFormat f = Formats.byId("usd-text");
    Delivery delivery =
        new Delivery(
            free(d.name()), d, f, Contents.CAMERA_AND_TRACKERS, "{shot}_{recipient}.{ext}");
    session
        .store()
        .decide(new DispatchDecision.AddDelivery(delivery), () -> session.chosen().set(delivery));
  }

  /** Two rows of one name would write one file. */
  private String free(String wanted) {
    FileNames names = new FileNames();
    session.state().get().deliveries().forEach(d -> names.unique(d.name()));
    return names.unique(wanted);
  }

  private void remove() {
    Delivery d = session.chosen().get();
    int i = session.state().get().deliveries().indexOf(d);
    if (i >= 0) {
      session.store().decide(new DispatchDecision.RemoveDelivery(i, d.name()));
    }
  }
}
