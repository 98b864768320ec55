package flarvo.plate.tag;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * What a picture says besides its pixels.
 *
 * @param pixelAspect width of a pixel over its height
 * @param alpha whether colours are multiplied by what the picture covers
 * @param attributes what is carried on as it is: rate, timecode, colour, texts, a studio's own
 */
public record PlateTags(double pixelAspect, Alpha alpha, List<Attribute> attributes) {

  public static final PlateTags NONE = new PlateTags(1, List.of());

  /** Of a picture without alpha. */
  public PlateTags(double pixelAspect, List<Attribute> attributes) {
    this(pixelAspect, Alpha.NONE, attributes);
  }

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

  /** The same with another kind of alpha. */
  public PlateTags with(Alpha other) {
    return new PlateTags(pixelAspect, other, attributes);
  }

  /** Names of what a format does not hold; of alpha, what becomes of it. */
  public List<String> notIn(TagHome format) {
    Stream<String> names =
        attributes.stream().filter(a -> !a.home().isIn(format)).map(Attribute::name);
    return Stream.concat(alphaNotIn(format).stream(), names).distinct().toList();
  }

  private Optional<String> alphaNotIn(TagHome format) {
    Alpha there = format.alpha(alpha);
    if (there == alpha) {
      return Optional.empty();
    }
    return Optional.of(
        switch (there) {
          case NONE -> "alpha";
          case STRAIGHT -> "colours multiplied by alpha (they were divided by it)";
          case MULTIPLIED -> "straight alpha (colours were multiplied by it)";
        });
  }
}
