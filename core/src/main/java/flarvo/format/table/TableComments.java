package flarvo.format.table;

import flarvo.convention.AngleUnit;
import flarvo.convention.LinearUnit;
import flarvo.convention.RotationOrder;
import flarvo.convention.SignedAxis;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What the comments of a table say of it: {@code # key: value} or {@code # key = value}. */
final class TableComments {

  private static final Pattern LINE =
      Pattern.compile("^#+\\s*([^:=]{1,40}?)\\s*[:=]\\s*(.+?)\\s*$");
  private static final Pattern ORDER = Pattern.compile("(?i)\\b([xyz]{3})\\b");

  private final Map<String, String> said = new LinkedHashMap<>();

  TableComments(String text) {
    text.lines()
        .filter(l -> l.startsWith("#"))
        .limit(200)
        .forEach(
            l -> {
              Matcher m = LINE.matcher(l);
              if (m.matches()) {
                said.putIfAbsent(key(m.group(1)), m.group(2));
              }
            });
  }

  private static String key(String words) {
    return words.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]", "");
  }

  private Optional<String> first(String... keys) {
    for (String k : keys) {
      if (said.containsKey(k)) {
        return Optional.of(said.get(k));
      }
    }
    return Optional.empty();
  }

  private static <T> Optional<T> parse(Optional<String> text, Function<String, T> how) {
    try {
      return text.map(how);
    } catch (IllegalArgumentException e) {
      return Optional.empty(); // a comment for people, not for us
    }
  }

  private Optional<String> rotation() {
    return first("rotationorder", "rotateorder", "rotorder", "eulerorder", "rotation", "order");
  }

  /** The order of rotations; empty where none is stated. */
  Optional<RotationOrder> order() {
    return rotation()
        .map(ORDER::matcher)
        .filter(Matcher::find)
        .flatMap(
            m -> parse(Optional.of(m.group(1).toUpperCase(Locale.ROOT)), RotationOrder::parse));
  }

  /** The unit of angles; empty where none is stated. */
  Optional<AngleUnit> angles() {
    for (Optional<String> t : List.of(first("angles", "angleunit", "angleunits"), rotation())) {
      String words = t.orElse("").toLowerCase(Locale.ROOT);
      if (words.contains("rad")) {
        return Optional.of(AngleUnit.RADIANS);
      }
      if (words.contains("deg")) {
        return Optional.of(AngleUnit.DEGREES);
      }
    }
    return Optional.empty();
  }

  /** The unit of positions. */
  Optional<LinearUnit> unit() {
    return parse(first("unit", "units", "linearunit", "sceneunit", "worldunit"), LinearUnit::parse);
  }

  /** The axis that points up. */
  Optional<SignedAxis> up() {
    return parse(
        first("up", "upaxis", "worldup", "axis")
            .map(t -> t.toUpperCase(Locale.ROOT).replaceAll("[^XYZ+-]|UP", ""))
            .filter(t -> t.matches("[+-]?[XYZ]"))
            .map(t -> t.length() == 1 ? "+" + t : t),
        SignedAxis::parse);
  }

  /** Frames a second of times and timecode. */
  Optional<Rate> rate() {
    return parse(
        first("rate", "fps", "framerate", "framespersecond")
            .map(t -> t.toLowerCase(Locale.ROOT).replaceAll("fps|frames/s", "").strip()),
        Rate::parse);
  }

  /** Resolution of the picture. */
  Optional<PictureSize> picture() {
    return parse(
        first("picture", "picturesize", "resolution", "imagesize", "size", "plate")
            .map(t -> t.toLowerCase(Locale.ROOT).replaceAll("px|pixels|\\s", "")),
        PictureSize::parse);
  }

  /** Whether matrices are said to lead from the camera to the world. */
  boolean isCameraToWorld() {
    String words =
        first("matrix", "matrices", "transform", "convention").orElse("").toLowerCase(Locale.ROOT);
    return words.matches(".*(camera|local|object|cam)[ _-]*(to|2)[ _-]*world.*|.*c2w.*");
  }

  /** Where 2D numbers begin, and whether y grows upwards. */
  private Optional<PixelReading> pixels(PixelReading guess) {
    String words =
        String.join(
            " ",
            first("origin", "pixelorigin", "imageorigin").orElse(""),
            first("y", "yaxis", "ydirection").map(t -> "y " + t).orElse(""));
    String w = words.toLowerCase(Locale.ROOT).replace('-', ' ');
    boolean up = w.contains("y up") || w.contains("bottom left") || w.contains("lower left");
    boolean down = w.contains("y down") || w.contains("top left") || w.contains("upper left");
    if (up == down) {
      return Optional.empty();
    }
    boolean centre = guess.origin() == PixelReading.Origin.CENTRE;
    PixelReading.Origin corner =
        up ? PixelReading.Origin.BOTTOM_LEFT : PixelReading.Origin.TOP_LEFT;
    return Optional.of(guess.withUp(up).withOrigin(centre ? guess.origin() : corner));
  }

  /** Whether the comments say which way y grows. */
  boolean saysY() {
    return pixels(PixelReading.CANONICAL).isPresent();
  }

  /** The same mapping with what the comments state. */
  TableMapping applied(TableMapping m) {
    return m.withAngles(angles().orElse(m.angles()), order().orElse(m.order()))
        .withSpace(unit().or(m::unit), up().or(m::up))
        .withPixels(pixels(m.pixels()).orElse(m.pixels()))
        .withPicture(m.picture().or(this::picture))
        .withRate(rate().or(m::rate));
  }
}
