package flarvo.recipe;

import flarvo.decision.Replay;
import flarvo.decision.ShotState;
import flarvo.decision.StateLedger;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.DeliveryFiles;
import flarvo.dispatch.DeliveryPlace;
import flarvo.dispatch.Outgoing;
import flarvo.dispatch.PathPattern;
import flarvo.note.HandoverNote;
import flarvo.plate.match.PlateCheck;
import flarvo.proof.DriftReport;
import flarvo.proof.Handover;
import flarvo.receive.Conflict;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.Collectors;

/** One shot through a recipe: received, decided, sent and proven. */
final class ShotRun {

  private final Recipe recipe;
  private final RunOptions options;
  private final Path folder;
  private final String name;
  private final RunRecord record;
  private final long begun = System.nanoTime();
  private final List<ShotResult.Made> decisions = new ArrayList<>();
  private final List<ShotResult.Sent> deliveries = new ArrayList<>();
  private final List<String> losses = new ArrayList<>();
  private List<PlateCheck> plates;

  ShotRun(Recipe recipe, RunOptions options, Path folder, String name, RunRecord record) {
    this.recipe = recipe;
    this.options = options;
    this.folder = folder;
    this.name = name;
    this.record = record;
  }

  /**
   * Does what is missing.
   *
   * @throws InputError when the shot cannot be worked on at all
   * @throws flarvo.work.Cancelled when the user stopped
   */
  ShotResult run(Progress progress) {
    ShotIntake intake = new ShotIntake();
    for (Path part : options.parts(folder)) {
      intake.add(part, IntakeOptions.NONE, progress.part(0, 4));
    }
    ReceivedSet received = intake.received(IntakeOptions.NONE);
    received.notes().forEach(n -> losses.add("read: " + n));
    refuseBroken(received);
    ShotState start = ShotState.of(name, received);
    Replay replay = Replay.of(start, recipe.decisions(), progress.part(1, 4));
    for (Replay.Line l : replay.lines()) {
      decisions.add(new ShotResult.Made(l.title(), l.applied(), l.why()));
    }
    ShotState s = replay.history().present();
    List<String> missed = decisions.stream().filter(d -> !d.whole()).map(ShotRun::words).toList();
    Optional<String> question = question(s, progress);
    if (question.isPresent()) {
      // A decision that failed may be why the question is open, and comes first.
      boolean failed = decisions.stream().anyMatch(d -> !d.applied());
      List<String> all = new ArrayList<>(missed);
      all.add(question.get());
      return result(
          failed ? ShotResult.State.NOT_APPLIED : ShotResult.State.OPEN_QUESTION,
          String.join("; ", all));
    }
    if (!missed.isEmpty() && !options.sendIncomplete()) {
      return result(ShotResult.State.NOT_APPLIED, String.join("; ", missed));
    }
    boolean failed = send(s, progress);
    Optional<String> fault = options.notes() ? note(s, progress) : Optional.empty();
    failed |= fault.isPresent();
    boolean holds = deliveries.stream().allMatch(ShotResult.Sent::holds);
    ShotResult.State state =
        failed
            ? ShotResult.State.FAILED
            : !holds
                ? ShotResult.State.DOES_NOT_HOLD
                : missed.isEmpty() ? ShotResult.State.HOLDS : ShotResult.State.NOT_APPLIED;
    ShotResult r =
        result(
            state,
            deliveries.stream()
                .filter(d -> !d.holds())
                .map(d -> d.recipient() + ": " + d.said())
                .findFirst()
                .or(() -> fault)
                .orElse(String.join("; ", missed)));
    if (state == ShotResult.State.HOLDS) {
      record.end(r);
    }
    return r;
  }

  /** A folder's file that is no file of ours is left alone; a scene that cannot be read is not. */
  private static void refuseBroken(ReceivedSet received) {
    Optional<Note> broken = received.unreadable();
    if (broken.isPresent()) {
      throw new InputError(
          broken.get().where(), "", broken.get().text(), "Request a new copy, or remove it");
    }
  }

  private Optional<String> question(ShotState s, Progress progress) {
    ReceivedSet set = s.received().orElseThrow();
    if (!set.unmapped().isEmpty()) {
      return Optional.of(
          set.unmapped().stream()
              .map(p -> "the columns of " + p.getFileName() + " are not understood")
              .collect(Collectors.joining("; ")));
    }
    List<Conflict> open = StateLedger.of(s, progress.part(2, 4)).open();
    return open.isEmpty()
        ? Optional.empty()
        : Optional.of(
            open.stream()
                .map(
                    c ->
                        c.fact().id()
                            + ": "
                            + c.sentence()
                            + (c.proposal().isEmpty() ? "" : " Proposed: " + c.proposal()))
                .collect(Collectors.joining("; ")));
  }

  private static String words(ShotResult.Made d) {
    return d.title() + ": " + String.join(", ", d.why());
  }

