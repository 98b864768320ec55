package flarvo.desktop.stop.receive;

import flarvo.convention.Dialect;
import flarvo.decision.ReceiveDecision;
import flarvo.decision.ShotState;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Tips;
import flarvo.desktop.work.Lane;
import flarvo.project.StudioDialects;
import flarvo.receive.Ledger;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.sender.Finding;
import flarvo.sender.Known;
import flarvo.sender.SenderReport;
import flarvo.sender.SenderSearch;
import flarvo.vet.Reprojection;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Which dialect cameras and points are read in, and finding it by evidence. */
final class SenderPart extends VBox {

  private static final String STATED = "as the files state";
  private static final String FOUND = "found";

  /** A reading of the ledger that explains the tracks. */
  private static final double FITS_PX = 5;

  /** A median error that no noise of tracking comes to. */
  private static final double MISFITS_PX = 20;

  private final Session session;
  private final ComboBox<String> dialect = new ComboBox<>();
  private final Label misfit = Desk.wrapped();
  private final Button find = new Button("Find dialect");
  private final VBox findings = new VBox(4);
  private final Button use = new Button("Use dialect");
  private final TextField name = new TextField();
  private final Button keep = new Button("Save");
  private final HBox actions = new HBox(6, use, name, keep);
  private SenderReport report;
  private String foundOn = "";
  private boolean filling;

  SenderPart(Session session) {
    super(6);
    this.session = session;
    setId("sender");
    dialect.setId("sender-dialect");
    dialect.getStyleClass().add("small-field");
    dialect.setMaxWidth(170);
    dialect.setOnAction(e -> chosen());
    find.setId("find-sender");
    Tips.on(find, "Reads the files under every convention and measures them on the 2D tracks");
    find.setOnAction(e -> search());
    use.setId("use-sender");
    use.setOnAction(e -> use());
    name.setId("sender-name");
    name.setPromptText("layout-zup");
    name.getStyleClass().add("small-field");
    name.setAccessibleText("Name to save the dialect under");
    keep.setId("keep-sender");
    keep.setOnAction(e -> keep());
    keep.disableProperty().bind(name.textProperty().isEmpty());
    for (Button b : List.of(find, use, keep)) {
      b.getStyleClass().add("small-button");
      b.setMinWidth(USE_PREF_SIZE);
    }
    findings.setId("sender-findings");
    for (var n : List.of(misfit, findings, actions)) {
      n.managedProperty().bind(n.visibleProperty());
    }
    managedProperty().bind(visibleProperty());
    getChildren()
        .addAll(
            Desk.heading("Sender"), Desk.row("Dialect", dialect), misfit, find, findings, actions);
  }

  /** Whether the 2D tracks show that the files are misread, and no proposal mends it. */
  boolean misfits() {
    Reprojection r = session.errors().get();
    return isVisible() && r != null && r.medianPx() > MISFITS_PX && !isProposed();
  }

  private boolean isProposed() {
    Ledger l = session.ledger().get();
    return l != null
        && l.conflicts().stream()
            .flatMap(c -> c.evidence().stream())
            .anyMatch(e -> e.errorPx() < FITS_PX);
  }

  /** Shows the open shot. */
  void fill() {
    Optional<ReceivedSet> set = session.state().get().received();
    setVisible(session.isOpen() && set.isPresent());
    if (!isVisible()) {
      return;
    }
    filling = true;
    Optional<Dialect> now =
        set.get().files().stream()
            .filter(ReceivedFile::isSolve)
            .map(ReceivedFile::from)
            .findFirst()
            .flatMap(d -> d);
    List<String> items = new ArrayList<>(List.of(STATED));
    session.dialects().all().forEach(d -> items.add(d.name()));
    now.map(Dialect::name).filter(n -> !items.contains(n)).ifPresent(items::add);
    if (!dialect.getItems().equals(items)) {
      dialect.getItems().setAll(items);
    }
    dialect.setValue(now.map(Dialect::name).orElse(STATED));
    filling = false;
    misfit.setVisible(misfits());
    if (misfits()) {
      misfit.setText(
          String.format(
              Locale.ROOT,
              "The 2D tracks miss by %.0f px: the files may be read in a wrong dialect.",
              session.errors().get().medianPx()));
    }
    boolean tracks = !session.state().get().shot().observations().isEmpty();
    find.setDisable(!tracks);
    find.setText(tracks ? "Find dialect" : "Find dialect (needs 2D tracks)");
    if (report != null && !session.state().get().name().equals(foundOn)) {
      report = null; // found on another shot
    }
    show();
  }

