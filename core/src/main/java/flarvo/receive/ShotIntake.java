package flarvo.receive;

import flarvo.format.Formats;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.format.table.PixelReading;
import flarvo.format.table.TableAdvice;
import flarvo.format.table.TableGuess;
import flarvo.format.table.TableMapping;
import flarvo.lens.LensSheet;
import flarvo.plate.MovieUnpacker;
import flarvo.plate.PlateFinder;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Stream;

/** Puts one shot together from the files that came for it: scenes, tables, logs and plates. */
public final class ShotIntake {

  /** Folders inside a dropped folder that are looked into. */
  private static final int DEEPEST = 4;

  private final List<ReceivedFile> files = new ArrayList<>();
  private final List<PlateSequence> plates = new ArrayList<>();
  private final List<ShotLog> logs = new ArrayList<>();
  private final List<LensSheet> lenses = new ArrayList<>();
  private final List<Note> notes = new ArrayList<>();
  private final List<Path> tables = new ArrayList<>();
  private final Function<String, Optional<TableMapping>> known;

  /** What was said of tables; present where a table that is not understood is an error. */
  private final Optional<TableAdvice> advice;

  private Progress last = Progress.NONE;

  public ShotIntake() {
    this(text -> Optional.empty());
  }

  /**
   * @param known a mapping that was saved for tables like this text, where there is one
   */
  public ShotIntake(Function<String, Optional<TableMapping>> known) {
    this.known = known;
    this.advice = Optional.empty();
  }

  /**
   * One that nobody can ask: a table that is not sure to be understood is an error, with the
   * question.
   *
   * @param advice what was said of tables
   */
  public ShotIntake(TableAdvice advice) {
    this.known = text -> Optional.empty();
    this.advice = Optional.of(advice);
  }

  /** What lies in files, with nothing said of the sender. */
  public static ShotIntake of(List<Path> files, Progress progress) {
    ShotIntake in = new ShotIntake();
    files.forEach(f -> in.add(f, IntakeOptions.NONE, progress));
    return in;
  }

  /**
   * Another solve of a shot: its camera and points, with the 2D tracks, logs, lenses and plates of
   * the first, which are those of the second too.
   */
  public static ReceivedSet otherSolve(ReceivedSet first, List<Path> files, Progress progress) {
    ShotIntake in = new ShotIntake();
    IntakeOptions options = IntakeOptions.NONE.withReach(first.base().reach());
    files.forEach(f -> in.add(f, options, progress));
    boolean ownTracks = in.files.stream().anyMatch(f -> !f.scene().observations().isEmpty());
    for (ReceivedFile f : first.files()) {
      boolean solve = !f.scene().cameras().isEmpty() || !f.scene().trackers().isEmpty();
      if (!solve && !(ownTracks && !f.scene().observations().isEmpty())) {
        in.files.add(f);
      }
    }
    in.lenses.addAll(first.lenses());
    in.logs.addAll(first.logs());
    if (in.plates.isEmpty()) {
      in.plates.addAll(first.plates());
    }
    return in.received(options);
  }

  /**
   * What came for a shot, with another file's camera in the place of its own; and with its points,
   * where it has any, in the place of all that came.
   *
   * @throws InputError when it cannot be read, has no camera, or several files had one
   */
  public static ReceivedSet otherCamera(ReceivedSet first, Path file, Progress progress) {
    ReceivedSet other = otherSolve(first, List.of(file), progress);
    List<ReceivedFile> now = other.files().stream().filter(f -> f.path().equals(file)).toList();
    if (now.stream().allMatch(f -> f.scene().cameras().isEmpty())) {
      throw new InputError(file.toString(), "", "has no camera", "Choose a solve of this shot");
    }
    List<Path> had =
        first.files().stream()
            .filter(f -> !f.scene().cameras().isEmpty())
            .map(ReceivedFile::path)
            .toList();
    boolean points = now.stream().anyMatch(f -> !f.scene().trackers().isEmpty());
    if (points || had.isEmpty()) {
      return other;
    }
    if (had.size() > 1) {
      throw new InputError(
          file.toString(),
          "",
          "has one camera and no points; the shot has cameras of " + had.size() + " files",
          "Open all files of the new version together");
    }
    return replaced(first, Map.of(had.get(0), file), progress);
  }

