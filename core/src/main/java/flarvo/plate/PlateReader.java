package flarvo.plate;

import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import java.awt.Graphics2D;
import java.awt.image.BufferedImage;
import java.awt.image.DataBufferInt;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Iterator;
import java.util.Locale;
import java.util.function.Function;
import javax.imageio.ImageIO;
import javax.imageio.ImageReader;
import javax.imageio.stream.ImageInputStream;

/** Reads JPEG, PNG, TIFF and OpenEXR pictures. The size is checked before anything is decoded. */
public final class PlateReader {

  static {
    ImageIO.setUseCache(false);
  }

  private PlateReader() {}

  /** Size, depth, alpha and what else a picture says of itself. */
  static PlateHeader header(Path file) {
    return isExr(file)
        ? ExrHeader.read(file)
        : withReader(
            file,
            reader -> {
              PictureSize size = checkedSize(file, reader);
              return ImageFacts.of(file, reader, size);
            });
  }

  static boolean isExr(Path file) {
    try (InputStream in = Files.newInputStream(file)) {
      byte[] b = in.readNBytes(4);
      return b.length == 4
          && ByteBuffer.wrap(b).order(ByteOrder.LITTLE_ENDIAN).getInt() == ExrHeader.MAGIC;
    } catch (IOException e) {
      return false; // said where the file is opened in earnest
    }
  }

  /**
   * Decodes an image.
   *
   * @throws InputError when it cannot be read, with the cause
   */
  public static PlateImage read(PlateSequence plates, int frame) {
    return read(plates.file(frame));
  }

  /**
   * Decodes an image.
   *
   * @throws InputError when it cannot be read, with the cause
   */
  public static PlateImage read(Path file) {
    if (isExr(file)) {
      return ExrPicture.read(file);
    }
    return withPixels(file, PlateReader::toArgb);
  }

  /** What is made of the pixels of a picture that is not OpenEXR, in whatever order they lie. */
  static <T> T withPixels(Path file, Function<BufferedImage, T> made) {
    return withReader(
        file,
        reader -> {
          checkedSize(file, reader);
          return made.apply(BytePixels.read(reader));
        });
  }

  /** The same, of a picture that can be drawn fast. */
  public static <T> T withImage(Path file, Function<BufferedImage, T> made) {
    return withReader(
        file,
        reader -> {
          checkedSize(file, reader);
          return made.apply(reader.read(0));
        });
  }

  private interface Work<T> {
    T with(ImageReader reader) throws IOException;
  }

  private static <T> T withReader(Path file, Work<T> work) {
    if (!Files.isRegularFile(file)) {
      throw new InputError(file.toString(), "", "image not found", "The sequence has a gap here");
    }
    try {
      TiffCheck.check(file);
      PngCheck.check(file);
    } catch (IOException e) {
      throw new InputError(file.toString(), "", "the picture cannot be read", "", e);
    }
    try (ImageInputStream in = ImageIO.createImageInputStream(file.toFile())) {
      Iterator<ImageReader> readers = ImageIO.getImageReaders(in);
      if (!readers.hasNext()) {
        throw new InputError(
            file.toString(),
            "byte offset 0",
            "not a picture",
            "Supported: JPEG, PNG, TIFF and OpenEXR");
      }
      ImageReader reader = readers.next();
      try {
        reader.setInput(in, true, true);
        reader.addIIOReadWarningListener((r, warning) -> refuseHalf(file, warning));
        return work.with(reader);
      } finally {
        reader.dispose();
      }
    } catch (OutOfMemoryError e) {
      throw new InputError(
          file.toString(), "", "image too large for memory", "Request a new copy", e);
    } catch (IOException | RuntimeException e) {
      if (e instanceof InputError known) {
        throw known;
      }
      // Decoders answer garbage with whatever exception comes first.
      throw new InputError(
          file.toString(),
          "",
          e instanceof IOException && e.getMessage() != null
              ? "the picture is broken (" + e.getMessage() + ")"
              : "the picture is broken",
          "Request a new copy",
          e);
    }
  }

  /** Decoders fill up what is cut off, and only warn; a grey half must not pass for a plate. */
  private static void refuseHalf(Path file, String warning) {
    String w = warning.toLowerCase(Locale.ROOT);
    if (w.contains("premature") || w.contains("truncated") || w.contains("corrupt")) {
      throw new InputError(
          file.toString(), "", "the picture is broken (" + warning + ")", "Request a new copy");
    }
  }

  private static PictureSize checkedSize(Path file, ImageReader reader) throws IOException {
    int w = reader.getWidth(0);
    int h = reader.getHeight(0);
    PixelLimits.check(file, w, h);
    return PictureSize.of(w, h);
  }

  static PlateImage toArgb(BufferedImage image) {
    if (BytePixels.are(image)) {
      return BytePixels.argb(image);
    }
    int w = image.getWidth();
    int h = image.getHeight();
    BufferedImage argb = new BufferedImage(w, h, BufferedImage.TYPE_INT_ARGB);
    Graphics2D g = argb.createGraphics();
    g.drawImage(image, 0, 0, null);
    g.dispose();
    return new PlateImage(w, h, ((DataBufferInt) argb.getRaster().getDataBuffer()).getData());
  }
}
