package flarvo.desktop.session;

import flarvo.decision.ReceiveDecision;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.format.table.TableGuess;
import flarvo.format.table.TableMapping;
import flarvo.project.MappingShelf;
import flarvo.project.UserFolder;
import flarvo.receive.MappingTrials;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.work.AtomicFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.animation.PauseTransition;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleObjectProperty;
import javafx.util.Duration;

/**
 * The table whose columns are being named: a draft of its mapping, and what it reads as, made anew
 * in the background after every change.
 */
public final class TableImport {

  /** Changes that follow each other faster are read together. */
  private static final Duration QUIET = Duration.millis(120);

  /**
   * @param mapping what was tried
   * @param file what it makes; empty when it makes nothing
   * @param why it makes nothing; empty when it does
   * @param medianPx error of the whole shot with it; NaN where nothing can be measured
   * @param ways to read 2D numbers, best first; empty for other tables
   */
  public record Outcome(
      TableMapping mapping,
      Optional<ReceivedFile> file,
      String why,
      double medianPx,
      List<MappingTrials.Way> ways) {}

  /**
   * A table that is open, and the files it came with.
   *
   * @param own whether it goes into the open shot; else its files make a shot of their own
   */
  public record Table(Path path, String text, ReceivedSet set, boolean own) {}

  private final Session session;
  private final MappingShelf shelf = new MappingShelf(UserFolder.path());
  private final ReadOnlyObjectWrapper<Table> table = new ReadOnlyObjectWrapper<>();
  private final ObjectProperty<TableMapping> draft = new SimpleObjectProperty<>();
  private final ReadOnlyObjectWrapper<Outcome> outcome = new ReadOnlyObjectWrapper<>();
  private final PauseTransition quiet = new PauseTransition(QUIET);

  TableImport(Session session) {
    this.session = session;
    draft.addListener((o, a, b) -> quiet.playFromStart());
    quiet.setOnFinished(e -> read());
  }

  /** Null while none is open. */
  public ReadOnlyObjectProperty<Table> table() {
    return table.getReadOnlyProperty();
  }

  /** What the user has said so far; setting it reads the table anew. */
  public ObjectProperty<TableMapping> draft() {
    return draft;
  }

  /** What the newest draft that was read makes of the table. */
  public ReadOnlyObjectProperty<Outcome> outcome() {
    return outcome.getReadOnlyProperty();
  }

  public List<TableMapping> saved() {
    return shelf.list();
  }

  Optional<TableMapping> suggest(String text) {
    return shelf.suggest(text);
  }

  /** Shows a table of the open shot. */
  public void open(Path path) {
    session
        .state()
        .get()
        .received()
        .ifPresentOrElse(
            set -> open(path, set, true),
            () -> session.message().set("This shot came from no files"));
  }

  /** Shows a table of files that make no shot before its columns are known. */
  void openWaiting(ReceivedSet set) {
    open(set.unmapped().get(0), set, false);
  }

  private void open(Path path, ReceivedSet set, boolean own) {
    session
        .jobs()
        .run(
            "Reading " + path.getFileName(),
            p -> new Table(path, TextSource.read(path, ReadLimits.USUAL), set, own),
            t -> show(t, known(t)),
            session.message()::set);
  }

  private void show(Table t, TableMapping first) {
    outcome.set(null);
    table.set(t);
    draft.set(null);
    draft.set(first);
    session.stop().set(Stop.RECEIVE);
  }

  /** As it was read, else as a saved mapping says, else as it looks. */
  private TableMapping known(Table t) {
    Optional<PictureSize> picture = picture(t.set());
    return t.set().files().stream()
        .filter(f -> f.path().equals(t.path()))
        .flatMap(f -> f.mapping().stream())
        .findFirst()
        .orElseGet(
            () ->
                shelf
                    .suggest(t.text())
                    .orElseGet(() -> TableGuess.of(t.text()))
                    .withPicture(picture));
  }

  private Optional<PictureSize> picture(ReceivedSet set) {
    try {
      return Optional.of(set.picture(rulings().over(set.base())));
    } catch (InputError e) {
      return Optional.empty();
    }
  }