  /**
   * What came for a shot, with some files in the place of others; the rest is not read again.
   *
   * @param instead the file that is read now, by the path of the one that it replaces
   * @throws InputError when one of them cannot be read
   */
  public static ReceivedSet replaced(
      ReceivedSet first, Map<Path, Path> instead, Progress progress) {
    ShotIntake in = new ShotIntake();
    IntakeOptions options = first.base();
    for (ReceivedFile f : first.files()) {
      Path now = instead.get(f.path());
      if (now == null) {
        in.files.add(f);
      } else if (f.mapping().isPresent()) {
        in.add(now, f.mapping().get(), options, progress);
      } else {
        in.add(now, options, progress);
      }
    }
    for (LensSheet l : first.lenses()) {
      Path now = instead.get(l.path());
      in.lenses.add(now == null ? l : LensSheet.read(now));
    }
    for (ShotLog l : first.logs()) {
      Path now = instead.get(l.path());
      in.logs.add(now == null ? l : ShotLog.read(now));
    }
    in.plates.addAll(first.plates());
    in.tables.addAll(first.unmapped());
    return in.received(options);
  }

  /**
   * Takes in a file by its content, the plates that a picture belongs to, or all that lies in a
   * folder.
   */
  public ShotIntake add(Path path, IntakeOptions options, Progress progress) {
    if (Files.isDirectory(path)) {
      folder(path, options.withReach(options.reach().within(path)), progress, 0);
    } else if (PlateFinder.isPicture(path)) {
      plates.addAll(PlateFinder.find(path));
    } else {
      file(path, options, progress);
    }
    return this;
  }

  /** The sequences of a folder, without what lies in folders below it. */
  public ShotIntake addPlates(Path folder) {
    try {
      plates.addAll(PlateFinder.find(folder));
    } catch (InputError e) {
      notes.add(Note.ignored(folder.getFileName().toString(), e.reason()));
    }
    return this;
  }

  /** Like {@link #add}, but what cannot be read is noted and left alone. */
  public ShotIntake addReadable(Path path, IntakeOptions options, Progress progress) {
    try {
      return add(path, options, progress);
    } catch (InputError e) {
      notes.add(Note.ignored(path.getFileName().toString(), e.reason()));
      return this;
    }
  }

  /** Plates that are already known, with the role they were given. */
  public ShotIntake add(PlateSequence sequence) {
    plates.add(sequence);
    return this;
  }

  /** A log that was read before, such as the entry of a shot list. */
  public ShotIntake add(ShotLog log) {
    logs.add(log);
    return this;
  }

  /** A table as a mapping says. */
  public ShotIntake add(Path path, TableMapping mapping, IntakeOptions options, Progress progress) {
    files.add(ReceivedFile.read(path, mapping, options.from(), progress));
    return this;
  }

  /**
   * A table that is read by a mapping; empty for any other file.
   *
   * @throws InputError when it is not sure to be understood
   */
  public Optional<ReceivedFile> mapped(Path file, IntakeOptions options) {
    if (Files.isDirectory(file) || !isForeignTable(file, TextSource.head(file), options)) {
      return Optional.empty();
    }
    String text = TextSource.read(file, ReadLimits.USUAL);
    return Optional.of(
        TableAsk.read(
            file,
            text,
            advice.orElse(TableAdvice.NONE),
            options.size(),
            options.rate(),
            options.from(),
            Progress.NONE));
  }

  /**
   * Whether a file looks like a table, by its beginning; the line that the beginning cuts off does
   * not count.
   */
  public static boolean isTable(byte[] head) {
    String text = new String(head, StandardCharsets.UTF_8);
    int end = text.lastIndexOf('\n');
    boolean whole = end > 0 && head.length == TextSource.HEAD;
    return ShotLog.recognises(head) && TableGuess.isTable(whole ? text.substring(0, end) : text);
  }

