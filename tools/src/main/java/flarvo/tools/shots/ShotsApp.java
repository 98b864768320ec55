package flarvo.tools.shots;

import flarvo.convention.SignedAxis;
import flarvo.decision.Decided;
import flarvo.decision.PlateDecision;
import flarvo.decision.TraceDecision;
import flarvo.desktop.FlarvoApp;
import flarvo.desktop.state.SendState;
import flarvo.desktop.state.Session;
import flarvo.desktop.state.ViewSettings;
import flarvo.desktop.stop.level.LevelStop;
import flarvo.desktop.stop.level.LevelWork;
import flarvo.desktop.stop.receive.ReceiveStop;
import flarvo.desktop.stop.vet.VetStop;
import flarvo.desktop.theme.Theme;
import flarvo.desktop.window.MainWindow;
import flarvo.level.Statement;
import flarvo.project.UserFolder;
import flarvo.scene.PlateRole;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import flarvo.trace.TraceOptions;
import flarvo.vet.adjust.AdjustOptions;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.function.BooleanSupplier;
import javafx.animation.AnimationTimer;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javafx.stage.Stage;
import javax.imageio.ImageIO;

/** Walks through the views, waits until each has settled, and saves it. */
public final class ShotsApp extends Application {

  /** Pulses without change before a view counts as settled. */
  private static final int SETTLE = 12;

  /** Edits that building on the terrace takes. */
  private static final int BUILT = 7;

  private static final long GIVE_UP_NANOS = 120_000_000_000L;

  private record Step(Runnable before, BooleanSupplier ready, String picture) {}

  private final Deque<Step> steps = new ArrayDeque<>();
  private Session session;
  private MainWindow window;
  private Stage stage;
  private Path out;
  private int still;
  private boolean begun;
  private long stepStarted;

