package flarvo.plate;

import flarvo.plate.tag.PlateTags;
import java.util.List;

/**
 * A picture as numbers: rows from the top, the channels of a pixel beside each other. Whole numbers
 * of a file are scaled so that 1 is the largest; floating ones are as they are. The array is handed
 * out uncopied, because a plate is large; who makes a raster fills it, who is given one reads it.
 *
 * @param channels names, such as R, G, B, A
 * @param kind how the file stores them; the numbers here are floats always
 * @param tags what else the file says
 */
public record Raster(
    int width, int height, List<String> channels, SampleKind kind, float[] values, PlateTags tags) {

  public Raster {
    channels = List.copyOf(channels);
    if (width < 1 || height < 1 || channels.isEmpty()) {
      throw new IllegalArgumentException("a picture has pixels and channels");
    }
    if (values.length != (long) width * height * channels.size()) {
      throw new IllegalArgumentException("the numbers do not fill the picture");
    }
  }

  /** Black, transparent where there is alpha. */
  public static Raster empty(int width, int height, List<String> channels, SampleKind kind) {
    long n = (long) width * height * channels.size();
    return new Raster(width, height, channels, kind, new float[Math.toIntExact(n)], PlateTags.NONE);
  }

  /** Where a channel stands in a pixel; -1 where there is none of that name. */
  public int channel(String name) {
    return channels.indexOf(name);
  }

  /** One number; x and y from the top left corner, the channel by its place in a pixel. */
  public float at(int x, int y, int channel) {
    return values[(y * width + x) * channels.size() + channel];
  }

  /** The same numbers to be stored otherwise. */
  public Raster as(SampleKind other) {
    return new Raster(width, height, channels, other, values, tags);
  }

  /** The same numbers with other tags. */
  public Raster with(PlateTags t) {
    return new Raster(width, height, channels, kind, values, t);
  }
}
