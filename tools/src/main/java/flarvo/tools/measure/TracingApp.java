package flarvo.tools.measure;

import flarvo.desktop.FlarvoApp;
import flarvo.desktop.action.Action;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.trace.TraceStop;
import flarvo.desktop.window.MainWindow;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.geom.AffineTransform;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.stream.IntStream;
import javafx.application.Application;
import javafx.scene.control.TextField;
import javafx.stage.Stage;
import javax.imageio.ImageIO;

/**
 * Trace with plates of 1920 × 1080: pulses while features are followed and the picture is scrubbed,
 * beside those of the same scrubbing alone.
 */
public final class TracingApp extends Application {

  private static final int WIDTH = 1920;
  private static final int HEIGHT = 1080;
  private static final double ALONE_SECONDS = 10;
  private static final int GRAINS = 1_000_003;

  /** Frames a second that are gone through, as by a hand that drags the playhead. */
  private static final double SCRUBBED = 12;

  private final Pulses pulses = new Pulses();
  private Session session;
  private MainWindow window;
  private Path folder;
  private int frames = 300;
  private int features = 300;
  private int phase;

  @Override
  public void start(Stage stage) throws IOException {
    List<String> words = getParameters().getUnnamed();
    frames = words.isEmpty() ? frames : Integer.parseInt(words.get(0));
    features = words.size() < 2 ? features : Integer.parseInt(words.get(1));
    folder = Files.createTempDirectory("flarvo-trace");
    write();
    session = new Session();
    window = FlarvoApp.open(stage, session);
    session.project().open(List.of(folder));
    TimedRun.start(session, folder, this::turn);
  }

  private boolean turn() {
    double seconds = pulses.tick();
    switch (phase) {
      case 0 -> {
        if (session.isOpen() && session.store().isSettled() && session.jobs().running().isEmpty()) {
          session.stop().set(TraceStop.ID);
          next();
        }
      }
      case 1 -> {
        if (seconds > 3 && session.jobs().running().isEmpty()) {
          ((TextField) window.root().lookup("#trace-features")).setText("" + features);
          next();
        }
      }
      case 2 -> {
        scrub(seconds);
        if (seconds > ALONE_SECONDS) {
          say("scrubbing alone", seconds);
          window.stop(TraceStop.class).actions().stream()
              .filter(a -> a.id().equals("trace.follow"))
              .map(Action::deed)
              .forEach(Runnable::run);
          next();
        }
      }
      case 3 -> {
        scrub(seconds);
        if (seconds > 1 && session.store().isSettled()) {
          say("following " + features + " features, scrubbing meanwhile", seconds);
          next();
        }
      }
      default -> {
        return true;
      }
    }
    return false;
  }

  /** There and back, as a hand does. */
  private void scrub(double seconds) {
    int at = (int) (seconds * SCRUBBED) % (2 * frames - 2);
    session.playhead().goTo(1001 + (at < frames ? at : 2 * frames - 2 - at));
  }

  private void next() {
    phase++;
    pulses.restart();
  }

  private void say(String what, double seconds) {
    System.out.printf(
        Locale.ROOT,
        "%d frames of %d × %d, %s: %.0f s; %s%n",
        frames,
        WIDTH,
        HEIGHT,
        what,
        seconds,
        pulses.words());
  }

  /** A wall with detail of all sizes, along which a camera goes, with grain. */
  private void write() {
    BufferedImage wall = wall();
    double[] grain = new Random(7).doubles(GRAINS).map(x -> 5 * (x - 0.5)).toArray();
    IntStream.range(0, frames)
        .parallel()
        .forEach(
            i -> {
              try {
                BufferedImage p = frame(wall, i, i / (double) Math.max(1, frames - 1), grain);
                Path file = folder.resolve("wall." + (1001 + i) + ".jpg");
                if (!ImageIO.write(p, "jpg", file.toFile())) {
                  throw new IOException("no writer of JPEG");
                }
              } catch (IOException e) {
                throw new UncheckedIOException(e);
              }
            });
  }

  private static BufferedImage wall() {
    BufferedImage wall =
        new BufferedImage(WIDTH * 3 / 2, HEIGHT * 3 / 2, BufferedImage.TYPE_3BYTE_BGR);
    Graphics2D g = wall.createGraphics();
    Random r = new Random(3);
    for (int i = 0; i < 40_000; i++) {
      int size = 4 + (int) (120 * Math.pow(r.nextDouble(), 6));
      g.setColor(new java.awt.Color(r.nextInt(256), r.nextInt(256), r.nextInt(256)));
      g.fillRect(r.nextInt(wall.getWidth()) - size, r.nextInt(wall.getHeight()), 2 * size, size);
    }
    g.dispose();
    return wall;
  }

  private static BufferedImage frame(BufferedImage wall, int number, double t, double[] grain) {
    BufferedImage p = new BufferedImage(WIDTH, HEIGHT, BufferedImage.TYPE_3BYTE_BGR);
    Graphics2D g = p.createGraphics();
    g.setRenderingHint(
        RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BICUBIC);
    AffineTransform at = AffineTransform.getTranslateInstance(WIDTH / 2.0, HEIGHT / 2.0);
    at.scale(1 + 0.12 * t, 1 + 0.12 * t);
    at.rotate(0.03 * Math.sin(3 * t));
    at.translate(
        -wall.getWidth() / 2.0 - 380 * (t - 0.5), -wall.getHeight() / 2.0 - 40 * Math.sin(9 * t));
    g.drawImage(wall, at, null);
    g.dispose();
    byte[] bgr = ((java.awt.image.DataBufferByte) p.getRaster().getDataBuffer()).getData();
    for (int i = 0; i < bgr.length; i++) {
      double v = (bgr[i] & 255) + grain[(i + 7919 * number) % grain.length];
      bgr[i] = (byte) Math.max(0, Math.min(255, Math.round(v)));
    }
    return p;
  }
}