  /** What stands or is proposed, so that a table is not blamed for other questions. */
  private Rulings rulings() {
    return session.ledger().get() != null
        ? session.ledger().get().proposals()
        : session.state().get() == null ? Rulings.NONE : session.state().get().rulings();
  }

  /** Text from the clipboard becomes a file, so that the project can name it. */
  public void paste(String text) {
    if (!TableGuess.isTable(text)) {
      session.message().set("The clipboard holds no table: rows of numbers alike are wanted");
      return;
    }
    if (session.state().get() == null || session.state().get().received().isEmpty()) {
      session.message().set("Open the shot that the pasted table belongs to first");
      return;
    }
    String at =
        DateTimeFormatter.ofPattern("yyyyMMdd-HHmmss", Locale.ROOT)
            .format(LocalDateTime.now(ZoneId.systemDefault()));
    Path folder =
        session.project().map(p -> p.folder()).orElse(UserFolder.path()).resolve("pasted");
    Path file = folder.resolve("pasted-" + at + ".txt");
    session
        .jobs()
        .run(
            "Keeping what was pasted",
            p -> {
              AtomicFile.write(file, out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
              return file;
            },
            this::open,
            session.message()::set);
  }

  /** Cut anew: roles are guessed again, all else stays. */
  public void cut(flarvo.format.table.TableLayout layout) {
    Table t = table.get();
    TableMapping now = draft.get();
    TableMapping guess = TableGuess.columns(t.text(), layout);
    draft.set(now.withLayout(layout, guess.columns()));
  }

  private void read() {
    Table t = table.get();
    TableMapping m = draft.get();
    if (t == null || m == null) {
      return;
    }
    Rulings rulings = rulings();
    session
        .jobs()
        .run(
            "Reading " + t.path().getFileName(),
            p -> {
              try {
                ReceivedFile f = ReceivedFile.read(t.path(), t.text(), m, t.set().base().from(), p);
                return new Outcome(
                    m,
                    Optional.of(f),
                    "",
                    MappingTrials.medianPx(t.set().with(f), rulings),
                    MappingTrials.of(t.set(), rulings, t.path(), t.text(), m, p));
              } catch (InputError e) {
                String place = e.place().equals("columns") ? "" : e.place() + ": ";
                return new Outcome(m, Optional.empty(), place + e.reason(), Double.NaN, List.of());
              }
            },
            made -> {
              if (m.equals(draft.get()) && t.equals(table.get())) {
                outcome.set(made);
              }
            },
            session.message()::set);
  }

  /** Takes the table into the shot as it is read now. */
  public void use() {
    Outcome o = outcome.get();
    Table t = table.get();
    if (t == null || o == null || o.file().isEmpty() || !o.mapping().equals(draft.get())) {
      session.message().set("The table cannot be read so yet");
      return;
    }
    ReceivedSet next = t.set().with(o.file().get());
    close();
    if (!t.own() || session.state().get() == null) {
      session.receive(next);
    } else {
      session.apply(
          new ReceiveDecision.MapTable(t.path(), o.mapping()),
          new flarvo.decision.Outcome.Table(o.file()));
    }
  }

  /** Keeps the draft under a name, for tables that look alike. */
  public void save(String name) {
    Table t = table.get();
    if (t == null || draft.get() == null) {
      return;
    }
    try {
      TableMapping named = draft.get().withName(name.trim());
      shelf.save(named, t.text());
      draft.set(named);
      session.message().set("Kept the mapping '" + name.trim() + "'");
    } catch (InputError e) {
      session.message().set(e.getMessage());
    }
  }

  public void close() {
    quiet.stop();
    table.set(null);
    draft.set(null);
    outcome.set(null);
  }

  /** A few lines of what was read, in the words of the shot. */
  public static List<String> sample(FileScene s, int lines) {
    return ReadSample.of(s, lines);
  }

  /** How much was read, in one phrase. */
  public static String sum(FileScene s) {
    return ReadSample.sum(s);
  }
}