  private static Path home() {
    try {
      return Files.createTempDirectory("flarvo-shots");
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  @Override
  public void start(Stage primary) {
    List<String> words = getParameters().getRaw();
    int at = words.indexOf("--out");
    out = Path.of(at >= 0 && at + 1 < words.size() ? words.get(at + 1) : "docs/screenshots");
    stage = primary;
    // The pictures show nothing of whoever makes them.
    // A fresh folder: what an earlier run left behind would be offered for recovery.
    System.setProperty(UserFolder.PROPERTY, home().toString());
    session = new Session();
    window = FlarvoApp.open(primary, session);
    plan(Path.of(words.get(0)));
    new AnimationTimer() {
      @Override
      public void handle(long now) {
        if (steps.isEmpty()) {
          stop();
          session.close();
          Platform.exit();
        } else {
          turn(now);
        }
      }
    }.start();
  }

  private void trace(TraceDecision d, Runnable then) {
    session
        .store()
        .work(
            "Tracing",
            (s, p) -> Decided.of(s, d, p),
            x -> x,
            x -> then.run(),
            session.message()::set);
  }

  private void plan(Path project) {
    BooleanSupplier always = () -> true;
    step(() -> {}, always, "empty");
    step(
        () -> session.project().open(List.of(project)),
        () -> session.ledger().get() != null,
        "receive");
    step(() -> session.project().openShot("mer_050_carts"), () -> isOpen("mer_050_carts"), "");
    step(
        () -> {
          session.stop().set("level");
          session.playhead().goTo(1012);
        },
        this::plateHere,
        "carts");
    step(() -> session.stop().set("receive"), always, "");
    step(
        () -> session.project().open(incoming(project)),
        () -> session.ledger().get() != null && !session.ledger().get().open().isEmpty(),
        "receive-open");
    step(
        () -> session.project().open(incoming(project, "mer_030_cart")),
        () -> isOpen("mer_030_cart") && !session.ledger().get().open().isEmpty(),
        "");
    step(
        () -> window.stop(ReceiveStop.class).tableImport().open(session.tables().get(0)),
        () -> window.stop(ReceiveStop.class).tableImport().outcome().get() != null,
        "columns");
    step(
        () ->
            session
                .project()
                .open(List.of(project.resolveSibling("mer_010_terrace/plates/original"))),
        () -> session.state().get().shot().camera().isEmpty(),
        "");
    step(
        () -> {
          session.stop().set("trace");
          trace(
              new TraceDecision.Follow(
                  PlateRole.ORIGINAL,
                  TraceOptions.USUAL.features(),
                  TraceOptions.USUAL.radius(),
                  TraceOptions.USUAL.errorPx()),
              () ->
                  trace(
                      new TraceDecision.SolvePlates(23.76, 13.365, OptionalDouble.empty(), 3, 0.5),
                      () -> session.playhead().goTo(1040)));
        },
        () -> session.state().get().trace().solve().isPresent() && plateHere(),
        "trace");
    step(
        () -> session.project().open(List.of(project)),
        () -> isOpen("mer_010_terrace") && session.ledger().get().open().isEmpty(),
        "");
    step(
        () -> {
          session.stop().set("vet");
          session.playhead().goTo(1040);
          session.selection().addAll(List.of("t107", "t064"));
        },
        () ->
            plateHere()
                && window.stop(VetStop.class).work().measures().get() != null
                && window.stop(VetStop.class).work().kind().get() != null,
        "vet");
    step(
        () -> {
          session.view().tableShown().set(true);
          window.stop(VetStop.class).work().cullAndRefine(0.35, AdjustOptions.USUAL);
        },
        () ->
            session.state().get().vetting().solve().isPresent()
                && window.stop(VetStop.class).work().measures().get().errors().rmsPx() < 0.35,
        "vet-table");
    step(
        () -> {
          session.view().tableShown().set(false);
          session.undo();
        },
        always,
        "");
    step(
        () -> {
          session.selection().clear();
          session.stop().set("level");
          build();
        },
        this::plateHere,
        "level");
    step(
        () -> {
          session.view().pictureAlone().set(true);
          session.view().handlesShown().set(false);
        },
        always,
        "level-picture");
    step(
        () -> {
          session.view().pictureAlone().set(false);
          session.view().handlesShown().set(true);
          for (int i = 0; i < BUILT; i++) {
            session.undo();
          }
          session.selection().clear();
          session.stop().set("vet");
        },
        always,
        "");
    step(
        () -> {
          session.selection().clear();
          session.view().spaceShown().set(true);
        },
        always,
        "space");
    step(
        () -> {
          session.view().spaceShown().set(false);
          session.stop().set("plate");
          session.view().lensGrid().set(true);
          session.view().wipe().set(0.5);
        },
        () -> bothPlatesHere() && session.store().now().get().isSettled(),
        "plate");
    step(
        () -> {
          session.view().wipe().set(ViewSettings.NO_WIPE);
          session.view().lensGrid().set(false);
          session.view().plateRole().set(PlateRole.ORIGINAL);
          for (double[] e : EDGES) {
            session
                .store()
                .decide(
                    new PlateDecision.TraceLine(
                        "line " + (session.state().get().lensWork().lines().size() + 1),
                        1040,
                        e[0],
                        e[1],
                        e[2],
                        e[3]));
          }
        },
        () -> bothPlatesHere() && session.store().now().get().isSettled(),
        "plate-original");
    step(
        () -> {
          session.view().plateRole().set(PlateRole.UNDISTORTED);
          session.stop().set("vet");
          window.openKeys();
        },
        always,
        "keys");
    step(
        () -> {
          window.closeKeys();
          session.stop().set("dispatch");
          session.sending().sendAll();
        },
        this::allSent,
        "dispatch");
    step(() -> session.stop().set("proof"), this::plateHere, "proof");
    step(() -> session.view().theme().set(Theme.LIGHT), this::plateHere, "proof-light");
    step(
        () -> {
          session.view().theme().set(Theme.DARK);
          session.stop().set("vet");
          window.openFinder();
        },
        always,
        "find");
    step(
        () -> {
          session.project().open(incoming(project));
          session.stop().set("receive");
        },
        () -> session.ledger().get() != null && !session.ledger().get().open().isEmpty(),
        "");
    step(
        () -> {
          session.takeProposals();
          session.project().note("the film back came from the log; ask tracking to set it");
          window.openDiary();
        },
        () -> session.ledger().get().open().isEmpty(),
        "diary");
  }

  /** The terrace levelled by its flagstones, and something of everything on it. */
  private void build() {
    LevelStop at = window.stop(LevelStop.class);
    LevelWork level = at.work();
    level.state(new Statement.At("t020", Vec3.ZERO));
    level.state(
        new Statement.OnGround(Set.of("t002", "t003", "t007", "t012", "t018", "t025", "t020"), 0));
    level.state(new Statement.Along("t002", "t003", SignedAxis.POSITIVE_X));
    level.state(new Statement.Distance("t002", "t003", 0.6));
    at.build().box(new Vec3(-1.2, 0, -1.5), new Vec3(-0.5, 0, -0.9), 0.6);
    for (Gauge.Kind k : List.of(Gauge.Kind.TILE, Gauge.Kind.POST)) {
      String on = k == Gauge.Kind.TILE ? "t018" : "t020";
      at.build().dropping().set(k);
      at.build().drop(Optional.of(on), level.scene().places().get(on));
    }
  }

  private boolean isOpen(String shot) {
    return session.ledger().get() != null && session.state().get().shot().name().equals(shot);
  }

  private static List<Path> incoming(Path project) {
    return incoming(project, "mer_010_terrace");
  }

  /** Both ends of joints of the terrace's frame 1040, as a user would click on them. */
  private static final double[][] EDGES = {
    {354, 290, 354, 530},
    {230, 432, 204, 518},
    {548, 362, 664, 520},
    {30, 422, 340, 407},
    {688, 385, 948, 356},
    {6, 478, 420, 457}
  };

  /** What a user drops on the window: the folder that came and the folder of plates. */
  private static List<Path> incoming(Path project, String name) {
    Path shot = project.resolveSibling(name);
    return List.of(shot.resolve("incoming"), shot.resolve("plates"));
  }

  private void step(Runnable before, BooleanSupplier ready, String picture) {
    steps.add(new Step(before, ready, picture));
  }

  private boolean bothPlatesHere() {
    return session.isOpen()
        && session.shot().get().plates().stream()
            .allMatch(p -> window.picture().cache().loaded(p) > 0);
  }

  private boolean plateHere() {
    return session.isOpen()
        && window.picture().cache().loaded(session.shot().get().plates().get(0)) > 0;
  }

  private boolean allSent() {
    return session.state().get().deliveries().stream()
        .map(d -> session.sending().states().get(d))
        .allMatch(s -> s != null && s.stage() != SendState.Stage.SENDING);
  }

  private void turn(long now) {
    Step s = steps.peek();
    if (!begun) {
      begun = true;
      still = 0;
      stepStarted = now;
      s.before.run();
      return;
    }
    if (!s.ready.getAsBoolean()) {
      still = 0;
      if (now - stepStarted > GIVE_UP_NANOS) {
        steps.clear(); // ends the run; the pictures so far stay
        throw new IllegalStateException("the view '" + s.picture + "' never became ready");
      }
      return;
    }
    if (++still >= SETTLE) {
      if (!s.picture.isEmpty()) {
        save(s.picture);
      }
      steps.poll();
      begun = false;
    }
  }

  private void save(String name) {
    WritableImage image = stage.getScene().snapshot(null);
    int w = (int) image.getWidth();
    int h = (int) image.getHeight();
    int[] pixels = new int[w * h];
    image.getPixelReader().getPixels(0, 0, w, h, PixelFormat.getIntArgbInstance(), pixels, 0, w);
    BufferedImage copy = new BufferedImage(w, h, BufferedImage.TYPE_INT_RGB);
    copy.setRGB(0, 0, w, h, pixels, 0, w);
    try {
      Files.createDirectories(out);
      ImageIO.write(copy, "png", out.resolve(name + ".png").toFile());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
