package flarvo.receive;

import flarvo.convention.FilmBack;
import flarvo.convention.Handedness;
import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.BiPredicate;
import java.util.function.Function;

/**
 * What files make claims about: one constant each, in the order of the ledger. Those that can be
 * ruled know what a ruling, as it is typed, makes of the options.
 *
 * @param <T> what a claim about it says
 */
public final class Fact<T> implements Comparable<Fact<?>> {

  private static final List<Fact<?>> ALL = new ArrayList<>();

  public static final Fact<List<String>> TAKE = named("take", "Take", IntakeOptions::withTake);
  public static final Fact<List<String>> CAMERA =
      named("camera", "Camera", IntakeOptions::withCamera);
  public static final Fact<Rate> RATE = ruled("rate", "Rate", Rate::parse, IntakeOptions::withRate);
  public static final Fact<Integer> FIRST_FRAME =
      ruled("firstFrame", "First frame", Fact::frame, IntakeOptions::withPlateFirst);
  public static final Fact<Integer> LAST_FRAME = told("lastFrame", "Last frame");
  public static final Fact<Integer> FRAME_COUNT = told("frameCount", "Frames");
  public static final Fact<PictureSize> PICTURE_SIZE =
      ruled("pictureSize", "Picture size", PictureSize::parse, IntakeOptions::withSize);
  public static final Fact<Double> PIXEL_ASPECT =
      ruled("pixelAspect", "Pixel aspect", Fact::positive, IntakeOptions::withPixelAspect);
  public static final Fact<SignedAxis> UP_AXIS =
      ruled("upAxis", "Up axis", SignedAxis::parse, IntakeOptions::withUp);
  public static final Fact<Handedness> HANDEDNESS = told("handedness", "Handedness");
  public static final Fact<LinearUnit> UNIT =
      ruled("unit", "Unit", LinearUnit::parse, IntakeOptions::withUnit);
  public static final Fact<FilmBack> FILM_BACK =
      ruled("filmBack", "Film back", FilmBacks::parse, IntakeOptions::withFilmBack);
  public static final Fact<FocalClaim> FOCAL_LENGTH = told("focalLength", "Focal length");

  /** Whether the camera only turns. */
  public static final Fact<Boolean> MOVE = told("move", "Kind of move");

  public static final Fact<String> FIELD_ORDER = told("fieldOrder", "Field order");

  /** Coefficients by name. */
  public static final Fact<Map<String, Double>> LENS = told("lens", "Lens");

  public static final Fact<String> BIT_DEPTH = told("bitDepth", "Bit depth");
  public static final Fact<Boolean> ALPHA = told("alpha", "Alpha");
  public static final Fact<String> TIMECODE = told("timecode", "Timecode");
  public static final Fact<Boolean> UNDISTORTED = told("undistorted", "Undistorted");

  private final String id;
  private final String title;
  private final int place;
  private final Ruling<?, T> ruling; // null where none can be

  /**
   * How a ruling is typed, what it makes of the options, and which claims agree with it.
   *
   * @param <R> what is typed: usually what is claimed, but one name of several
   */
  private record Ruling<R, T>(
      Function<String, R> parser,
      BiFunction<IntakeOptions, R, IntakeOptions> set,
      BiPredicate<R, T> agrees) {

    IntakeOptions over(IntakeOptions options, String text) {
      return set.apply(options, parser.apply(text));
    }

    boolean agrees(String text, T value) {
      return agrees.test(parser.apply(text), value);
    }
  }

  private Fact(String id, String title, Ruling<?, T> ruling) {
    this.id = id;
    this.title = title;
    this.ruling = ruling;
    this.place = ALL.size();
    ALL.add(this);
  }

  private static <T> Fact<T> ruled(
      String id,
      String title,
      Function<String, T> parser,
      BiFunction<IntakeOptions, T, IntakeOptions> set) {
    return new Fact<>(id, title, new Ruling<>(parser, set, Object::equals));
  }

  private static Fact<List<String>> named(
      String id, String title, BiFunction<IntakeOptions, String, IntakeOptions> set) {
    return new Fact<>(id, title, new Ruling<>(Fact::name, set, (n, all) -> all.contains(n)));
  }

  private static <T> Fact<T> told(String id, String title) {
    return new Fact<>(id, title, null);
  }

  /** All of them, in the order of the ledger. */
  public static List<Fact<?>> values() {
    return List.copyOf(ALL);
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
    return ruling != null;
  }

  /**
   * Refuses a ruling that means nothing.
   *
   * @throws IllegalArgumentException with a sentence for the user
   */
  public void check(String text) {
    over(IntakeOptions.NONE, text);
  }

  /**
   * What a ruling, as it is typed, makes of the options.
   *
   * @throws IllegalArgumentException with a sentence for the user when the text means nothing
   */
  public IntakeOptions over(IntakeOptions options, String text) {
    if (ruling == null) {
      throw new IllegalArgumentException(title + " cannot be ruled");
    }
    return ruling.over(options, text);
  }

  /**
   * Whether a ruling, as it is typed, says what a claim says.
   *
   * @throws IllegalArgumentException when the text means nothing
   */
  public boolean agrees(String text, T value) {
    return ruling != null && ruling.agrees(text, value);
  }

  /** The fact of an id, if there is one. */
  public static Optional<Fact<?>> of(String id) {
    for (Fact<?> f : ALL) {
      if (f.id.equals(id)) {
        return Optional.of(f);
      }
    }
    return Optional.empty();
  }

  @Override
  public int compareTo(Fact<?> o) {
    return Integer.compare(place, o.place);
  }

  /** There is one of each. */
  @Override
  public boolean equals(Object o) {
    return o instanceof Fact<?> f && place == f.place;
  }

  @Override
  public int hashCode() {
    return place;
  }

  @Override
  public String toString() {
    return id;
  }

  private static String name(String text) {
    if (text.isBlank()) {
      throw new IllegalArgumentException("type a name");
    }
    return text;
  }

  /** Days at any rate; sums of such frames stay in range. */
  public static final int FARTHEST_FRAME = 100_000_000;

  private static Integer frame(String text) {
    try {
      int frame = Integer.parseInt(text.trim());
      if (Math.abs((long) frame) > FARTHEST_FRAME) {
        throw new IllegalArgumentException(
            "frame " + frame + " is too far; frames count up to " + FARTHEST_FRAME);
      }
      return frame;
    } catch (NumberFormatException e) {
      throw new IllegalArgumentException(
          "'" + text + "' is not a frame; type a whole number such as 1001", e);
    }
  }

  private static Double positive(String text) {
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
