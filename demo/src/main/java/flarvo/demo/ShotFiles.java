package flarvo.demo;

import flarvo.convention.Dialect;
import flarvo.convention.SpaceChange;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.AtomicFile;
import flarvo.work.Progress;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Random;

/** The kinds of files that departments send, written for a shot as each would write them. */
final class ShotFiles {

  private ShotFiles() {}

  /**
   * The solve in its own origin and scale, with the noise that a solve has.
   *
   * @param positionNoise standard error of the camera's place, in metres of the truth
   */
  static Shot solve(
      ShotTruth truth,
      FeatureTracks.Tracks tracks,
      Similarity toSolve,
      double positionNoise,
      long seed) {
    Random jitter = new Random(seed);
    ShotCamera camera = truth.solvedCamera();
    FrameRange frames = truth.frames();
    PoseTrack noisy =
        PoseTrack.of(
            frames,
            f -> {
              Pose p = camera.poses().at(f);
              Vec3 shake =
                  new Vec3(jitter.nextGaussian(), jitter.nextGaussian(), jitter.nextGaussian())
                      .times(positionNoise);
              return toSolve.apply(new Pose(p.position().plus(shake), p.rotation()));
            });
    return new Shot(
        truth.name(),
        ShotTruth.PICTURE,
        truth.rate(),
        frames,
        0,
        List.of(camera.withPoses(noisy)),
        List.of(tracks.solved().map(toSolve::apply)),
        Observations.NONE,
        List.of(),
        Similarity.IDENTITY);
  }

  /** The same shot with a film back that nobody set. */
  static Shot withFilm(Shot solved, double widthMm, double heightMm) {
    ShotCamera c = solved.camera().orElseThrow();
    return new Shot(
        solved.name(),
        solved.picture(),
        solved.rate(),
        solved.frames(),
        0,
        List.of(c.withOptics(c.optics().map(o -> o.withFilm(widthMm, heightMm)))),
        solved.trackers(),
        Observations.NONE,
        List.of(),
        Similarity.IDENTITY);
  }

  static void send(Shot shot, Dialect dialect, String format, Contents contents, Path file) {
    Dispatcher.send(
        shot,
        new Delivery(
            "solve", dialect, Formats.byId(format), contents, file.getFileName().toString()),
        file,
        Progress.NONE);
  }

  /** 2D tracks in pixels from the top left. */
  static void tracks(Observations o, char between, Path file) {
    StringBuilder text = new StringBuilder(header(between, "tracker", "frame", "x", "y"));
    for (String n : o.names()) {
      for (int r = o.firstRow(n); r < o.endRow(n); r++) {
        text.append(n)
            .append(between)
            .append(o.frame(r))
            .append(between)
            .append(String.format(Locale.ROOT, "%.4f", o.x(r)))
            .append(between)
            .append(String.format(Locale.ROOT, "%.4f", o.y(r)))
            .append('\n');
      }
    }
    text(file, text.toString());
  }

  /** 2D tracks without a header, in shares of the picture: nothing says what is what. */
  static void bareTracks(Observations o, Path file) {
    StringBuilder text = new StringBuilder();
    for (String n : o.names()) {
      for (int r = o.firstRow(n); r < o.endRow(n); r++) {
        text.append(
            String.format(
                Locale.ROOT,
                "%s %4d %.7f %.7f\n",
                n,
                o.frame(r),
                o.x(r) / ShotTruth.PICTURE.width(),
                o.y(r) / ShotTruth.PICTURE.height()));
      }
    }
    text(file, text.toString());
  }

  /** Points in a table that says neither axis nor unit. */
  static void points(Shot solved, Dialect spoken, char between, Path file) {
    SpaceChange change = spoken.spaceChange(solved.picture());
    TrackerSet t = change.toDialect(solved.trackers().get(0));
    StringBuilder text = new StringBuilder(header(between, "tracker", "x", "y", "z"));
    for (int i = 0; i < t.size(); i++) {
      text.append(t.names().get(i))
          .append(between)
          .append(t.x(i))
          .append(between)
          .append(t.y(i))
          .append(between)
          .append(t.z(i))
          .append('\n');
    }
    text(file, text.toString());
  }

  private static String header(char between, String... names) {
    return String.join(String.valueOf(between), names) + "\n";
  }

  static void lens(Lens lens, Path file) {
    text(
        file,
        String.format(
                Locale.ROOT,
                "{%n  \"model\": \"radial-original-to-undistorted\",%n  \"normalisation\":"
                    + " \"half-width\",%n  \"centre\": [0.5, 0.5],%n  \"coefficients\": {\"k1\":"
                    + " %s, \"k2\": %s}%n}%n",
                lens.k1(),
                lens.k2())
            .replace("\r", ""));
  }

  static void text(Path file, String text) {
    AtomicFile.write(
        file,
        out -> {
          Writer w = new OutputStreamWriter(out, StandardCharsets.UTF_8);
          w.write(text);
          w.flush();
        });
  }
}
