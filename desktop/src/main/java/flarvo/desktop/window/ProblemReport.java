package flarvo.desktop.window;

import flarvo.decision.DecisionEntry;
import flarvo.decision.ShotState;
import flarvo.desktop.state.Session;
import flarvo.project.Preferences;
import flarvo.project.UserFolder;
import flarvo.receive.ReceivedFile;
import flarvo.report.Redaction;
import flarvo.scene.Shot;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import javafx.stage.Screen;

/**
 * One text for whoever looks into a fault: versions, machine, preferences, the shot in numbers, and
 * the end of the log. It holds no folder of this machine, no user's name and no picture.
 */
public final class ProblemReport {

  /** Of the log, in characters. */
  private static final int MOST_LOG = 200_000;

  private final Session session;

  public ProblemReport(Session session) {
    this.session = session;
  }

  /** Gathers what is known; called on the window's thread. What it gives reads the log. */
  public Supplier<String> text() {
    StringBuilder s = new StringBuilder("Flarvo problem report, " + Instant.now() + "\n\n");
    s.append("What happened: (write it here)\n\n");
    machine(s);
    if (session.isOpen()) {
      shot(s, session.state().get());
    } else {
      s.append("\nNo shot is open\n");
    }
    s.append("\nLast message: ").append(session.message().get()).append('\n');
    Redaction redaction = redaction();
    return () ->
        redaction.of(
            s + "\nPreferences: " + Preferences.read(UserFolder.settings()) + "\n\nLog:\n" + log());
  }

  private static void machine(StringBuilder s) {
    Runtime r = Runtime.getRuntime();
    s.append("Java ").append(System.getProperty("java.version"));
    s.append(", JavaFX ").append(System.getProperty("javafx.version")).append('\n');
    s.append(System.getProperty("os.name")).append(' ').append(System.getProperty("os.version"));
    s.append(' ').append(System.getProperty("os.arch")).append(", processors ");
    s.append(r.availableProcessors()).append(", heap ").append(r.totalMemory() >> 20);
    s.append(" of ").append(r.maxMemory() >> 20).append(" MB\n");
    for (Screen c : Screen.getScreens()) {
      s.append("Screen ").append((int) c.getBounds().getWidth()).append(" × ");
      s.append((int) c.getBounds().getHeight()).append(", scale ").append(c.getOutputScaleX());
      s.append('\n');
    }
  }

  private void shot(StringBuilder s, ShotState state) {
    Shot shot = state.shot();
    s.append("\nShot: frames ").append(shot.frames()).append(" at ").append(shot.rate());
    s.append(", picture ").append(shot.picture()).append(", trackers ");
    s.append(shot.trackerCount()).append(", 2D tracks ").append(shot.observations().size());
    s.append(", plates ").append(shot.plates().size()).append('\n');
    state
        .received()
        .ifPresent(
            set -> {
              for (ReceivedFile f : set.files()) {
                s.append("  ").append(f.format().id()).append(": ");
                s.append(f.path().getFileName()).append('\n');
              }
              set.notes().forEach(n -> s.append("  ").append(n).append('\n'));
            });
    s.append("Decisions:\n");
    for (DecisionEntry e : session.store().now().get().log().entries()) {
      s.append("  ").append(e.id()).append(' ').append(e.decision().getClass().getSimpleName());
      s.append('\n');
    }
  }

  private static String log() {
    StringBuilder s = new StringBuilder();
    for (String name : List.of("flarvo.1.log", "flarvo.log")) {
      Path p = UserFolder.logs().resolve(name);
      try {
        s.append(Files.isRegularFile(p) ? Files.readString(p, StandardCharsets.UTF_8) : "");
      } catch (IOException e) {
        s.append(name).append(" cannot be read\n");
      }
    }
    return s.length() > MOST_LOG ? s.substring(s.length() - MOST_LOG) : s.toString();
  }

  private Redaction redaction() {
    Map<Path, String> folders = new HashMap<>();
    folders.put(Path.of(System.getProperty("user.home", "/")), "~");
    folders.put(Path.of(System.getProperty("java.io.tmpdir", "/")), "<temp>");
    folders.put(Path.of(System.getProperty("user.dir", "/")), "<started in>");
    session
        .state()
        .get()
        .received()
        .ifPresent(
            set ->
                set.files().stream()
                    .map(f -> f.path().toAbsolutePath().getParent())
                    .forEach(p -> folders.put(p, "<shot>")));
    session.project().file().ifPresent(p -> folders.put(p.folder(), "<project>"));
    Map<String, String> words = new HashMap<>();
    words.put(System.getProperty("user.name", ""), "<user>");
    words.put(System.getenv().getOrDefault("HOSTNAME", ""), "<host>");
    return new Redaction(folders, words);
  }
}
