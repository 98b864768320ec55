package flarvo.demo;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.LinearUnit;
import flarvo.convention.SpaceChange;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectShot;
import flarvo.receive.Fact;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.PlateRole;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.AtomicFile;
import flarvo.work.Progress;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Random;
import java.util.stream.IntStream;
import javax.imageio.IIOImage;
import javax.imageio.ImageIO;
import javax.imageio.ImageWriteParam;
import javax.imageio.ImageWriter;
import javax.imageio.stream.ImageOutputStream;

/** Writes the demo production: {@code DemoWriter FOLDER [data]}; with {@code data} no pictures. */
public final class DemoWriter {

  /** From the solve's own space to the levelled world; the project file holds the same numbers. */
  static final Similarity LEVEL =
      new Similarity(2.6, Rotation.about(new Vec3(0.2, 1, -0.1), 0.7), new Vec3(0.35, -0.92, 1.4));

  private static final float JPEG_QUALITY = 0.72f;
  private static final String NAME = "mer_010_terrace";

  private DemoWriter() {}

  public static void main(String[] args) {
    Path folder = Path.of(args.length > 0 ? args[0] : "demo/meridian");
    writeData(folder);
    if (args.length < 2 || !args[1].equals("data")) {
      writePlates(folder);
    }
    System.out.println("wrote the demo production into " + folder);
  }

  /** Everything but the pictures: solve, tracks, lens, project. */
  static void writeData(Path folder) {
    Path shot = folder.resolve(NAME);
    TrackMaker.Tracks tracks = new TrackMaker().make();
    AtomicFile.write(
        shot.resolve("incoming/" + NAME + "_tracks.csv"),
        out -> tracks(tracks.observations(), out));
    Shot solved = solve(tracks);
    clean(shot.resolve("solve/" + NAME + "_solve.usda"), solved);
    camera(shot.resolve("incoming/" + NAME + "_camera.fbx"), solved);
    points(shot.resolve("incoming/" + NAME + "_points.csv"), solved);
    AtomicFile.write(shot.resolve("incoming/" + NAME + "_log.txt"), DemoWriter::log);
    AtomicFile.write(shot.resolve("incoming/" + NAME + "_lens.json"), DemoWriter::lens);
    project(folder.resolve("project.json"));
  }

  static void writePlates(Path folder) {
    Path shot = folder.resolve(NAME);
    IntStream.rangeClosed(TerraceTruth.FRAMES.first(), TerraceTruth.FRAMES.last())
        .parallel()
        .forEach(
            f -> {
              plate(shot.resolve("plates/original/terrace." + f + ".jpg"), f, false);
              plate(shot.resolve("plates/undistorted/terrace_undist." + f + ".jpg"), f, true);
            });
  }

  private static void project(Path file) {
    new ProjectFile(
            file,
            "Meridian",
            List.of(
                new ProjectShot(
                    NAME,
                    List.of(
                        NAME + "/incoming/" + NAME + "_camera.fbx",
                        NAME + "/incoming/" + NAME + "_points.csv",
                        NAME + "/incoming/" + NAME + "_tracks.csv",
                        NAME + "/incoming/" + NAME + "_lens.json",
                        NAME + "/incoming/" + NAME + "_log.txt"),
                    List.of(
                        new ProjectShot.PlateFolder(
                            NAME + "/plates/undistorted", PlateRole.UNDISTORTED),
                        new ProjectShot.PlateFolder(NAME + "/plates/original", PlateRole.ORIGINAL)),
                    Optional.empty(),
                    Map.of(
                        Fact.FIRST_FRAME.id(), "1001",
                        Fact.RATE.id(), "24000/1001",
                        Fact.FILM_BACK.id(), "23.76x13.365",
                        Fact.UP_AXIS.id(), "+Z",
                        Fact.UNIT.id(), "m"),
                    LEVEL,
                    List.of(
                        planned("Animation", "anim-yup-cm", "usd-text", "anim.usda"),
                        planned("Game engine", "engine-zup-left-cm", "fbx-text", "engine.fbx"),
                        planned("Compositing", "comp-pixels", "table", "comp.csv")),
                    List.of())))
        .save();
  }

  private static ProjectShot.PlannedDelivery planned(
      String name, String dialect, String format, String file) {
    return new ProjectShot.PlannedDelivery(
        name,
        dialect,
        OptionalInt.empty(),
        Optional.empty(),
        format,
        Delivery.Contents.CAMERA_AND_TRACKERS.word(),
        NAME + "_" + file);
  }

  static void plate(Path file, int frame, boolean undistorted) {
    BufferedImage image = PlateRenderer.render(frame, undistorted);
    AtomicFile.write(file, out -> jpeg(image, out));
  }

  private static void jpeg(BufferedImage image, OutputStream out) throws IOException {
    ImageIO.setUseCache(false);
    ImageWriter writer = ImageIO.getImageWritersByFormatName("jpeg").next();
    ImageWriteParam p = writer.getDefaultWriteParam();
    p.setCompressionMode(ImageWriteParam.MODE_EXPLICIT);
    p.setCompressionQuality(JPEG_QUALITY);
    try (ImageOutputStream stream = ImageIO.createImageOutputStream(out)) {
      writer.setOutput(stream);
      writer.write(null, new IIOImage(image, null, null), p);
    } finally {
      writer.dispose();
    }
  }