  private void chosen() {
    String to = dialect.getValue();
    if (filling || to == null) {
      return;
    }
    Optional<Dialect> d = session.dialects().find(to);
    if (d.isPresent() || to.equals(STATED)) {
      session.store().decide(new ReceiveDecision.ReadAs(d));
    } else if (report != null && report.dialect().name().equals(to)) {
      use();
    }
  }

  private void search() {
    ShotState s = session.state().get();
    ReceivedSet set = s.received().orElseThrow();
    Observations tracks = s.shot().observations();
    session
        .jobs()
        .run(
            Lane.DECIDE,
            "Finding the sender's dialect",
            p ->
                SenderSearch.of(
                    d -> set.readAs(Optional.of(d), p),
                    s.rulings().over(set.base()),
                    tracks,
                    Optional.empty(),
                    FOUND,
                    p),
            r -> {
              if (session.state().get().name().equals(s.name())) {
                report = r;
                foundOn = s.name();
                show();
                session
                    .message()
                    .set(
                        String.format(
                            Locale.ROOT,
                            r.fits()
                                ? "Sender found: %.2f px, %.2f px by the usual reading"
                                : "No reading fits: %.2f px at best, %.2f px by the usual reading",
                            r.errorPx(),
                            r.plainPx()));
              }
            },
            session.message()::set);
  }

  private void use() {
    session.store().decide(new ReceiveDecision.ReadAs(Optional.of(report.dialect())));
  }

  private void keep() {
    Dialect d = report.dialect().named(name.getText().strip());
    boolean had;
    try {
      StudioDialects.checkName(d.name());
      had = StudioDialects.isKept(d.name());
    } catch (InputError e) {
      session.message().set(e.reason() + ". " + e.advice());
      return;
    }
    if (had) {
      session.message().set("A dialect " + d.name() + " is saved already. Choose another name");
      return;
    }
    session
        .jobs()
        .run(
            Lane.KEEP,
            "Saving " + d.name(),
            p -> StudioDialects.keep(d),
            f -> {
              session.readDialects();
              session.message().set("Saved as " + d.name() + "; every delivery can use it");
              fill();
            },
            session.message()::set);
  }

  private void show() {
    findings.getChildren().clear();
    findings.setVisible(report != null);
    actions.setVisible(report != null && report.fits());
    if (report == null) {
      return;
    }
    text(
        String.format(
            Locale.ROOT,
            "%.2f px as found, %.2f px by the usual reading",
            report.errorPx(),
            report.plainPx()),
        "number");
    List<String> idle = new ArrayList<>();
    for (Finding f : report.findings()) {
      if (f.known() == Known.OPEN && f.why().equals(Finding.NO_MATTER)) {
        idle.add(f.part());
        continue;
      }
      text(
          f.part() + ": " + f.value() + " (" + f.known().word() + "; " + f.why() + ")",
          f.known() == Known.MEASURED || f.known() == Known.STATED ? "reason" : "note");
    }
    if (!idle.isEmpty()) {
      text("Nothing in these files depends on " + String.join(", ", idle), "note");
    }
    report.besides().forEach(b -> text("No dialect mends this: " + b + ".", "note"));
  }

  /** What was found, as it is shown. */
  List<String> sentences() {
    return findings.getChildren().stream().map(n -> ((Label) n).getText()).toList();
  }

  private void text(String s, String style) {
    Label l = Desk.wrapped();
    l.setText(s);
    l.getStyleClass().add(style);
    findings.getChildren().add(l);
  }
}