  /**
   * A table that is read by a mapping. One whose columns are called as ours is read as ours, unless
   * something was said of it, or it leaves open what its rotations mean and nobody can be asked.
   */
  private boolean isForeignTable(Path path, byte[] head, IntakeOptions options) {
    if (!Formats.isKnown(head)) {
      return isTable(head);
    }
    if (advice.isEmpty() || !isTable(head) || !Formats.byId("table").recognises(head)) {
      return false;
    }
    boolean open =
        options.from().isEmpty() && TableAsk.isOpen(TextSource.read(path, ReadLimits.USUAL));
    return open || !advice.get().equals(TableAdvice.NONE);
  }

  private void file(Path path, IntakeOptions options, Progress progress) {
    byte[] head = TextSource.head(path);
    last = progress;
    if (MovieUnpacker.isMovie(head)) {
      MovieUnpacker.Unpacked u = MovieUnpacker.unpack(path, head, progress);
      plates.addAll(PlateFinder.find(u.folder()));
      logs.add(ShotLog.read(u.log()));
      notes.add(
          Note.changed(
              path.getFileName().toString(),
              "a movie; its pictures are in " + u.folder().getFileName()));
    } else if (LensSheet.recognises(head)) {
      lenses.add(LensSheet.read(path));
    } else if (isForeignTable(path, head, options)) {
      tables.add(path); // read when everything is here: it may need the picture's size
    } else if (!Formats.isKnown(head) && !Formats.isExtension(path) && ShotLog.recognises(head)) {
      logs.add(ShotLog.read(path));
    } else {
      ReceivedFile f =
          ReceivedFile.read(path, options.from(), Optional.empty(), options.limits(), progress);
      files.add(f);
      notes.addAll(f.scene().notes());
    }
  }

  /** What is not understood in a folder is noted and left alone. */
  private void folder(Path path, IntakeOptions options, Progress progress, int depth) {
    List<Path> inside;
    try (Stream<Path> list = Files.list(path)) {
      inside = list.sorted().toList();
    } catch (IOException e) {
      throw new InputError(path.toString(), "", "the folder cannot be read", "", e);
    }
    boolean pictures = inside.stream().anyMatch(PlateFinder::isPicture);
    if (pictures) {
      plates.addAll(PlateFinder.find(path));
    }
    for (Path p : inside) {
      progress.step(0, 0);
      if (Files.isDirectory(p) && depth < DEEPEST) {
        folder(p, options, progress, depth + 1);
      } else if (Files.isRegularFile(p) && !PlateFinder.isPicture(p)) {
        addReadable(p, options, progress);
      }
    }
    if (depth == 0 && files.isEmpty() && plates.isEmpty() && logs.isEmpty()) {
      // A file of a kind that is known here says more than a folder without any.
      Optional<Note> broken = ReceivedSet.unreadable(notes);
      if (broken.isPresent()) {
        throw new InputError(
            path.toString(),
            "",
            "nothing in this folder can be read: " + broken.get(),
            "Request a new copy");
      }
      throw new InputError(
          path.toString(),
          "",
          "there is nothing in this folder that is known here",
          "Drop the folder with the camera, the tracks or the plates");
    }
  }

  /** Everything that was added, under what the user said of the sender. */
  public ReceivedSet received(IntakeOptions base) {
    List<Path> unmapped = new ArrayList<>();
    Optional<Rate> rate = set(unmapped, base).statedRate(base);
    List<Path> open = new ArrayList<>();
    // Tables that state the picture's size come first: others may need it.
    tables.sort(
        Comparator.comparing(
            t -> !TableAdvice.saysPicture(new String(TextSource.head(t), StandardCharsets.UTF_8))));
    for (Path t : tables) {
      if (table(t, picture(unmapped, base), rate, base, unmapped)) {
        open.add(t);
      }
    }
    tables.clear();
    open.forEach(t -> fit(t, picture(unmapped, base), set(unmapped, base)));
    return set(unmapped, base);
  }

  private Optional<PictureSize> picture(List<Path> unmapped, IntakeOptions base) {
    try {
      return Optional.of(set(unmapped, base).picture(base));
    } catch (InputError e) {
      return Optional.empty();
    }
  }

