package flarvo.cli;

import flarvo.scene.PictureSize;
import picocli.CommandLine.Option;

/** The size of the original picture, where no plates tell it. */
final class OriginalOption {

  @Option(
      names = "--size",
      required = true,
      paramLabel = "WxH",
      converter = Converters.Size.class,
      description = "size of the original")
  private PictureSize size;

  @Option(
      names = "--pixel-aspect",
      paramLabel = "A",
      defaultValue = "1",
      description = "width of a pixel over its height (default ${DEFAULT-VALUE})")
  private double pixelAspect;

  PictureSize picture() {
    return new PictureSize(size.width(), size.height(), Converters.aspect(pixelAspect));
  }
}
