package flarvo.desktop.state;

import flarvo.desktop.work.Jobs;
import flarvo.desktop.work.Lane;
import flarvo.project.ProjectLock;
import java.nio.file.Path;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/** The lock of the open project: taken beside the window, and let go for the next one. */
final class HeldProject {

  private static final DateTimeFormatter AT =
      DateTimeFormatter.ofPattern("d MMM, HH:mm", Locale.ROOT).withZone(ZoneId.systemDefault());

  private final Jobs jobs;
  private final Consumer<String> say;
  private final ReadOnlyObjectWrapper<ProjectLock.Holder> holder = new ReadOnlyObjectWrapper<>();
  private Path held; // the project whose lock was asked for
  private volatile ProjectLock lock; // only touched by what keeps

  HeldProject(Jobs jobs, Consumer<String> say) {
    this.jobs = jobs;
    this.say = say;
  }

  /** Takes the lock of the open project, and lets go of the one before. */
  void hold(Path file) {
    Path place = file.toAbsolutePath().normalize();
    if (place.equals(held)) {
      return;
    }
    letGo();
    held = place;
    jobs.run(
        Lane.KEEP,
        "Checking who has the project open",
        p -> {
          lock = ProjectLock.take(place).orElse(null);
          return lock == null ? ProjectLock.holder(place) : Optional.<ProjectLock.Holder>empty();
        },
        other -> {
          if (place.equals(held)) {
            holder.set(other.orElse(null));
            other.ifPresent(
                h ->
                    say.accept(
                        "Read-only: "
                            + h.host()
                            + " has had this project open since "
                            + AT.format(h.since())));
          }
        },
        say);
  }

  /** No project is open any more, or another one will be. */
  void letGo() {
    if (held == null) {
      return;
    }
    held = null;
    holder.set(null);
    jobs.run(
        Lane.KEEP,
        "Releasing the project lock",
        p -> {
          release();
          return "";
        },
        ok -> {},
        say);
  }

  /** At once, when the window closes. */
  void release() {
    if (lock != null) {
      lock.release();
      lock = null;
    }
  }

  /** Does what writes the project, unless somebody else has it open. */
  void unlessHeld(Consumer<String> refused, Runnable work) {
    ProjectLock.Holder other = holder.get();
    if (other == null) {
      work.run();
    } else {
      refused.accept(
          other.host()
              + " has had this project open since "
              + AT.format(other.since())
              + "; save it under another name with Ctrl+Shift+S");
    }
  }

  /** Who else has the project; null where nobody has. */
  ReadOnlyObjectProperty<ProjectLock.Holder> holder() {
    return holder.getReadOnlyProperty();
  }
}