  /** Which way y grows is told by what fits, where the table does not say. */
  private void fit(Path table, Optional<PictureSize> picture, ReceivedSet set) {
    int at = 0;
    while (at < files.size() && !files.get(at).path().equals(table)) {
      at++;
    }
    if (at == files.size()
        || files.get(at).scene().observations().isEmpty()
        || advice.isPresent() && advice.get().up().isPresent()) {
      return;
    }
    String text = TextSource.read(table, ReadLimits.USUAL);
    if (TableAdvice.saysY(text)) {
      return;
    }
    ReceivedFile f = files.get(at);
    Optional<MappingTrials.Fitting> better = MappingTrials.fitting(set, f, picture, text, last);
    String name = table.getFileName().toString();
    if (better.isPresent()) {
      files.set(at, better.get().file());
      notes.add(Note.assumed(name, better.get().why()));
    } else if (f.mapping().filter(m -> m.pixels().equals(PixelReading.CANONICAL)).isPresent()) {
      notes.add(Note.assumed(name, "2D numbers are read from the top left, y down"));
    }
  }

  private ReceivedSet set(List<Path> unmapped, IntakeOptions base) {
    return new ReceivedSet(files, plates, logs, lenses, unmapped, base, notes);
  }

  /**
   * Read as it was mapped before, or as it looks; else left for the user to map.
   *
   * @return whether how it is read is a guess
   */
  private boolean table(
      Path path,
      Optional<PictureSize> picture,
      Optional<Rate> rate,
      IntakeOptions base,
      List<Path> unmapped) {
    String text = TextSource.read(path, ReadLimits.USUAL);
    if (advice.isPresent()) {
      advised(path, text, picture, rate, base);
      return advice.get().mapping().isEmpty();
    }
    Optional<TableMapping> saved = known.apply(text);
    TableMapping look = saved.orElseGet(() -> TableGuess.of(text));
    TableMapping m =
        look.withPicture(picture.or(look::picture)).withRate(look.rate().or(() -> rate));
    String name = path.getFileName().toString();
    if (m.kind().isEmpty()) {
      unmapped.add(path);
      notes.add(Note.ignored(name, m.lacks() + "; assign its columns"));
      return false;
    }
    try {
      ReceivedFile f = ReceivedFile.read(path, m, base.from(), last);
      files.add(f);
      notes.addAll(f.scene().notes());
      notes.add(
          Note.assumed(
              name,
              m.kind().get().word()
                  + (saved.isPresent()
                      ? " by the saved mapping '" + m.name() + "'"
                      : " by the look of the columns" + open(text, m, base))));
      return saved.isEmpty();
    } catch (InputError e) {
      unmapped.add(path);
      notes.add(Note.ignored(name, e.reason() + "; assign its columns"));
      return false;
    }
  }

  /** What of a guess is to be checked. */
  private static String open(String text, TableMapping m, IntakeOptions base) {
    List<String> open =
        TableAdvice.NONE.doubts(text, m).stream()
            .filter(d -> base.from().isEmpty() || !m.isCamera())
            .map(TableAdvice.Doubt::what)
            .toList();
    return open.isEmpty() ? "" : "; check it: " + String.join(", ", open);
  }

  private void advised(
      Path path,
      String text,
      Optional<PictureSize> picture,
      Optional<Rate> rate,
      IntakeOptions base) {
    ReceivedFile f = TableAsk.read(path, text, advice.get(), picture, rate, base.from(), last);
    files.add(f);
    notes.addAll(f.scene().notes());
    notes.add(
        Note.assumed(
            path.getFileName().toString(),
            "read as "
                + f.mapping().flatMap(TableMapping::kind).orElseThrow().word()
                + ": "
                + TableAdvice.words(f.mapping().orElseThrow())));
  }

  /** What the readers noted. */
  public List<Note> notes() {
    return List.copyOf(notes);
  }

  /** See {@link ReceivedSet#shot(String, IntakeOptions)}. */
  public Shot shot(String name, IntakeOptions options) {
    return received(options).shot(name, options);
  }
}
