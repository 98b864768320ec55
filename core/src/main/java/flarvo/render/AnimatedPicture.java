package flarvo.render;

import flarvo.report.InputError;
import flarvo.scene.Rate;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.awt.image.BufferedImage;
import java.awt.image.RenderedImage;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import javax.imageio.IIOImage;
import javax.imageio.ImageIO;
import javax.imageio.ImageTypeSpecifier;
import javax.imageio.ImageWriteParam;
import javax.imageio.ImageWriter;
import javax.imageio.metadata.IIOInvalidTreeException;
import javax.imageio.metadata.IIOMetadata;
import javax.imageio.metadata.IIOMetadataNode;
import javax.imageio.stream.ImageOutputStream;

/** An animated GIF of pictures on disk, small enough for mail, which plays again and again. */
final class AnimatedPicture {

  private static final int MOST_WIDTH = 480;
  private static final int MOST_PICTURES = 80;
  private static final String NATIVE = "javax_imageio_gif_image_1.0";

  private AnimatedPicture() {}

  /**
   * Writes the pictures, or every so-manieth of many; played it takes as long as they do.
   *
   * @param file is replaced where it exists; written whole or not at all
   * @throws InputError when a picture cannot be read, or the disk refuses
   */
  static void write(List<Path> pictures, Rate rate, Path file, Progress progress) {
    int step = Math.max(1, (pictures.size() + MOST_PICTURES - 1) / MOST_PICTURES);
    Previews.intoPlace(
        file,
        ".gif",
        part -> {
          ImageWriter w = ImageIO.getImageWritersByFormatName("gif").next();
          try (ImageOutputStream out = ImageIO.createImageOutputStream(part.toFile())) {
            w.setOutput(out);
            w.prepareWriteSequence(null);
            int before = 0;
            for (int i = 0; i < pictures.size(); i += step) {
              if (progress.isCancelled()) {
                throw new Cancelled();
              }
              // The format counts hundredths; the sum stays right.
              int until = (int) Math.round(100.0 * (i + step) * rate.den() / rate.num());
              BufferedImage image = Previews.read(pictures.get(i), MOST_WIDTH, 1);
              add(w, image, Math.max(2, until - before));
              before = until;
              progress.step(i + 1L, pictures.size());
            }
            w.endWriteSequence();
          } catch (IOException e) {
            throw new InputError(
                file.toString(),
                "",
                "cannot be written (" + e.getMessage() + ")",
                "Is the disk full?",
                e);
          } finally {
            w.dispose();
          }
        });
  }

  private static void add(ImageWriter w, RenderedImage image, int hundredths) throws IOException {
    ImageWriteParam p = w.getDefaultWriteParam();
    IIOMetadata m = w.getDefaultImageMetadata(new ImageTypeSpecifier(image), p);
    w.writeToSequence(new IIOImage(image, null, timed(m, hundredths)), p);
  }

  private static IIOMetadata timed(IIOMetadata m, int hundredths) throws IIOInvalidTreeException {
    IIOMetadataNode root = (IIOMetadataNode) m.getAsTree(NATIVE);
    IIOMetadataNode control = child(root, "GraphicControlExtension");
    control.setAttribute("disposalMethod", "none");
    control.setAttribute("userInputFlag", "FALSE");
    control.setAttribute("transparentColorFlag", "FALSE");
    control.setAttribute("transparentColorIndex", "0");
    control.setAttribute("delayTime", Integer.toString(hundredths));
    IIOMetadataNode loop = new IIOMetadataNode("ApplicationExtension");
    loop.setAttribute("applicationID", "NETSCAPE");
    loop.setAttribute("authenticationCode", "2.0");
    loop.setUserObject(new byte[] {1, 0, 0});
    child(root, "ApplicationExtensions").appendChild(loop);
    m.setFromTree(NATIVE, root);
    return m;
  }

  private static IIOMetadataNode child(IIOMetadataNode root, String name) {
    for (int i = 0; i < root.getLength(); i++) {
      IIOMetadataNode node = (IIOMetadataNode) root.item(i);
      if (node.getNodeName().equals(name)) {
        return node;
      }
    }
    IIOMetadataNode made = new IIOMetadataNode(name);
    root.appendChild(made);
    return made;
  }
}
