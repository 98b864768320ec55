package flarvo.desktop.stop.proof;

import flarvo.decision.Decided;
import flarvo.decision.Outcome;
import flarvo.decision.ReturnDecision;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.TextCopy;
import flarvo.desktop.stop.Tips;
import flarvo.desktop.work.Lane;
import flarvo.proof.Check;
import flarvo.proof.DriftReport;
import flarvo.proof.ReturnedChecks;
import flarvo.proof.ReturnedFile;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.scene.WorldShot;
import flarvo.suspect.Mending;
import flarvo.suspect.Suspect;
import flarvo.suspect.SuspectReport;
import flarvo.work.Progress;
import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** Files that somebody sent back, measured against the open shot: what is wrong, and mending it. */
public final class SuspectPart extends VBox {

  private static final int SHOWN = 3;
  private static final double FINE_PX = 1;

  private final Session session;
  private final ProofWork work;
  private final Button check = new Button("Check returned files…");
  private final Button mend = new Button("Save mended…");
  private final Button use = new Button("Use mended");
  private final Button copy = new Button("Copy sentence");
  private final VBox found = new VBox(6);
  private final FlowPane actions = new FlowPane(8, 8);
  private ReturnedFile file;
  private List<Path> paths = List.of();
  private Observations evidence = Observations.NONE;
  private String name = "";
  private String measuredOn = "";

  SuspectPart(Session session, ProofWork work) {
    super(8);
    setId("returned");
    this.session = session;
    this.work = work;
    check.setId("check-files");
    Tips.on(
        check,
        "Finds which mix-up explains why a camera that came back slides; files can be dropped here");
    check.setOnAction(e -> choose());
    mend.setId("mend-file");
    mend.setOnAction(e -> chooseMended());
    use.setId("use-mended");
    Tips.on(use, "Puts the mended camera and points in the place of the solve; can be undone");
    use.setOnAction(e -> useMended());
    copy.setId("copy-suspect");
    copy.setOnAction(
        e ->
            file.report()
                .cause()
                .ifPresent(c -> TextCopy.copy(session, "Cause", name + ": " + c.sentence() + ".")));
    actions.getChildren().addAll(mend, use, copy);
    for (Button b : List.of(check, mend, use, copy)) {
      b.getStyleClass().add("small-button");
    }
    found.setId("suspects");
    actions.managedProperty().bind(actions.visibleProperty());
    found.managedProperty().bind(found.visibleProperty());
    getChildren().addAll(check, found, actions);
    check.disableProperty().bind(session.open().not());
    // What was measured on another shot says nothing of this one.
    session
        .state()
        .addListener(
            (o, a, b) -> {
              if (file != null && !b.name().equals(measuredOn)) {
                file = null;
                work.checked().set(null);
                work.mended().set(null);
                show();
              }
            });
    show();
  }

  private void choose() {
    FileChooser c = new FileChooser();
    c.setTitle("Files that were returned: camera, and points");
    List<File> files = c.showOpenMultipleDialog(getScene().getWindow());
    if (files != null) {
      check(files.stream().map(File::toPath).toList());
    }
  }

  /** Measures files against the 2D tracks of the open shot, or its solve where it has none. */
  public void check(List<Path> files) {
    Shot shot = session.state().get().shot();
    String of = session.state().get().name();
    double limit = session.view().proofLimitPx().get();
    session
        .jobs()
        .run(
            Lane.DECIDE,
            "Searching for what is wrong",
            p -> {
              ReturnedFile came = ReturnDecision.search(shot, files, p);
              return new Answer(
                  ReturnDecision.evidence(shot),
                  came,
                  came.against(shot, p),
                  mended(came, shot, p),
                  checks(shot, files, limit, p));
            },
            a -> {
              if (!session.state().get().name().equals(of)) {
                return; // another shot was opened meanwhile
              }
              measuredOn = of;
              file = a.file;
              paths = files;
              evidence = a.evidence;
              name =
                  files.stream()
                      .map(f -> f.getFileName().toString())
                      .collect(Collectors.joining(", "));
              work.checked().set(new Compared(name, file.shot().levelled(), a.drift, a.checks));
              work.mended()
                  .set(
                      a.mended
                          .map(m -> new Compared(name + ", mended", m.shot, m.drift))
                          .orElse(null));
              work.against().set(ProofWork.Against.CHECKED);
              show();
              session.message().set(name + " checked: " + verdict(file.report()));
            },
            why -> session.message().set(why));
  }

  private record Answer(
      Observations evidence,
      ReturnedFile file,
      Optional<DriftReport> drift,
      Optional<Mended> mended,
      List<Check> checks) {}