  private static void tracks(Observations o, OutputStream out) throws IOException {
    Writer w = new OutputStreamWriter(out, StandardCharsets.UTF_8);
    w.write("tracker,frame,x,y\n");
    for (String n : o.names()) {
      for (int r = o.firstRow(n); r < o.endRow(n); r++) {
        w.write(
            String.format(Locale.ROOT, "%s,%d,%.4f,%.4f%n", n, o.frame(r), o.x(r), o.y(r))
                .replace("\r", ""));
      }
    }
    w.flush();
  }

  private static void lens(OutputStream out) throws IOException {
    String text =
        String.format(
            Locale.ROOT,
            "{%n  \"model\": \"radial-original-to-undistorted\",%n  \"normalisation\":"
                + " \"half-width\",%n  \"centre\": [0.5, 0.5],%n  \"coefficients\": {\"k1\": %s,"
                + " \"k2\": %s}%n}%n",
            TerraceTruth.LENS.k1(),
            TerraceTruth.LENS.k2());
    out.write(text.replace("\r", "").getBytes(StandardCharsets.UTF_8));
  }

  /** The solve in its own origin and scale, with the noise that a solve has. */
  private static Shot solve(TrackMaker.Tracks tracks) {
    Similarity toSolve = LEVEL.inverse();
    Random jitter = new Random(11);
    ShotCamera truth = TerraceTruth.camera();
    FrameRange frames = TerraceTruth.FRAMES;
    PoseTrack noisy =
        PoseTrack.of(
            frames,
            f -> {
              Pose p = truth.poses().at(f);
              Vec3 shake =
                  new Vec3(jitter.nextGaussian(), jitter.nextGaussian(), jitter.nextGaussian())
                      .times(0.0004);
              return toSolve.apply(new Pose(p.position().plus(shake), p.rotation()));
            });
    return new Shot(
        NAME,
        TerraceTruth.PICTURE,
        TerraceTruth.RATE,
        frames,
        0,
        List.of(truth.withPoses(noisy)),
        List.of(tracks.solved().map(toSolve::apply)),
        Observations.NONE,
        List.of(),
        Similarity.IDENTITY);
  }

  /** As the tracking department has it: whole, Z up, numbered from 0. */
  private static void clean(Path file, Shot solved) {
    Dialect d = Dialects.shipped().get("track-zup");
    send(
        solved,
        d.withFrames(d.frames().withFirstFrame(0)),
        "usd-text",
        Delivery.Contents.CAMERA_AND_TRACKERS,
        file);
  }

  /** As it came: through another package, at its own rate and with a film back nobody set. */
  private static void camera(Path file, Shot solved) {
    Dialect d = Dialects.shipped().get("anim-yup-cm");
    ShotCamera c = solved.camera().orElseThrow();
    ShotCamera careless = c.withOptics(c.optics().map(o -> o.withFilm(36, 24)));
    Shot shot =
        new Shot(
            solved.name(),
            solved.picture(),
            solved.rate(),
            solved.frames(),
            0,
            List.of(careless),
            solved.trackers(),
            Observations.NONE,
            List.of(),
            Similarity.IDENTITY);
    send(
        shot,
        d.withFrames(d.frames().withFirstFrame(0).withRate(Rate.FPS_25)),
        "fbx-text",
        Delivery.Contents.CAMERA,
        file);
  }

  /** Points in a table that says neither axis nor unit: Z up, metres. */
  private static void points(Path file, Shot solved) {
    SpaceChange change =
        Dialects.shipped()
            .get("track-zup")
            .withUnit(LinearUnit.METRE)
            .spaceChange(solved.picture());
    TrackerSet t = change.toDialect(solved.trackers().get(0));
    AtomicFile.write(
        file,
        out -> {
          Writer w = new OutputStreamWriter(out, StandardCharsets.UTF_8);
          w.write("tracker,x,y,z\n");
          for (int i = 0; i < t.size(); i++) {
            w.write(t.names().get(i) + "," + t.x(i) + "," + t.y(i) + "," + t.z(i) + "\n");
          }
          w.flush();
        });
  }

  private static void log(OutputStream out) throws IOException {
    String text =
        """
        Meridian, shot 010, terrace. Hand-held, one take, walk round the sundial.
        Camera: sensor 23.76 x 13.365 mm, 17.5 mm lens, progressive.
        Plates 960x540, frame rate 23.976, frames 1001-1096.
        Solve is z-up. Sundial stands 1.01 above the flagstones, flagstones are 0.6 apart.
        """;
    out.write(text.getBytes(StandardCharsets.UTF_8));
  }

  private static void send(
      Shot shot, Dialect dialect, String format, Delivery.Contents contents, Path file) {
    Dispatcher.send(
        shot,
        new Delivery(
            "solve", dialect, Formats.byId(format), contents, file.getFileName().toString()),
        file,
        Progress.NONE);
  }
}
