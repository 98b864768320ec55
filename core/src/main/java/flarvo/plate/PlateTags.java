package flarvo.plate;

import java.util.List;

/**
 * What a picture says besides its pixels.
 *
 * @param pixelAspect width of a pixel over its height
 * @param attributes those of an OpenEXR header that are carried on as they are: rate, timecode,
 *     colour tags, and a studio's own
 */
public record PlateTags(double pixelAspect, List<Attribute> attributes) {

  public static final PlateTags NONE = new PlateTags(1, List.of());

  /** One attribute, its value as the file has it. */
  public record Attribute(String name, String type, byte[] value) {}

  public PlateTags {
    attributes = List.copyOf(attributes);
  }
}
