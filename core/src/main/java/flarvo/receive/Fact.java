package flarvo.receive;

import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import java.util.Arrays;
import java.util.Optional;
import java.util.function.Function;

/** What files make claims about. Those that can be ruled know how a ruling is spelled. */
public enum Fact {
  TAKE("take", "Take", Fact::named),
  CAMERA("camera", "Camera", Fact::named),
  RATE("rate", "Rate", Rate::parse),
  FIRST_FRAME("firstFrame", "First frame", Fact::whole),
  LAST_FRAME("lastFrame", "Last frame", null),
  FRAME_COUNT("frameCount", "Frames", null),
  PICTURE_SIZE("pictureSize", "Picture size", PictureSize::parse),
  PIXEL_ASPECT("pixelAspect", "Pixel aspect", Fact::positive),
  UP_AXIS("upAxis", "Up axis", SignedAxis::parse),
  HANDEDNESS("handedness", "Handedness", null),
  UNIT("unit", "Unit", LinearUnit::parse),
  FILM_BACK("filmBack", "Film back", FilmBacks::parse),
  FOCAL_LENGTH("focalLength", "Focal length", null),
  MOVE("move", "Kind of move", null),
  FIELD_ORDER("fieldOrder", "Field order", null),
  LENS("lens", "Lens", null),
  BIT_DEPTH("bitDepth", "Bit depth", null),
  ALPHA("alpha", "Alpha", null),
  TIMECODE("timecode", "Timecode", null),
  UNDISTORTED("undistorted", "Undistorted", null);

  private final String id;
  private final String title;
  private final Function<String, Object> parser;

  Fact(String id, String title, Function<String, Object> parser) {
    this.id = id;
    this.title = title;
    this.parser = parser;
  }

  /** As project files and the command line spell it. */
  public String id() {
    return id;
  }

  public String title() {
    return title;
  }

  /** Whether a ruling on it changes the shot. */
  public boolean canBeRuled() {
    return parser != null;
  }

  /**
   * The value that a typed ruling means.
   *
   * @throws IllegalArgumentException with a sentence for the user when the text means nothing
   */
  public Object parse(String text) {
    if (parser == null) {
      throw new IllegalArgumentException(title + " cannot be ruled");
    }
    return parser.apply(text);
  }

  /** The fact of an id, if there is one. */
  public static Optional<Fact> of(String id) {
    return Arrays.stream(values()).filter(f -> f.id.equals(id)).findFirst();
  }

  private static Object named(String text) {
    if (text.isBlank()) {
      throw new IllegalArgumentException("type a name");
    }
    return text;
  }

  private static Object whole(String text) {
    try {
      return Integer.valueOf(text.trim());
    } catch (NumberFormatException e) {
      throw new IllegalArgumentException(
          "'" + text + "' is not a frame; type a whole number such as 1001", e);
    }
  }

  private static Object positive(String text) {
    try {
      double d = Double.parseDouble(text.trim());
      if (d > 0 && d < 100) {
        return d;
      }
    } catch (NumberFormatException e) {
      // Falls through to the one message below.
    }
    throw new IllegalArgumentException("'" + text + "' is not a pixel aspect; write 1 or 2");
  }
}
