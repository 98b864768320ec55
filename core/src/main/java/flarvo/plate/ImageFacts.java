package flarvo.plate;

import flarvo.plate.tag.PictureTags;
import flarvo.plate.tag.StatedColour;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateFacts;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;
import javax.imageio.ImageReader;
import javax.imageio.ImageTypeSpecifier;

/** Depth, alpha and pixel aspect of a picture, from its header. */
final class ImageFacts {

  private ImageFacts() {}

  static PlateHeader of(Path file, ImageReader reader, PictureSize size) throws IOException {
    ImageTypeSpecifier type = reader.getRawImageType(0);
    if (type == null) {
      type = reader.getImageTypes(0).hasNext() ? reader.getImageTypes(0).next() : null;
    }
    int bits = type == null ? 8 : type.getColorModel().getComponentSize(0);
    boolean alpha = type != null && type.getColorModel().hasAlpha();
    return new PlateHeader(
        new PictureSize(size.width(), size.height(), PixelAspect.of(file)),
        new PlateFacts(
            bits,
            false,
            alpha,
            Optional.empty(),
            Optional.empty(),
            StatedColour.of(PictureTags.read(file))));
  }
}