  /** Sends what is not there yet; whether anything could not be written. */
  private boolean send(ShotState s, Progress progress) {
    Outgoing from = s.outgoing();
    Shot shot = from.shot();
    int version = version(from);
    boolean failed = false;
    Set<Path> taken = new HashSet<>();
    for (Delivery pattern : recipe.deliveries()) {
      progress.step(3, 4);
      Optional<ShotResult.Sent> there = record.fresh(pattern.name());
      if (there.isPresent()) {
        deliveries.add(there.get());
        continue;
      }
      String fileName = fileName(pattern, shot, OptionalInt.of(version));
      try {
        Path file = DeliveryPlace.in(options.out(), fileName);
        Delivery d = pattern.withFileName(fileName);
        List<Path> files = DeliveryFiles.of(from, d, file);
        if (files.stream().anyMatch(f -> !taken.add(f))) {
          throw InputError.words(
              "two deliveries of the shot are called " + fileName, "Use {recipient} in the name");
        }
        requireFree(files);
        Files.createDirectories(file.getParent());
        record.begin(files);
        Handover h =
            Handover.send(
                from, d, file, recipe.limitPx(), plates(s, progress), progress.part(3, 4));
        h.sent().notes().forEach(n -> losses.add(d.name() + ": " + n.kind().word() + " " + n));
        ShotResult.Sent sent =
            new ShotResult.Sent(
                d.name(),
                fileName,
                h.proof().holds(),
                false,
                h.proof().sentence(),
                drift(h.proof().drift()));
        deliveries.add(sent);
        record.add(sent, files);
      } catch (InputError | java.io.IOException e) {
        failed = true;
        deliveries.add(
            new ShotResult.Sent(
                pattern.name(), "", false, false, e.getMessage(), OptionalDouble.empty()));
      }
    }
    return failed;
  }

  /** Measured once a shot, when something is sent. */
  private List<PlateCheck> plates(ShotState s, Progress progress) {
    if (plates == null) {
      plates = PlateCheck.of(s.shot(), s.lens().track(), progress.part(3, 4));
    }
    return plates;
  }

  /** Whether a note is wanted of a shot that is done otherwise. */
  static boolean lacksNote(ShotResult done, RunOptions options) {
    Optional<ShotResult.Sent> first =
        done.deliveries().stream().filter(d -> !d.file().isEmpty()).findFirst();
    return options.notes()
        && first.isPresent()
        && !Files.exists(page(first.get(), done.shot(), options));
  }

  private static Path page(ShotResult.Sent first, String shot, RunOptions options) {
    return HandoverNote.page(DeliveryPlace.in(options.out(), first.file()).getParent(), shot);
  }

  /** The page on what lies on disk now; why there is none, if it cannot be written. */
  private Optional<String> note(ShotState s, Progress progress) {
    Map<Delivery, Path> there = new LinkedHashMap<>();
    for (ShotResult.Sent sent : deliveries) {
      recipe.deliveries().stream()
          .filter(d -> d.name().equals(sent.recipient()) && !sent.file().isEmpty())
          .forEach(
              d ->
                  there.put(
                      d.withFileName(sent.file()), DeliveryPlace.in(options.out(), sent.file())));
    }
    if (there.isEmpty()) {
      return Optional.empty();
    }
    try {
      Path page = HandoverNote.page(there.values().iterator().next().getParent(), name);
      HandoverNote.of(
              recipe.project(),
              name,
              s.outgoing(),
              there,
              plates(s, progress),
              recipe.limitPx(),
              Instant.now(),
              progress.part(3, 4))
          .write(page, progress.part(3, 4));
      return Optional.empty();
    } catch (InputError e) {
      return Optional.of("the hand-over note was not written: " + e.getMessage());
    }
  }

  private static OptionalDouble drift(Optional<DriftReport> d) {
    return d.isPresent() ? OptionalDouble.of(d.get().maxPx()) : OptionalDouble.empty();
  }

  private String fileName(Delivery d, Shot shot, OptionalInt version) {
    return PathPattern.of(d, recipe.project(), name, shot.frames(), version);
  }

  /** The version that a run began with, else the first of which no delivery has a file. */
  private int version(Outgoing from) {
    if (record.version() > 0) {
      return record.version();
    }
    int v = 1;
    while (v < PathPattern.MOST_VERSIONS && isUsed(from, v)) {
      v++;
    }
    record.choose(v);
    return v;
  }

  private boolean isUsed(Outgoing from, int version) {
    for (Delivery d : recipe.deliveries()) {
      if (PathPattern.hasVersion(d.fileName())) {
        Path file =
            options.out().resolve(fileName(d, from.shot(), OptionalInt.of(version))).normalize();
        if (DeliveryFiles.of(from, d, file).stream().anyMatch(Files::exists)) {
          return true;
        }
      }
    }
    return false;
  }

  private void requireFree(List<Path> files) {
    for (Path f : files) {
      if (Files.exists(f) && !options.overwrite() && !record.isOurs(f)) {
        throw new InputError(
            f.toString(),
            "",
            "the file is there and was not written by this recipe, or was changed since",
            "Use {version} in the name, or --overwrite");
      }
    }
  }

  private ShotResult result(ShotResult.State state, String said) {
    double seconds = (System.nanoTime() - begun) / 1e9;
    return new ShotResult(name, state, said, decisions, deliveries, losses, seconds);
  }
}
