package flarvo.tools.measure;

import flarvo.convention.Dialects;
import flarvo.desktop.FlarvoApp;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.level.LevelStop;
import flarvo.desktop.stop.level.LevelWork;
import flarvo.desktop.stop.vet.VetStop;
import flarvo.desktop.stop.vet.VetWork;
import flarvo.desktop.window.MainWindow;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.level.Statement;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import javafx.application.Application;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import javafx.stage.Stage;

/**
 * Vet and Level with 20,000 trackers over 1,000 frames: pulses while it plays, is sorted and
 * selected in, and while a handle is dragged.
 */
public final class PulseApp extends Application {

  private static final int TRACKERS = 20_000;
  private static final int FRAMES = 1_000;
  private static final int LIFE = 100;
  private static final double SECONDS = 6;
  private static final int EDITS = 12;

  private final Pulses pulses = new Pulses();
  private Session session;
  private MainWindow window;
  private Path folder;
  private int phase;
  private int edits;

  @Override
  public void start(Stage stage) throws IOException {
    folder = Files.createTempDirectory("flarvo-vet");
    Path camera = folder.resolve("solve.usdc");
    Path tracks = folder.resolve("tracks.csv");
    write(camera, tracks);
    session = new Session();
    window = FlarvoApp.open(stage, session);
    session.project().open(List.of(camera, tracks));
    TimedRun.start(session, folder, this::turn);
  }

  private boolean turn() {
    double seconds = pulses.tick();
    switch (phase) {
      case 0 -> {
        if (session.isOpen() && session.store().isSettled() && session.jobs().running().isEmpty()) {
          session.stop().set("vet");
          session.view().tableShown().set(true);
          next();
        }
      }
      case 1 -> {
        boolean done =
            window.stop(VetStop.class).work().measures().get() != null
                && window.stop(VetStop.class).work().kind().get() != null;
        if (done && seconds > 1) {
          say("measuring it");
          session.playhead().playing().set(true);
          next();
        }
      }
      case 2 -> {
        if (seconds > SECONDS) {
          say("playing with graph and table");
          session.playhead().playing().set(false);
          next();
        }
      }
      case 3 -> {
        // A tracker is chosen every pulse, as by keys held down in the table.
        session.selection().clear();
        session.selection().add("t" + (int) (seconds * 60));
        if (seconds > 3) {
          say("choosing one after the other");
          next();
        }
      }
      case 4 -> {
        session.view().errorLimitPx().set(0.2 + 0.3 * Math.abs(Math.sin(3 * seconds)));
        if (seconds > 3) {
          say("dragging the limit");
          next();
        }
      }
      case 5 -> {
        TableView<?> table = (TableView<?>) window.picture().getScene().lookup("#tracker-table");
        TableColumn<?, ?> rms = table.getColumns().get(3);
        long t = System.nanoTime();
        sort(table, rms);
        System.out.printf(
            Locale.ROOT, "sorting the table by error: %.0f ms%n", (System.nanoTime() - t) / 1e6);
        edits = 0;
        next();
      }
      case 6 -> {
        // A cull, its undo, and the weight of another, each when the last has been taken in.
        if (edits < EDITS && session.store().isSettled() && seconds > 1 + edits) {
          VetWork vet = window.stop(VetStop.class).work();
          switch (edits % 3) {
            case 0 -> vet.cullByHand(Set.of("t" + (10 + edits)));
            case 1 -> session.undo();
            default -> vet.weigh(Set.of("t" + (40 + edits)), false);
          }
          edits++;
        }
        if (edits >= EDITS && session.store().isSettled()) {
          say(EDITS + " edits at Vet");
          session.view().tableShown().set(false);
          session.stop().set("level");
          edits = 0;
          next();
        }
      }
      case 7 -> {
        if (session.store().isSettled() && seconds > 2) {
          say("Level laid out");
          next();
        }
      }
      case 8 -> {
        if (edits <= EDITS && session.store().isSettled() && seconds > 0.5 + edits) {
          LevelWork level = window.stop(LevelStop.class).work();
          if (edits % 2 == 0) {
            level.state(
                new Statement.OnGround(Set.of("t1", "t20", "t300", "t4000", "t" + (5 + edits)), 0));
          } else {
            session.undo();
          }
          edits++;
        }
        if (edits >= EDITS + 1 && session.store().isSettled()) {
          say(edits + " edits at Level");
          next();
        }
      }
      case 9 -> {
        // As a handle does: everything turned about up, what is stated solved with it.
        Rotation turn = Rotation.about(new Vec3(0, 1, 0), 0.4 * Math.sin(3 * seconds));
        window
            .stop(LevelStop.class)
            .work()
            .tryLevel(
                new Similarity(1, turn, Vec3.ZERO)
                    .after(window.stop(LevelStop.class).work().standing()));
        if (seconds > 4) {
          say("dragging a handle in Picture and Space");
          next();
        }
      }
      default -> {
        return true;
      }
    }
    return false;
  }

