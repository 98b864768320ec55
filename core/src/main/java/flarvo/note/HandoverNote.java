package flarvo.note;

import flarvo.convention.FrameMap;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.DeliveryPlace;
import flarvo.dispatch.Dispatcher;
import flarvo.dispatch.Extract;
import flarvo.dispatch.Outgoing;
import flarvo.dispatch.Sidecars;
import flarvo.lens.LensTrack;
import flarvo.plate.match.PlateCheck;
import flarvo.proof.BoardSender;
import flarvo.proof.Handover;
import flarvo.proof.ProofReport;
import flarvo.proof.RecipientView;
import flarvo.recipient.Bite;
import flarvo.recipient.Foretelling;
import flarvo.recipient.PlainImport;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.scene.WorldShot;
import flarvo.work.AtomicFile;
import flarvo.work.ParallelProgress;
import flarvo.work.Progress;
import flarvo.work.Workers;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;

/**
 * What is told of the deliveries of one shot.
 *
 * @param shot in solve space, with everything that was built on it
 * @param source the shot as it was sent
 * @param seen what the first delivery's camera sees, read back from its file; empty without one
 * @param made when the note was made
 */
public record HandoverNote(
    String project,
    String name,
    Shot shot,
    WorldShot source,
    Optional<WorldShot> seen,
    Optional<LensTrack> lens,
    List<Entry> entries,
    Instant made) {

  /** By which our own notes are known, so that nothing else is ever replaced by one. */
  static final String MARK = "<meta name=\"generator\" content=\"Flarvo hand-over note\">";

  private static final int HEAD = 512;

  /**
   * One delivery on disk.
   *
   * @param files the delivery's own first, then what lies beside it
   * @param plain what a plain import makes of it
   */
  public record Entry(
      Delivery delivery,
      List<FileFacts> files,
      FrameMap frames,
      ProofReport proof,
      PlainImport plain) {

    public Entry {
      files = List.copyOf(files);
    }

    /** What the recipient has to set, in the order in which it matters. */
    public List<String> settings() {
      return plain.bites().stream()
          .sorted(Comparator.comparing(Bite::setting))
          .map(Bite::ask)
          .toList();
    }
  }

  public HandoverNote {
    entries = List.copyOf(entries);
  }

  /**
   * Proves each delivery from its file on disk, and opens it as its recipient would.
   *
   * @param from what the deliveries were made from
   * @param sent where each delivery lies; in the order of the note
   * @param plates what was measured of the shot's plates
   * @throws InputError when a file cannot be read
   */
  public static HandoverNote of(
      String project,
      String name,
      Outgoing from,
      Map<Delivery, Path> sent,
      List<PlateCheck> plates,
      double limitPx,
      Instant made,
      Progress progress) {
    Shot shot = from.shot();
    ParallelProgress all = new ParallelProgress(progress, sent.size());
    List<Callable<Entry>> tasks = new ArrayList<>();
    sent.forEach(
        (d, file) -> {
          Progress part = all.part(tasks.size());
          tasks.add(() -> entry(from, d, file, plates, limitPx, part));
        });
    List<Entry> entries = Workers.all(BoardSender.AT_ONCE, "note", tasks);
    Optional<WorldShot> seen =
        sent.entrySet().stream()
            .flatMap(
                e -> {
                  Delivery d = e.getKey();
                  return RecipientView.of(shot, e.getValue(), d.dialect(), d.extract(), progress)
                      .stream();
                })
            .findFirst();
    Extract first = entries.isEmpty() ? Extract.WHOLE : entries.get(0).delivery().extract();
    return new HandoverNote(
        project, name, shot, first.of(shot).levelled(), seen, from.lens(), entries, made);
  }

  private static Entry entry(
      Outgoing from,
      Delivery d,
      Path file,
      List<PlateCheck> plates,
      double limitPx,
      Progress progress) {
    List<FileFacts> files = new ArrayList<>(List.of(FileFacts.of(file)));
    Dispatcher.companions(from.shot(d.contents()), d, file)
        .forEach(c -> files.add(FileFacts.of(c)));
    files.addAll(beside(Sidecars.of(from, d, file)));
    Shot over = d.extract().of(from.shot());
    return new Entry(
        d,
        files,
        d.dialect().frames().mapFor(over.frames(), over.rate()),
        Handover.prove(from, d, file, limitPx, plates, progress),
        Foretelling.open(from.shot(d.contents()), d, file, Foretelling.recipient(d), progress));
  }

  /** Copies of plates are one entry, for a recipient who counts them. */
  private static List<FileFacts> beside(Sidecars s) {
    List<FileFacts> out = new ArrayList<>();
    s.sheet().ifPresent(f -> out.add(FileFacts.of(f)));
    s.maps().forEach(m -> out.add(FileFacts.of(m.file())));
    s.tracks().ifPresent(t -> out.add(FileFacts.of(t.file())));
    if (!s.plates().isEmpty()) {
      out.add(FileFacts.ofAll(List.copyOf(s.plates().values())));
    }
    return out;
  }

  /** Where the note of a shot usually lies, beside its deliveries. */
  public static Path page(Path folder, String shot) {
    return DeliveryPlace.in(folder, shot.replaceAll("[^\\p{L}\\p{N}._ -]", "_") + "_note.html");
  }

  /** Whether every delivery holds. */
  public boolean holds() {
    return entries.stream().allMatch(e -> e.proof().holds());
  }

  /** One sentence on all of it. */
  public String sentence() {
    long proven = entries.stream().filter(e -> e.proof().holds()).count();
    double worst =
        entries.stream()
            .flatMap(e -> e.proof().drift().stream())
            .mapToDouble(d -> d.maxPx())
            .filter(Double::isFinite)
            .max()
            .orElse(Double.NaN);
    return proven
        + " of "
        + entries.size()
        + (entries.size() == 1 ? " delivery" : " deliveries")
        + " proven"
        + (Double.isNaN(worst) ? "." : String.format(Locale.ROOT, ", at most %.6f px.", worst));
  }

  /**
   * Writes the page, and the JSON beside it.
   *
   * @param page ends in {@code .html}
   * @return both files
   * @throws InputError when something else lies there, or the disk refuses
   */
  public List<Path> write(Path page, Progress progress) {
    Path json = beside(page);
    requireOurs(page);
    byte[] html = NotePage.of(this, progress).getBytes(StandardCharsets.UTF_8);
    byte[] data = NoteJson.text(this).getBytes(StandardCharsets.UTF_8);
    AtomicFile.write(
        List.of(
            new AtomicFile.Target(page, out -> out.write(html)),
            new AtomicFile.Target(json, out -> out.write(data))));
    return List.of(page, json);
  }

  private static Path beside(Path page) {
    String n = page.getFileName().toString();
    if (!n.endsWith(".html")) {
      throw new InputError(page.toString(), "", "a note is an HTML page", "Call it *.html");
    }
    return page.resolveSibling(n.substring(0, n.length() - 5) + ".json");
  }

  private static void requireOurs(Path page) {
    if (!Files.exists(page)) {
      return;
    }
    try (var in = Files.newInputStream(page)) {
      if (new String(in.readNBytes(HEAD), StandardCharsets.UTF_8).contains(MARK)) {
        return;
      }
    } catch (IOException e) {
      throw new InputError(page.toString(), "", "cannot be read", "Check its rights", e);
    }
    throw new InputError(
        page.toString(), "", "the file is there and is no hand-over note", "Choose another name");
  }
}
