package flarvo.tools.measure;

import flarvo.desktop.FlarvoApp;
import flarvo.desktop.state.Playhead;
import flarvo.desktop.state.Session;
import flarvo.desktop.window.MainWindow;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import javafx.animation.AnimationTimer;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.stage.Stage;

/** Plays the shot over and over and counts the frames that were shown, skipped and late. */
public final class PlaybackApp extends Application {

  private static final int SETTLED = 60; // pulses

  private static final double USUAL_SECONDS = 8;

  private Session session;
  private MainWindow window;
  private double seconds;
  private long started;
  private long lastPulse;
  private int preload;
  private int settling;
  private boolean opening;
  private boolean reading = true;
  private final List<Path> large = new ArrayList<>();
  private final List<Double> pulses = new ArrayList<>();

  @Override
  public void start(Stage stage) {
    List<String> words = getParameters().getUnnamed();
    seconds = words.size() > 1 ? Double.parseDouble(words.get(1)) : USUAL_SECONDS;
    session = new Session();
    window = FlarvoApp.open(stage, session);
    words.stream().skip(2).forEach(w -> large.add(Path.of(w)));
    session.project().open(List.of(Path.of(words.get(0))));
    session.stop().set("vet"); // at Receive the ledger lies over the picture
    new AnimationTimer() {
      @Override
      public void handle(long now) {
        if (!session.isOpen()) {
          return;
        }
        if (started == 0) {
          prepare();
        } else if (settling > 0) {
          if (--settling == 0) {
            openLarge();
          }
        } else if (opening) {
          if (openingEnds()) {
            stop();
            end();
          }
        } else if (pulse()) {
          report();
          if (large.isEmpty()) {
            stop();
            end();
          } else {
            settle();
          }
        }
      }
    }.start();
  }

  /** Walks once through the shot, so that playback is measured and not decoding. */
  private void prepare() {
    PlateSequence plates = session.shot().get().plate(PlateRole.UNDISTORTED).orElseThrow();
    Playhead head = session.playhead();
    if (window.picture().cache().loaded(plates) < plates.frames().count()) {
      preload = (preload + 7) % plates.frames().count();
      head.goTo(plates.frames().first() + preload);
      return;
    }
    head.goTo(plates.frames().first());
    head.playing().set(true);
    started = System.nanoTime();
    lastPulse = started;
  }

  /** The ledger is laid out for the first time before the reading is measured. */
  private void settle() {
    session.playhead().playing().set(false);
    session.stop().set("receive");
    settling = SETTLED;
  }

  /** Large files, while the window must go on answering. */
  private void openLarge() {
    pulses.clear();
    session.project().open(List.copyOf(large));
    opening = true;
    started = System.nanoTime();
    lastPulse = started;
  }

  private boolean openingEnds() {
    pulse();
    if (reading && !session.project().loading().get()) {
      reading = false;
      say("reading " + large.stream().map(f -> f.getFileName().toString()).toList());
      pulses.clear();
    }
    if (session.project().loading().get() || !session.jobs().running().isEmpty()) {
      return false;
    }
    say("showing and weighing them");
    return true;
  }

  private void say(String what) {
    Collections.sort(pulses);
    System.out.printf(
        Locale.ROOT,
        "%s took until %.1f s: pulses median %.1f ms, 99th percentile %.1f ms, longest %.0f ms,"
            + " %d of %d later than two frames%n",
        what,
        (System.nanoTime() - started) / 1e9,
        pulses.get(pulses.size() / 2),
        pulses.get((int) (pulses.size() * 0.99)),
        pulses.get(pulses.size() - 1),
        pulses.stream().filter(p -> p > 34).count(),
        pulses.size());
  }

  private void end() {
    session.close();
    Platform.exit();
  }

  private boolean pulse() {
    long t = System.nanoTime();
    pulses.add((t - lastPulse) / 1e6);
    lastPulse = t;
    return t - started > seconds * 1e9;
  }

  private void report() {
    Playhead head = session.playhead();
    double elapsed = (lastPulse - started) / 1e9;
    long advanced = head.shownFrames() + head.skippedFrames();
    Collections.sort(pulses);
    System.out.printf(
        Locale.ROOT,
        "playback of %s at %s fps for %.2f s: clock advanced %.3f fps, shown %.3f fps, %d of %d"
            + " frames skipped; pulses median %.1f ms, 99th percentile %.1f ms%n",
        session.shot().get().name(),
        head.rate().display(),
        elapsed,
        advanced / elapsed,
        head.shownFrames() / elapsed,
        head.skippedFrames(),
        advanced,
        pulses.get(pulses.size() / 2),
        pulses.get((int) (pulses.size() * 0.99)));
  }
}
