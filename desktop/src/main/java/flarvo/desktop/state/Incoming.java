package flarvo.desktop.state;

import flarvo.decision.Replay;
import flarvo.decision.ShotState;
import flarvo.desktop.work.Lane;
import flarvo.project.Preferences;
import flarvo.project.UserFolder;
import flarvo.receive.IncomingWatch;
import flarvo.receive.IncomingWatch.Arrival;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.animation.PauseTransition;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.util.Duration;

/**
 * Offers to receive files of the open shot that changed on disk, or newer versions of them. They
 * are looked at in a lane of their own: a disk that does not answer holds up nothing else.
 */
public final class Incoming {

  private static final Duration LOOK_EVERY = Duration.seconds(2);

  private final Session session;
  private final ReadOnlyObjectWrapper<List<Arrival>> arrivals =
      new ReadOnlyObjectWrapper<>(List.of());
  private ReceivedSet watched;
  private IncomingWatch watch; // of what is watched, once its files were looked at
  private boolean looking; // again and again
  private boolean answering; // what is found until the watch knows was asked before

  Incoming(Session session) {
    this.session = session;
  }

  /** What waits for an answer; empty where nothing does. */
  public ReadOnlyObjectProperty<List<Arrival>> arrivals() {
    return arrivals.getReadOnlyProperty();
  }

  /** Stops looking for changed files. */
  void close() {
    watched = null;
    watch = null;
  }

  /** Another shot, or other files, may be open. */
  @SuppressWarnings("ReferenceEquality") // the very files that are watched
  void follow(ShotState state) {
    ReceivedSet set = session.isOpen() ? state.received().orElse(null) : null;
    if (set == watched) {
      return;
    }
    watched = set;
    watch = null;
    arrivals.set(List.of());
    if (set == null) {
      return;
    }
    session
        .jobs()
        .quietly(
            Lane.WATCH,
            () -> new IncomingWatch(set),
            made -> watch = set == watched ? made : watch);
    if (!looking) {
      looking = true;
      soon();
    }
  }

  private void soon() {
    PauseTransition wait = new PauseTransition(LOOK_EVERY);
    wait.setOnFinished(e -> look());
    wait.play();
  }

  private void look() {
    IncomingWatch w = watch;
    if (w == null) {
      looking = watched != null;
      if (looking) {
        soon();
      }
      return;
    }
    Optional<Boolean> watched = session.state().get().watched();
    session.jobs().quietly(Lane.WATCH, () -> found(w, watched), found -> show(w, found));
  }

  /**
   * What came.
   *
   * @param watched as the shot says; empty where the user's preference counts
   */
  private static List<Arrival> found(IncomingWatch w, Optional<Boolean> watched) {
    boolean look = watched.orElseGet(() -> Preferences.read(UserFolder.settings()).watchFiles());
    return look ? w.look() : List.of();
  }

  @SuppressWarnings("ReferenceEquality") // the watch that was asked, if it still counts
  private void show(IncomingWatch asked, List<Arrival> found) {
    if (asked == watch && !answering && !found.equals(arrivals.get())) {
      arrivals.set(found);
    }
    soon();
  }

  /** They are not wanted; what comes after them is offered again. */
  public void dismiss() {
    List<Arrival> all = arrivals.get();
    IncomingWatch w = watch;
    arrivals.set(List.of());
    if (w == null) {
      return;
    }
    answering = true;
    session
        .jobs()
        .quietly(
            Lane.WATCH,
            () -> {
              w.dismiss(all);
              return all;
            },
            done -> answering = false);
  }

  /**
   * Receives what waits in the place of what came, and replays every decision on it.
   *
   * @param sendAgain sends every delivery after it, if all decisions could be applied
   */
  public void receive(boolean sendAgain) {
    Map<Path, Path> instead = new LinkedHashMap<>();
    arrivals.get().forEach(a -> instead.put(a.old(), a.file()));
    if (instead.isEmpty()) {
      return;
    }
    String files =
        String.join(", ", instead.values().stream().map(f -> f.getFileName().toString()).toList());
    session
        .project()
        .replay(
            files,
            (set, p) -> ShotIntake.replaced(set, instead, p),
            r -> received(files, r, sendAgain));
  }

  /** Receives another version of the solve, and replays every decision on it. */
  public void receive(Path file) {
    String name = String.valueOf(file.getFileName());
    session
        .project()
        .replay(
            name, (set, p) -> ShotIntake.otherCamera(set, file, p), r -> received(name, r, false));
  }

  private void received(String files, Replay r, boolean sendAgain) {
    List<Replay.Line> missed = r.lines().stream().filter(l -> !l.whole()).toList();
    int all = r.lines().size();
    String said =
        "Received "
            + files
            + ": "
            + (all - missed.size())
            + " of "
            + all
            + (all == 1 ? " decision replayed" : " decisions replayed");
    session.project().happened(said);
    if (r.aligned().isEmpty()) {
      session
          .project()
          .happened("Not aligned to the solve before: what was done by hand may be off");
    }
    if (r.otherNames()) {
      session
          .project()
          .happened(
              "The two solves name their trackers differently: check every decision that names one");
    }
    for (Replay.Line l : missed) {
      session.project().happened("Not as before: " + l.title() + ": " + String.join("; ", l.why()));
    }
    session
        .message()
        .set(
            said
                + (missed.isEmpty()
                    ? ""
                    : "; see the diary (Ctrl+D) for the others"
                        + (sendAgain ? ". Nothing was sent" : "")));
    if (sendAgain && missed.isEmpty()) {
      session.sending().sendAll();
    }
  }
}
