package flarvo.demo;

import flarvo.convention.Dialects;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectShot;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.PlateRole;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
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
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Random;
import java.util.stream.IntStream;
import javax.imageio.IIOImage;
import javax.imageio.ImageIO;
import javax.imageio.ImageWriteParam;
import javax.imageio.ImageWriter;
import javax.imageio.stream.ImageOutputStream;

/** Writes the demo production: {@code DemoWriter FOLDER}. */
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
    writePlates(folder);
    System.out.println("wrote the demo production into " + folder);
  }

  /** Everything but the pictures: solve, tracks, lens, project. */
  static void writeData(Path folder) {
    Path shot = folder.resolve(NAME);
    TrackMaker.Tracks tracks = new TrackMaker().make();
    AtomicFile.write(
        shot.resolve("incoming/" + NAME + "_tracks.csv"),
        out -> tracks(tracks.observations(), out));
    solve(shot.resolve("incoming/" + NAME + "_solve.usda"), tracks);
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
                        NAME + "/incoming/" + NAME + "_solve.usda",
                        NAME + "/incoming/" + NAME + "_tracks.csv"),
                    List.of(
                        new ProjectShot.PlateFolder(
                            NAME + "/plates/undistorted", PlateRole.UNDISTORTED),
                        new ProjectShot.PlateFolder(NAME + "/plates/original", PlateRole.ORIGINAL)),
                    Optional.of("track-zup"),
                    OptionalInt.of(TerraceTruth.FRAMES.first()),
                    Optional.of(TerraceTruth.RATE),
                    LEVEL,
                    List.of(
                        planned("Animation", "anim-yup-cm", "usd-text", "anim.usda"),
                        planned("Game engine", "engine-zup-left-cm", "fbx-text", "engine.fbx"),
                        planned("Compositing", "comp-pixels", "table", "comp.csv")))))
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

  /** The solve as the tracking department sent it: its own origin and scale, numbered from 0. */
  private static void solve(Path file, TrackMaker.Tracks tracks) {
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
    Shot shot =
        new Shot(
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
    var dialect = Dialects.shipped().get("track-zup");
    Dispatcher.send(
        shot,
        new Delivery(
            "solve",
            dialect.withFrames(dialect.frames().withFirstFrame(0)),
            Formats.byId("usd-text"),
            Delivery.Contents.CAMERA_AND_TRACKERS,
            file.getFileName().toString()),
        file,
        Progress.NONE);
  }
}
