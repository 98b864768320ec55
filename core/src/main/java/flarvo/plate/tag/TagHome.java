package flarvo.plate.tag;

import java.util.Locale;

/** Which files hold a tag as it is. */
public enum TagHome {
  OPENEXR("OpenEXR"),
  PNG("PNG"),
  JPEG("JPEG"),
  TIFF("TIFF"),
  /** A colour profile, which PNG, JPEG and TIFF hold alike. */
  PROFILE("a colour profile"),
  /** What holds only in the file that it was found in: places in the file, or a broken tag. */
  NOWHERE("nowhere");

  private final String words;

  TagHome(String words) {
    this.words = words;
  }

  /** The name for people. */
  public String words() {
    return words;
  }

  /** Whether a file of a format can hold such a tag. */
  public boolean isIn(TagHome format) {
    return this == format || this == PROFILE && format != OPENEXR;
  }

  /** What becomes in this format of a picture's alpha. */
  public Alpha alpha(Alpha had) {
    if (had == Alpha.NONE) {
      return had;
    }
    return switch (this) {
      case OPENEXR -> Alpha.MULTIPLIED;
      case PNG -> Alpha.STRAIGHT;
      case JPEG -> Alpha.NONE;
      default -> had;
    };
  }

  /** The format that a file's name stands for; {@link #NOWHERE} when it is none of them. */
  public static TagHome ofName(String name) {
    String n = name.toLowerCase(Locale.ROOT);
    return switch (n.substring(n.lastIndexOf('.') + 1)) {
      case "exr" -> OPENEXR;
      case "png" -> PNG;
      case "jpg", "jpeg" -> JPEG;
      case "tif", "tiff" -> TIFF;
      default -> NOWHERE;
    };
  }
}
