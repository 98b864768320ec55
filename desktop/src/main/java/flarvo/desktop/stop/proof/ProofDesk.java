package flarvo.desktop.stop.proof;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.TextCopy;
import flarvo.desktop.stop.Tips;
import flarvo.desktop.work.Lane;
import flarvo.dispatch.Delivery;
import flarvo.note.ProofPage;
import flarvo.proof.Check;
import flarvo.proof.ProofReport;
import flarvo.report.Note;
import java.io.File;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.collections.MapChangeListener;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** The evidence for one delivery: drift, and every check with what was expected and found. */
public final class ProofDesk extends Desk {

  private final Session session;
  private final ComboBox<String> delivery = new ComboBox<>();
  private final VBox checks = new VBox();
  private final VBox losses = new VBox(4);
  private final ProofWork work;
  private final DriftPart drift;
  private final SuspectPart suspects;
  private final Label checksOf = heading("");
  private final Label lost = heading("Lost or changed");
  private boolean filling;

  ProofDesk(Session session, ProofWork work, WitnessPreview preview) {
    super("Proof");
    this.session = session;
    this.work = work;
    suspects = new SuspectPart(session, work);
    drift = new DriftPart(session, work);
    checks.setId("checks");
    delivery.setPrefWidth(186);
    delivery.getStyleClass().add("small-field");
    delivery.setOnAction(e -> choose());
    Button worstFrame = new Button("Go to worst frame");
    worstFrame.getStyleClass().add("small-button");
    worstFrame.setOnAction(e -> goToWorst());
    Button save = new Button("Save…");
    save.setId("save-proof");
    save.getStyleClass().add("small-button");
    Tips.on(save, "The report as a page, and JSON beside it");
    save.setOnAction(e -> choosePage());
    save.setMinWidth(Region.USE_PREF_SIZE);
    Button copy = new Button("Copy as text");
    copy.getStyleClass().add("small-button");
    copy.setOnAction(e -> copy());
    worstFrame.setMinWidth(Region.USE_PREF_SIZE);
    copy.setMinWidth(Region.USE_PREF_SIZE);
    getChildren()
        .addAll(
            row("Delivery", delivery),
            new ComparePart(session, work),
            drift,
            new HBox(8, worstFrame, copy, save),
            suspects,
            checksOf,
            checks,
            lost,
            losses,
            new WitnessPart(session, preview));
    // A project that is dropped elsewhere is opened; on this desk a file is checked.
    setOnDragOver(
        e -> {
          if (e.getDragboard().hasFiles() && session.isOpen()) {
            e.acceptTransferModes(TransferMode.COPY);
            e.consume();
          }
        });
    setOnDragDropped(
        e -> {
          if (session.isOpen()) {
            suspects.check(e.getDragboard().getFiles().stream().map(File::toPath).toList());
            e.setDropCompleted(true);
            e.consume();
          }
        });
    session.chosen().addListener((o, a, b) -> fill());
    work.now().addListener((o, a, b) -> fill());
    session.state().addListener((o, a, b) -> fill());
    session.sending().states().addListener((MapChangeListener<Object, Object>) c -> fill());
    fill();
  }

  /** Of the chosen delivery; null where it was not sent. */
  ProofReport proof() {
    return work.proof();
  }

  private void choose() {
    int i = delivery.getSelectionModel().getSelectedIndex();
    if (!filling && i >= 0) {
      session.chosen().set(session.state().get().deliveries().get(i));
    }
  }

  void goToWorst() {
    drift.goToWorst();
  }

  /** Whether something was measured that has a worst frame. */
  boolean isMeasured() {
    return drift.drift().isPresent();
  }

  void copy() {
    Compared c = work.checked().get();
    if (isReturned() && c != null) {
      TextCopy.copy(session, "Proof", text(c.title(), c.checks()));
    } else if (proof() != null) {
      TextCopy.copy(session, "Proof", text(proof().sentence(), proof().checks()));
    }
  }

  private static String text(String head, List<Check> checks) {
    StringBuilder s = new StringBuilder(head).append('\n');
    for (Check c : checks) {
      s.append(c.holds() ? "PASS" : "FAIL").append('\t').append(c.name()).append('\t');
      s.append(c.expected()).append('\t').append(c.found()).append('\n');
    }
    return s.toString();
  }

  /** Whether what is compared is a file that somebody sent, and no delivery. */
  private boolean isReturned() {
    return switch (work.against().get()) {
      case DELIVERY, PLAIN_IMPORT -> false;
      case CHECKED, MENDED -> true;
    };
  }

  private void choosePage() {
    FileChooser c = new FileChooser();
    c.setTitle("Save the report");
    c.setInitialFileName("proof.html");
    File to = c.showSaveDialog(getScene().getWindow());
    if (to != null) {
      save(to.toPath());
    }
  }

