package flarvo.render;

import flarvo.plate.PlateReader;
import flarvo.report.InputError;
import flarvo.scene.Rate;
import flarvo.work.AtomicFile;
import flarvo.work.Progress;
import flarvo.work.TempFolder;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.function.Consumer;

/** Small movies and animated pictures of a sequence that lies on disk. */
public final class Previews {

  private Previews() {}

  /**
   * A movie of at most 960 pixels' width, in MP4.
   *
   * @param pictures in order, all of one size
   * @param file is replaced where it exists; written whole or not at all
   * @throws InputError when a picture cannot be read, or the disk refuses
   */
  public static void movie(List<Path> pictures, Rate rate, Path file, Progress progress) {
    require(pictures, file, ".mp4");
    MovieWriter.write(pictures, rate, file, progress);
  }

  /**
   * An animated GIF of at most 480 pixels' width and 80 pictures.
   *
   * @param pictures in order, all of one size
   * @param file is replaced where it exists; written whole or not at all
   * @throws InputError when a picture cannot be read, or the disk refuses
   */
  public static void animation(List<Path> pictures, Rate rate, Path file, Progress progress) {
    require(pictures, file, ".gif");
    AnimatedPicture.write(pictures, rate, file, progress);
  }

  private static void require(List<Path> pictures, Path file, String ending) {
    if (pictures.isEmpty()) {
      throw InputError.words("no picture was made", "There is nothing to make a movie of");
    }
    if (!file.getFileName().toString().endsWith(ending)) {
      throw new InputError(file.toString(), "", "the name does not end in " + ending, "Call it so");
    }
  }

  /**
   * A picture at most so wide, as bytes of blue, green and red.
   *
   * @param even sides are multiples of it
   */
  static BufferedImage read(Path file, int mostWidth, int even) {
    return PlateReader.withImage(
        file,
        image -> {
          double k = Math.min(1, (double) mostWidth / image.getWidth());
          int w = Math.max(even, (int) Math.round(image.getWidth() * k) / even * even);
          int h = Math.max(even, (int) Math.round(image.getHeight() * k) / even * even);
          BufferedImage out = new BufferedImage(w, h, BufferedImage.TYPE_3BYTE_BGR);
          Graphics2D g = out.createGraphics();
          g.setRenderingHint(
              RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BICUBIC);
          g.setRenderingHint(RenderingHints.KEY_RENDERING, RenderingHints.VALUE_RENDER_QUALITY);
          g.drawImage(image, 0, 0, w, h, null);
          g.dispose();
          return out;
        });
  }

  /** Has a file written elsewhere and copies it into place; libraries take names, not streams. */
  static void intoPlace(Path file, String ending, Consumer<Path> writing) {
    try (TempFolder folder = TempFolder.make("preview")) {
      Path part = folder.path().resolve("preview" + ending);
      writing.accept(part);
      AtomicFile.write(file, out -> Files.copy(part, out));
    }
  }
}
