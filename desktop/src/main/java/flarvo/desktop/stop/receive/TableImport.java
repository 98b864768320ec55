package flarvo.desktop.stop.receive;

import flarvo.decision.ReceiveDecision;
import flarvo.desktop.state.Session;
import flarvo.desktop.work.Lane;
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
import flarvo.scene.Rate;
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
   * @param errorPx of the whole shot with it; NaN where nothing can be measured
   * @param ways to read 2D numbers, best first; empty for other tables
   */
  public record Outcome(
      TableMapping mapping,
      Optional<ReceivedFile> file,
      String why,
      double errorPx,
      List<MappingTrials.Way> ways) {}

  /**
   * A table that is open, and the files it came with.
   *
   * @param own whether it goes into the open shot; else its files make a shot of their own
   */
  public record Table(Path path, String text, ReceivedSet set, boolean own) {}

  private final Session session;
  private final MappingShelf shelf;
  private final ReadOnlyObjectWrapper<Table> table = new ReadOnlyObjectWrapper<>();
  private final ObjectProperty<TableMapping> draft = new SimpleObjectProperty<>();
  private final ReadOnlyObjectWrapper<Outcome> outcome = new ReadOnlyObjectWrapper<>();
  private List<TableMapping> saved = List.of();
  private final PauseTransition quiet = new PauseTransition(QUIET);

  @SuppressWarnings("ReferenceEquality") // what came in is shared, not copied
  public TableImport(Session session) {
    this.session = session;
    shelf = session.project().shelf();
    session
        .project()
        .waiting()
        .addListener(
            (o, a, b) -> {
              if (b != null) {
                open(b.unmapped().get(0), b, false);
              }
            });
    session
        .project()
        .pasted()
        .addListener(
            (o, a, b) -> {
              if (b != null) {
                paste(b);
              }
            });
    session
        .store()
        .now()
        .addListener(
            (o, a, b) -> {
              if (a.state().received().orElse(null) != b.state().received().orElse(null)) {
                close(); // it belongs to what came in before
              }
            });
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

  /** Mappings that were saved under a name, as the table was opened with them. */
  public List<TableMapping> saved() {
    return saved;
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

  private record Opened(Table table, TableMapping first, List<TableMapping> saved) {}

  private void open(Path path, ReceivedSet set, boolean own) {
    Rulings rulings = rulings();
    session
        .jobs()
        .newest(
            this,
            Lane.MEASURE,
            "Reading " + path.getFileName(),
            p -> {
              Table t = new Table(path, TextSource.read(path, ReadLimits.USUAL), set, own);
              return new Opened(t, known(t, rulings), shelf.list());
            },
            this::show,
            session.message()::set);
  }

  private void show(Opened o) {
    saved = o.saved();
    outcome.set(null);
    table.set(o.table());
    draft.set(null);
    draft.set(o.first());
    session.stop().set(ReceiveStop.ID);
  }

  /** As it was read, else as a saved mapping says, else as it looks. */
  private TableMapping known(Table t, Rulings rulings) {
    Optional<PictureSize> picture = picture(t.set(), rulings);
    Optional<Rate> rate = t.set().statedRate(rulings.over(t.set().base()));
    Optional<TableMapping> read =
        t.set().files().stream()
            .filter(f -> f.path().equals(t.path()))
            .flatMap(f -> f.mapping().stream())
            .findFirst();
    TableMapping m =
        read.or(() -> shelf.suggest(t.text())).orElseGet(() -> TableGuess.of(t.text()));
    return m.withPicture(read.isPresent() ? m.picture() : picture.or(m::picture))
        .withRate(m.rate().or(() -> rate));
  }

  private static Optional<PictureSize> picture(ReceivedSet set, Rulings rulings) {
    try {
      return Optional.of(set.picture(rulings.over(set.base())));
    } catch (InputError e) {
      return Optional.empty();
    }
  }

  /** What stands or is proposed, so that a table is not blamed for other questions. */
  private Rulings rulings() {
    return session.ledger().get() != null
        ? session.ledger().get().proposals()
        : session.state().get().rulings();
  }

  /** Text from the clipboard becomes a file, so that the project can name it. */
  public void paste(String text) {
    if (!TableGuess.isTable(text)) {
      session.message().set("The clipboard does not contain a table: expected rows of numbers");
      return;
    }
    if (session.state().get().received().isEmpty()) {
      session.message().set("Open the shot that the pasted table belongs to first");
      return;
    }
    String at =
        DateTimeFormatter.ofPattern("yyyyMMdd-HHmmss", Locale.ROOT)
            .format(LocalDateTime.now(ZoneId.systemDefault()));
    Path folder =
        session.project().file().map(p -> p.folder()).orElse(UserFolder.data()).resolve("pasted");
    Path file = folder.resolve("pasted-" + at + ".txt");
    session
        .jobs()
        .run(
            Lane.KEEP,
            "Saving the pasted table",
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
        .newest(
            this,
            Lane.MEASURE,
            "Reading " + t.path().getFileName(),
            p -> {
              try {
                ReceivedFile f = ReceivedFile.read(t.path(), t.text(), m, t.set().base().from(), p);
                return new Outcome(
                    m,
                    Optional.of(f),
                    "",
                    MappingTrials.errorPx(t.set().with(f), rulings),
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
      session.message().set("This mapping cannot read the table yet");
      return;
    }
    ReceivedSet next = t.set().with(o.file().get());
    close();
    if (!t.own() || !session.isOpen()) {
      session.project().receive(next);
    } else {
      session
          .store()
          .decide(
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
    TableMapping named;
    try {
      named = draft.get().withName(name.trim());
    } catch (InputError e) {
      session.message().set(e.getMessage());
      return;
    }
    session
        .jobs()
        .run(
            Lane.KEEP,
            "Saving the mapping",
            p -> {
              shelf.save(named, t.text());
              return shelf.list();
            },
            all -> {
              saved = all;
              if (t.equals(table.get())) {
                draft.set(named);
              }
              session.message().set("Saved the mapping '" + name.trim() + "'");
            },
            session.message()::set);
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
