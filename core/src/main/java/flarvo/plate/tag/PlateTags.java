package flarvo.plate.tag;

import java.util.List;
import java.util.Set;

/**
 * What a picture says besides its pixels.
 *
 * @param pixelAspect width of a pixel over its height
 * @param attributes what is carried on as it is: rate, timecode, colour, texts, a studio's own
 */
public record PlateTags(double pixelAspect, List<Attribute> attributes) {

  public static final PlateTags NONE = new PlateTags(1, List.of());

  /**
   * One of them.
   *
   * @param name as people know it
   * @param type the name of an OpenEXR type, the number of a TIFF type; empty otherwise
   * @param value as the file has it; TIFF's numbers with the highest byte first
   */
  public record Attribute(TagHome home, String name, String type, byte[] value) {

    /** One of an OpenEXR header. */
    public static Attribute exr(String name, String type, byte[] value) {
      return new Attribute(TagHome.OPENEXR, name, type, value);
    }

    static Attribute leftOut(String name) {
      return new Attribute(TagHome.NOWHERE, name, "", new byte[0]);
    }
  }

  /** What states the shape of a pixel in some format, beside its size. */
  private static final Set<String> SHAPE =
      Set.of("pHYs", "XResolution", "YResolution", "ResolutionUnit");

  /** The shape of a pixel that is no square is written in each format's own way. */
  public PlateTags {
    attributes =
        isSquare(pixelAspect)
            ? List.copyOf(attributes)
            : attributes.stream().filter(a -> !SHAPE.contains(a.name())).toList();
  }

  private static boolean isSquare(double aspect) {
    return Math.abs(aspect - 1) < 1e-9;
  }

  boolean isSquare() {
    return isSquare(pixelAspect);
  }

  /** Those that a format holds. */
  public List<Attribute> in(TagHome format) {
    return attributes.stream().filter(a -> a.home().isIn(format)).toList();
  }

  /** Names of those that a format does not hold. */
  public List<String> notIn(TagHome format) {
    return attributes.stream()
        .filter(a -> !a.home().isIn(format))
        .map(Attribute::name)
        .distinct()
        .toList();
  }
}
