package flarvo.demo;

import flarvo.convention.Dialects;
import flarvo.decision.Decision;
import flarvo.decision.DecisionEntry;
import flarvo.decision.DecisionLog;
import flarvo.decision.DispatchDecision;
import flarvo.decision.LevelDecision;
import flarvo.decision.Outcome;
import flarvo.decision.ReceiveDecision;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.format.Formats;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectShot;
import flarvo.receive.Fact;
import flarvo.scene.FrameRange;
import flarvo.scene.Similarity;
import flarvo.work.AtomicFile;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import javax.imageio.IIOImage;
import javax.imageio.ImageIO;
import javax.imageio.ImageWriteParam;
import javax.imageio.ImageWriter;
import javax.imageio.stream.ImageOutputStream;

/**
 * Writes the demo production: {@code DemoWriter FOLDER [data|SHOT]}; with {@code data} no pictures,
 * with a shot's name the pictures of that shot alone.
 */
public final class DemoWriter {

  private static final float JPEG_QUALITY = 0.72f;

  private DemoWriter() {}

  public static void main(String[] args) {
    Path folder = Path.of(args.length > 0 ? args[0] : "demo/meridian");
    writeData(folder);
    for (ShotTruth shot :
        List.of(TerraceTruth.SHOT, DomeTruth.SHOT, CartTruth.SHOT, CartsTruth.SHOT)) {
      if (args.length < 2 || args[1].equals(shot.name())) {
        plates(folder, shot, shot.lens().bends());
      }
    }
    System.out.println("wrote the demo production into " + folder);
  }

  /** Everything but the pictures: solves, tracks, lenses, logs, project. */
  static void writeData(Path folder) {
    TerraceFiles.write(folder.resolve(TerraceTruth.SHOT.name()));
    DomeFiles.write(folder.resolve(DomeTruth.SHOT.name()));
    CartFiles.write(folder.resolve(CartTruth.SHOT.name()));
    CartsFiles.write(folder.resolve(CartsTruth.SHOT.name()));
    new ProjectFile(
            folder.resolve("project.json"),
            "Meridian",
            List.of(
                TerraceFiles.entry(),
                DomeFiles.entry(),
                CartFiles.entry(),
                CartsFiles.entry(folder)))
        .save();
  }

  private static void plates(Path folder, ShotTruth shot, boolean undistorted) {
    FrameRange frames = shot.frames();
    IntStream.rangeClosed(frames.first(), frames.last())
        .parallel()
        .forEach(
            f -> {
              plate(folder.resolve(plateName(shot, f, false)), shot, f, false);
              if (undistorted) {
                plate(folder.resolve(plateName(shot, f, true)), shot, f, true);
              }
            });
  }

  /** Where a plate lies, from the production's folder. */
  static String plateName(ShotTruth shot, int frame, boolean undistorted) {
    return String.format(
        Locale.ROOT,
        "%s/plates/%s/%s.%04d.jpg",
        shot.name(),
        undistorted ? "undistorted" : "original",
        shot.name().substring(8) + (undistorted ? "_undist" : ""),
        frame);
  }

  /** A shot as somebody left it who ruled on its facts, levelled it and planned deliveries. */
  static ProjectShot entry(
      String name,
      List<String> incoming,
      List<ProjectShot.PlateFolder> plates,
      Map<String, String> rulings,
      Similarity level,
      List<Delivery> deliveries) {
    return entry(name, incoming, plates, rulings, level, deliveries, List.of());
  }

  /**
   * @param objects more decisions, which read files; they are read when the project is opened
   */
  static ProjectShot entry(
      String name,
      List<String> incoming,
      List<ProjectShot.PlateFolder> plates,
      Map<String, String> rulings,
      Similarity level,
      List<Delivery> deliveries,
      List<Decision> objects) {
    List<Decision> all = new ArrayList<>();
    for (Fact<?> f : Fact.values()) {
      if (rulings.containsKey(f.id())) {
        all.add(new ReceiveDecision.Rule(f, rulings.get(f.id())));
      }
    }
    if (!level.equals(Similarity.IDENTITY)) {
      all.add(new LevelDecision.MoveLevel(level, "level by hand"));
    }
    deliveries.forEach(d -> all.add(new DispatchDecision.AddDelivery(d)));
    return new ProjectShot(
        name,
        incoming.stream().map(f -> name + "/incoming/" + name + "_" + f).toList(),
        plates,
        Optional.empty(),
        reading(DecisionLog.of(all), objects));
  }

  private static DecisionLog reading(DecisionLog log, List<Decision> objects) {
    List<DecisionEntry> all = new ArrayList<>(log.entries());
    for (Decision d : objects) {
      all.add(
          new DecisionEntry(
              all.size() + 1L,
              d,
              "",
              Optional.of(new Outcome.Reread(Optional.empty())),
              Optional.empty(),
              Optional.empty(),
              List.of()));
    }
    return new DecisionLog(log.base(), all, all.size(), all.size() + 1L);
  }

  static Delivery planned(String shot, String name, String dialect, String format, String file) {
    return new Delivery(
        name,
        Dialects.shipped().get(dialect),
        Formats.byId(format),
        Contents.CAMERA_AND_TRACKERS,
        shot + "_" + file);
  }

  static void plate(Path file, ShotTruth shot, int frame, boolean undistorted) {
    BufferedImage image = PlateRenderer.render(shot, frame, undistorted);
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
}