  /** Writes the report of what is compared. */
  public void save(Path page) {
    Optional<ProofPage> made = report();
    if (made.isEmpty()) {
      session.message().set("There is nothing to report: send a delivery, or check a file");
      return;
    }
    session
        .jobs()
        .run(
            Lane.KEEP,
            "Saving the report",
            p -> made.get().write(page),
            files -> session.message().set("Wrote " + page.getFileName() + " and its JSON"),
            session.message()::set);
  }

  private Optional<ProofPage> report() {
    String shot = session.state().get().name();
    Compared c = work.now().get();
    double limit = session.view().proofLimitPx().get();
    return switch (work.against().get()) {
      case DELIVERY ->
          Optional.ofNullable(proof())
              .map(p -> ProofPage.of(session.chosen().get().name(), shot, p));
      case PLAIN_IMPORT ->
          Optional.ofNullable(c)
              .map(
                  x ->
                      new ProofPage(
                          x.title(),
                          shot,
                          x.drift().map(d -> d.maxPx() <= limit),
                          List.of("Imported with no setting touched."),
                          x.drift(),
                          limit,
                          List.of(),
                          List.of()));
      case CHECKED, MENDED ->
          Optional.ofNullable(c)
              .map(
                  x ->
                      new ProofPage(
                          x.title(),
                          shot,
                          Optional.empty(),
                          suspects.sentences(),
                          x.drift(),
                          limit,
                          x.checks(),
                          List.of()));
    };
  }

  private void fill() {
    filling = true;
    checks.getChildren().clear();
    losses.getChildren().clear();
    if (!session.isOpen()) {
      delivery.getItems().clear();
      say("No shot open. A proof needs a sent delivery.");
      filling = false;
      return;
    }
    delivery
        .getItems()
        .setAll(session.state().get().deliveries().stream().map(Delivery::name).toList());
    Delivery now = session.chosen().get();
    if (now != null) {
      delivery.getSelectionModel().select(session.state().get().deliveries().indexOf(now));
    }
    filling = false;
    boolean returned = isReturned();
    checksOf.setText(returned ? "Checks of the file" : "Checks of the delivery");
    for (Region r : List.of(lost, losses)) {
      r.setVisible(!returned);
      r.setManaged(!returned);
    }
    if (returned) {
      showReturned();
      return;
    }
    ProofReport p = proof();
    if (p == null) {
      say(
          session.chosen().get() == null
              ? "No deliveries. Add one in Dispatch."
              : "This delivery has not been sent. Send it in Dispatch; the proof is made from"
                  + " the file on disk.");
      return;
    }
    say(
        "The delivery "
            + p.sentence()
            + p.drift()
                .map(
                    d ->
                        ". Rings are the source, crosses the recipient; "
                            + d.compared()
                            + " projections were compared.")
                .orElse("."));
    p.checks().forEach(c -> checks.getChildren().add(line(c)));
    for (Note n : p.losses()) {
      Label l = new Label(n.kind().word() + ": " + n);
      l.setWrapText(true);
      l.getStyleClass().add("note");
      losses.getChildren().add(l);
    }
    if (p.losses().isEmpty()) {
      losses.getChildren().add(new Label("Nothing."));
    }
  }

  /** A file that somebody sent: read as it states, whatever it was meant to be. */
  private void showReturned() {
    Compared c = work.checked().get();
    if (c == null) {
      say("No file was checked yet. Drop one here.");
      return;
    }
    long wrong = c.checks().stream().filter(x -> !x.holds()).count();
    say(
        c.title()
            + (wrong == 0
                ? ": every check holds, read as it states."
                : ": " + wrong + (wrong == 1 ? " check does" : " checks do") + " not hold."));
    c.checks().forEach(x -> checks.getChildren().add(line(x)));
  }

  private static HBox line(Check c) {
    Label mark = new Label(c.holds() ? "✓" : "×");
    mark.setMinWidth(16);
    mark.getStyleClass().add(c.holds() ? "holds" : "over");
    Label name = new Label(words(c.name()));
    name.setMinWidth(112);
    name.getStyleClass().add("quiet");
    Label found = number(c.holds() ? c.found() : c.found() + ", not " + c.expected());
    found.setMinWidth(40);
    Tips.on(found, "expected " + c.expected() + ", found " + c.found());
    HBox row = new HBox(4, mark, name, found);
    row.setMinHeight(Region.USE_PREF_SIZE);
    row.setAccessibleText(
        words(c.name()) + (c.holds() ? " holds, " : " does not hold, ") + c.found());
    return row;
  }

  /** {@code firstFrame} as people write it. */
  private static String words(String name) {
    return name.replaceAll("([A-Z])", " $1").toLowerCase(Locale.ROOT);
  }
}