  private record Mended(WorldShot shot, Optional<DriftReport> drift) {}

  /** What drift cannot see, file by file. */
  private static List<Check> checks(Shot shot, List<Path> files, double limit, Progress p) {
    List<Check> all = new ArrayList<>();
    for (Path f : files) {
      try {
        all.addAll(ReturnedChecks.of(shot, f, limit, p));
      } catch (InputError e) {
        // A table whose columns were told, or a log: what was read of it is measured all the same.
        all.add(new Check("readable", false, "a scene", f.getFileName() + ": " + e.reason()));
      }
    }
    return all;
  }

  /** The file with its cause undone, for a picture of it; empty where nothing can undo it. */
  private static Optional<Mended> mended(ReturnedFile came, Shot shot, Progress p) {
    try {
      return came.report()
          .cause()
          .map(c -> Mending.of(came.shot(), c).levelled())
          .map(m -> new Mended(m, ReturnedFile.drift(shot, m, p)));
    } catch (InputError e) {
      return Optional.empty(); // said when it is to be saved
    }
  }

  private void chooseMended() {
    FileChooser c = new FileChooser();
    c.setTitle("Save the mended file");
    c.setInitialFileName("mended.usda");
    File to = c.showSaveDialog(getScene().getWindow());
    if (to != null) {
      mend(to.toPath());
    }
  }

  /** Decides that the mended camera and points are the solve, and measures the files on it anew. */
  private void useMended() {
    List<Path> files = paths;
    session
        .store()
        .work(
            "Mending " + name,
            (s, p) -> Decided.of(s, new ReturnDecision.UseMended(files), p),
            d -> d,
            d -> {
              String words = ((Outcome.Solve) d.outcome().orElseThrow()).words();
              session.message().set(words.replace("\n", "; "));
              check(files);
            },
            session.message()::set);
  }

  /** Writes the file with its mix-up undone, and measures it from disk. */
  public void mend(Path to) {
    ReturnedFile of = file;
    Observations seen = evidence;
    session
        .jobs()
        .run(
            Lane.SEND,
            "Writing " + to.getFileName(),
            p -> of.mend(to, seen, p),
            r -> {
              List<String> gone = Mending.leftOut(of.shot());
              session
                  .message()
                  .set(
                      String.format(
                          Locale.ROOT,
                          "Wrote %s: %.2f px, read from disk%s",
                          to.getFileName(),
                          r.errorPx(),
                          gone.isEmpty() ? "" : "; not in it: " + String.join(", ", gone)));
            },
            why -> session.message().set(why));
  }

  private static String verdict(SuspectReport r) {
    return r.cause()
        .map(
            c ->
                c.causes().stream()
                    .map(x -> x.code() + " " + x.value())
                    .collect(Collectors.joining(", ")))
        .orElse(r.errorPx() <= FINE_PX ? "nothing is wrong" : "no cause found");
  }

  /** What was found, as it is shown. */
  List<String> sentences() {
    return found.getChildren().stream()
        .filter(Label.class::isInstance)
        .map(n -> ((Label) n).getText())
        .toList();
  }

  private void show() {
    found.getChildren().clear();
    boolean cause = file != null && file.report().cause().isPresent();
    mend.setDisable(!cause);
    use.setDisable(!cause);
    copy.setDisable(!cause);
    actions.setVisible(cause);
    found.setVisible(file != null);
    if (file == null) {
      return;
    }
    SuspectReport r = file.report();
    text(String.format(Locale.ROOT, "%s: %.2f px", name, r.errorPx()), "number");
    file.laid()
        .ifPresent(
            l -> text(l.substring(0, 1).toUpperCase(Locale.ROOT) + l.substring(1) + ".", "note"));
    r.notes().forEach(n -> text(n + ".", "note"));
    if (!cause) {
      text(
          r.errorPx() <= FINE_PX
              ? "Nothing is wrong that the tracks show."
              : "No cause explains it. The best that was tried:",
          "note");
    }
    r.suspects().stream()
        .filter(s -> cause ? s.confident() : r.errorPx() > FINE_PX)
        .limit(cause ? 1 : SHOWN)
        .forEach(this::add);
  }

  private void add(Suspect s) {
    text(s.sentence() + ".", s.confident() ? "bite" : "note");
    if (s.confident() && !s.alike().isEmpty()) {
      text("The tracks cannot tell it from " + s.alikeWords() + ".", "note");
    }
  }

  private void text(String s, String style) {
    Label l = Desk.wrapped();
    l.setText(s);
    l.getStyleClass().add(style);
    found.getChildren().add(l);
  }
}
