package flarvo.desktop.state;

import flarvo.decision.DecisionEntry;
import flarvo.decision.DecisionLog;
import flarvo.decision.ShotState;
import flarvo.desktop.work.Lane;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.DeliveryPlace;
import flarvo.dispatch.PathPattern;
import flarvo.dispatch.Sidecars;
import flarvo.note.HandoverNote;
import flarvo.plate.match.PlateCheck;
import flarvo.project.ProjectFile;
import flarvo.proof.Handover;
import flarvo.recipe.Recipe;
import flarvo.recipe.RecipeJson;
import flarvo.report.InputError;
import flarvo.work.AtomicFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.collections.FXCollections;
import javafx.collections.ObservableMap;

/** Deliveries on their way out: written beside the window, read back and proven. */
public final class DeliveryRunner {

  private final Session session;
  private final ObservableMap<Delivery, SendState> states = FXCollections.observableHashMap();

  private final Map<String, Kept> kept = new HashMap<>();
  private final FilesInWork writing = new FilesInWork();
  private final MeasuredPlates.Memo plates = new MeasuredPlates.Memo();

  /** What was sent last under a name, and of which shot. */
  private record Kept(Delivery delivery, ShotState from, DecisionLog log, SendState state) {

    boolean isOf(ShotState s) {
      return from.isSameShot(s) && from.staging().equals(s.staging()) && hasSameLens(s);
    }

    boolean hasSameLens(ShotState s) {
      return !delivery.contents().hasLens() || from.lens().track().equals(s.lens().track());
    }
  }

  DeliveryRunner(Session session) {
    this.session = session;
  }

  /** How far each delivery is; none where it was not sent since the shot changed. */
  public ObservableMap<Delivery, SendState> states() {
    return states;
  }

  /** Folder that deliveries are written into. */
  public Path deliveryFolder() {
    Path base = session.project().file().map(p -> p.folder()).orElse(Path.of("").toAbsolutePath());
    return base.resolve("deliveries");
  }

  /** Another shot is open. */
  void forget() {
    states.clear();
    kept.clear();
  }

  /**
   * What was sent of the shot as it stood before is no longer shown as sent, until it stands there
   * again.
   */
  void follow(ShotState before, ShotState now) {
    if (!before.isSameShot(now) || !before.staging().equals(now.staging())) {
      states.clear();
    } else if (!before.lens().track().equals(now.lens().track())) {
      states.keySet().removeIf(d -> d.contents().hasLens());
    }
    for (Delivery d : now.deliveries()) {
      Kept k = kept.get(d.name());
      if (k != null && k.delivery().equals(d) && k.isOf(now) && !states.containsKey(d)) {
        states.put(d, k.state());
      }
    }
  }

  /**
   * What was decided since a delivery was sent, as titles; empty where it stands as it was sent, or
   * was never sent.
   */
  public List<String> since(Delivery d) {
    Kept k = kept.get(d.name());
    if (k == null || states.containsKey(d)) {
      return List.of();
    }
    List<String> out = new ArrayList<>();
    if (!k.delivery().equals(d)) {
      out.add("the delivery was changed");
    }
    if (!k.hasSameLens(session.state().get())) {
      out.add("the lens was changed");
    }
    if (!k.isOf(session.state().get())) {
      List<DecisionEntry> then = k.log().counting();
      List<DecisionEntry> now = session.store().now().get().log().counting();
      now.stream()
          .filter(e -> e.decision().changesTheShot() && !then.contains(e))
          .forEach(e -> out.add(e.title()));
      then.stream()
          .filter(e -> e.decision().changesTheShot() && !now.contains(e))
          .forEach(e -> out.add("undone: " + e.title()));
    }
    return out;
  }

  /**
   * The file that a delivery would be written to now, relative to {@link #deliveryFolder}.
   *
   * @throws flarvo.report.InputError when its pattern makes no file name here
   */
  public String nextFile(Delivery d) {
    ShotState s = session.state().get();
    return PathPattern.next(deliveryFolder(), d, projectName(), s.name(), s.shot().frames());
  }

  private String projectName() {
    return session.project().file().map(ProjectFile::name).orElse(session.state().get().name());
  }

  public void sendAll() {
    if (!session.isOpen()) {
      session.message().set("No shot open");
    } else if (session.state().get().deliveries().isEmpty()) {
      session.message().set("No deliveries yet; add one in Dispatch");
    }
    session.state().get().deliveries().forEach(this::send);
  }

  /** Writes the decisions of the shot and its board for other shots, beside the window. */
  public void saveRecipe(Path file) {
    Recipe.Made made = Recipe.of(projectName(), session.store().history());
    session
        .jobs()
        .run(
            Lane.KEEP,
            "Saving the recipe",
            p -> {
              byte[] text = RecipeJson.text(made.recipe()).getBytes(StandardCharsets.UTF_8);
              AtomicFile.write(file, out -> out.write(text));
              return file;
            },
            f ->
                session
                    .message()
                    .set(
                        "Saved the recipe as "
                            + f.getFileName()
                            + (made.said().isEmpty() ? "" : "; " + String.join("; ", made.said()))),
            session.message()::set);
  }