  @SuppressWarnings("unchecked")
  private static <T> void sort(TableView<T> table, TableColumn<?, ?> column) {
    table.getSortOrder().setAll(List.of((TableColumn<T, ?>) column));
    table.sort();
  }

  private void next() {
    phase++;
    pulses.restart();
  }

  private void say(String what) {
    System.out.printf(
        Locale.ROOT,
        "%,d trackers × %,d frames, %s: %s; picture drawn in %.1f ms%n",
        TRACKERS,
        FRAMES,
        what,
        pulses.words(),
        window.picture().lastDrawNanos() / 1e6);
  }

  /** A long walk; every tracker lives for a while, with noise. */
  private static void write(Path camera, Path tracks) throws IOException {
    FrameRange frames = new FrameRange(1001, 1000 + FRAMES);
    ShotCamera c =
        new ShotCamera(
            "cam",
            PoseTrack.of(
                frames, f -> new Pose(new Vec3(0.03 * (f - 1001), 1.6, 0), Rotation.IDENTITY)),
            OpticsTrack.constant(frames, Optics.centred(24, 24, 13.5)),
            Optional.empty());
    Random r = new Random(5);
    PictureSize size = PictureSize.of(1920, 1080);
    double[] xyz = new double[3 * TRACKERS];
    List<String> names = new ArrayList<>();
    Pinhole h = new Pinhole(c, size);
    double[] px = new double[3];
    try (BufferedWriter w = Files.newBufferedWriter(tracks)) {
      w.write("tracker,frame,x,y\n");
      for (int i = 0; i < TRACKERS; i++) {
        String name = "t" + i;
        names.add(name);
        int born = r.nextInt(FRAMES - LIFE);
        double depth = 5 + 10 * r.nextDouble();
        xyz[3 * i] = 0.03 * (born + LIFE / 2.0) + 0.3 * depth * (r.nextDouble() - 0.5);
        xyz[3 * i + 1] = 1.6 + 0.5 * depth * (r.nextDouble() - 0.5);
        xyz[3 * i + 2] = -depth;
        for (int f = 1001 + born; f < 1001 + born + LIFE; f++) {
          h.at(f).project(xyz[3 * i], xyz[3 * i + 1], xyz[3 * i + 2], px);
          w.write(name + "," + f + ",");
          w.write(Math.round(100 * (px[0] + 0.2 * r.nextGaussian())) / 100.0 + ",");
          w.write(Math.round(100 * (px[1] + 0.2 * r.nextGaussian())) / 100.0 + "\n");
        }
      }
    }
    Shot shot =
        new Shot(
            "large",
            size,
            Rate.FPS_24,
            frames,
            1001,
            List.of(c),
            List.of(TrackerSet.of("trackers", names, xyz)),
            Observations.NONE,
            List.of(),
            Similarity.IDENTITY);
    Dispatcher.send(
        shot,
        new Delivery(
            "large",
            Dialects.shipped().get("anim-yup-m"),
            Formats.byId("usd-crate"),
            Contents.CAMERA_AND_TRACKERS,
            "solve.usdc"),
        camera,
        Progress.NONE);
  }
}
