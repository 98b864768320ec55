package flarvo.plate;

import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import java.nio.file.Path;

/** How much memory pictures take while they are worked on, at most; in bytes. */
public final class PictureMemory {

  /** Of the formats other than OpenEXR: R, G, B, A. */
  private static final int MOST_USUAL = 4;

  private PictureMemory() {}

  /**
   * What a file holds, as far as memory goes.
   *
   * @param size pixels
   * @param channels that it has or may have
   */
  public record Claim(PictureSize size, int channels) {

    /** Reading it: its numbers, and beside them what the decoder hands over. */
    public long reading() {
      return 2 * numbers(size, channels);
    }
  }

  /**
   * Looks at a picture's header.
   *
   * @throws InputError when it cannot be read
   */
  public static Claim of(Path file) {
    if (PlateReader.isExr(file)) {
      ExrHeader.Whole h = ExrHeader.whole(file);
      return new Claim(h.plate().size(), h.channels().size());
    }
    PlateHeader h = PlateReader.header(file);
    return new Claim(h.size(), h.facts().alpha() ? MOST_USUAL : MOST_USUAL - 1);
  }

  /** A picture's numbers. */
  public static long numbers(PictureSize size, int channels) {
    return (long) Float.BYTES * size.width() * size.height() * channels;
  }

  /** Writing one: beside its numbers those with another alpha, and what the encoder is given. */
  public static long writing(PictureSize size, int channels) {
    return 2 * numbers(size, channels);
  }
}