  /** Deliveries that lie on disk as the shot stands, with their files. */
  private Map<Delivery, Path> sent() {
    Map<Delivery, Path> out = new LinkedHashMap<>();
    for (Delivery d : session.state().get().deliveries()) {
      SendState s = states.get(d);
      if (s != null && s.sent().isPresent()) {
        out.put(d, s.sent().get().file());
      }
    }
    return out;
  }

  /** Whether there is anything that a hand-over note could be about. */
  public boolean hasSent() {
    return !sent().isEmpty();
  }

  /** Writes the page that travels with the files, beside the window; each is proven again. */
  public void writeNote() {
    ShotState from = session.state().get();
    Map<Delivery, Path> files = sent();
    Path page = HandoverNote.page(deliveryFolder(), from.name());
    String project = projectName();
    double limit = session.view().proofLimitPx().get();
    session
        .jobs()
        .run(
            Lane.SEND,
            "Writing the hand-over note",
            p -> {
              HandoverNote note =
                  HandoverNote.of(
                      project,
                      from.name(),
                      from.outgoing(),
                      files,
                      plates.of(MeasuredPlates.Input.of(from), p),
                      limit,
                      Instant.now(),
                      p);
              note.write(page, p);
              return note.sentence();
            },
            said -> {
              String done = "Wrote " + page.getFileName() + ": " + said;
              session.message().set(done);
              session.project().happened(done);
            },
            session.message()::set);
  }

  /** Reads every file that was sent once more and measures it with the limit that counts now. */
  public void proveAgain() {
    ShotState from = session.state().get();
    double limit = session.view().proofLimitPx().get();
    for (Map.Entry<Delivery, Path> e : sent().entrySet()) {
      Delivery d = e.getKey();
      SendState was = states.get(d);
      session
          .jobs()
          .run(
              Lane.SEND,
              "Proving " + d.name(),
              p ->
                  was.with(
                      Handover.prove(
                          from.outgoing(),
                          d,
                          e.getValue(),
                          limit,
                          plates.of(MeasuredPlates.Input.of(from), p),
                          p)),
              now -> proved(d, was, now),
              session.message()::set);
    }
  }

  @SuppressWarnings("ReferenceEquality") // the state that was proven again, if it still counts
  private void proved(Delivery d, SendState was, SendState now) {
    if (states.get(d) == was) {
      states.put(d, now);
      kept.computeIfPresent(
          d.name(),
          (n, k) -> k.state() == was ? new Kept(k.delivery(), k.from(), k.log(), now) : k);
      session.message().set(d.name() + " " + now.message());
    }
  }

  /** Writes a delivery in the background, reads it back and proves it. */
  public void send(Delivery delivery) {
    SendState now = states.get(delivery);
    if (now != null && now.stage() == SendState.Stage.SENDING) {
      return;
    }
    ShotState from = session.state().get();
    DecisionLog log = session.store().now().get().log();
    Path folder = deliveryFolder();
    String project = projectName();
    Worked<List<PlateCheck>> shown = session.store().now().get().get(MeasuredPlates.SLOT);
    double limit = session.view().proofLimitPx().get();
    Optional<List<PlateCheck>> known =
        shown.current() ? Optional.ofNullable(shown.value()) : Optional.empty();
    SendState sending = SendState.sending();
    states.put(delivery, sending);
    session
        .jobs()
        .run(
            Lane.SEND,
            "Sending " + delivery.name(),
            p -> {
              String name =
                  PathPattern.next(folder, delivery, project, from.name(), from.shot().frames());
              Path file = DeliveryPlace.in(folder, name);
              requireOwn(from, delivery, file, folder, project);
              writing.claim(file);
              try {
                return SendState.sent(
                    Handover.send(
                        from.outgoing(),
                        delivery,
                        file,
                        limit,
                        known.orElseGet(() -> plates.of(MeasuredPlates.Input.of(from), p)),
                        p));
              } finally {
                writing.release(file);
              }
            },
            done -> {
              kept.put(delivery.name(), new Kept(delivery, from, log, done));
              finished(delivery, sending, done);
            },
            why -> finished(delivery, sending, SendState.failed(why)));
  }

  /** What lies beside deliveries is named after their files: two of one stem would share it. */
  private static void requireOwn(
      ShotState from, Delivery delivery, Path file, Path folder, String project) {
    Set<Path> own = Set.copyOf(Sidecars.of(from.outgoing(), delivery, file).files());
    if (own.isEmpty()) {
      return;
    }
    for (Delivery other : from.deliveries()) {
      if (other.equals(delivery)) {
        continue;
      }
      String name = PathPattern.next(folder, other, project, from.name(), from.shot().frames());
      Path there = DeliveryPlace.in(folder, name);
      for (Path p : Sidecars.of(from.outgoing(), other, there).files()) {
        if (own.contains(p)) {
          throw new InputError(
              p.toString(),
              "",
              "it would be shared with " + other.name(),
              "Give the two files names that differ by more than their ending");
        }
      }
    }
  }

  /** What became of a shot that was changed meanwhile says nothing of the present one. */
  @SuppressWarnings("ReferenceEquality") // the state of this very sending, which a change clears
  private void finished(Delivery delivery, SendState sending, SendState became) {
    boolean current = states.get(delivery) == sending;
    String said =
        delivery.name()
            + " "
            + became.message()
            + (current ? "" : " (of the shot as it was before its last change)");
    if (current) {
      states.put(delivery, became);
    }
    session.message().set(said);
    session.project().happened(said);
  }
}
