package flarvo.format.table;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What columns are called. */
final class ColumnWords {

  private static final Pattern IN_BRACKETS = Pattern.compile("[\\[(]\\s*([^\\])]*?)\\s*[\\])]");

  private static final Map<String, ColumnRole> WORDS = new HashMap<>();

  static {
    words(
        ColumnRole.TRACKER,
        "tracker track name point pointname id feature marker label pt trackname trackername"
            + " trackid trackerid featurename featureid markername markerid pointid locator");
    words(ColumnRole.FRAME, "frame frames framenumber frameno frm fr f");
    words(ColumnRole.TIMECODE, "timecode tc smpte smptetimecode");
    words(ColumnRole.SECONDS, "time seconds sec secs timesec timeseconds timeins");
    words(ColumnRole.PIXEL_X, "px pixelx xpx xpixel u screenx imagex x2d 2dx");
    words(ColumnRole.PIXEL_Y, "py pixely ypx ypixel v screeny imagey y2d 2dy");
    words(ColumnRole.X, "x tx posx positionx translatex translationx xpos camx camerax x3d");
    words(ColumnRole.Y, "y ty posy positiony translatey translationy ypos camy cameray y3d");
    words(ColumnRole.Z, "z tz posz positionz translatez translationz zpos camz cameraz z3d");
    words(ColumnRole.TURN_X, "rx rotx rotationx rotatex xrot tilt pitch");
    words(ColumnRole.TURN_Y, "ry roty rotationy rotatey yrot pan yaw heading");
    words(ColumnRole.TURN_Z, "rz rotz rotationz rotatez zrot roll");
    words(ColumnRole.QUAT_W, "qw quatw quaternionw rotw rw");
    words(ColumnRole.QUAT_X, "qx quatx quaternionx");
    words(ColumnRole.QUAT_Y, "qy quaty quaterniony");
    words(ColumnRole.QUAT_Z, "qz quatz quaternionz");
    words(
        ColumnRole.FOCAL,
        "focal focalmm focallength focallengthmm fl fov hfov vfov aov focalpx focalpixels lens");
    words(
        ColumnRole.FILM_WIDTH,
        "filmwidth filmwidthmm filmbackwidth sensorwidth backwidth aperturewidth horizontalaperture"
            + " apertureh");
    words(
        ColumnRole.FILM_HEIGHT,
        "filmheight filmheightmm filmbackheight sensorheight backheight apertureheight"
            + " verticalaperture aperturev");
  }

  private static void words(ColumnRole role, String list) {
    for (String w : list.split(" ")) {
      WORDS.put(w, role);
    }
  }

  private ColumnWords() {}

  /** A name in small letters and digits alone, without what stands in brackets. */
  static String plain(String name) {
    return IN_BRACKETS
        .matcher(name.toLowerCase(Locale.ROOT))
        .replaceAll("")
        .replaceAll("[^\\p{L}\\p{N}]", "");
  }

  /** Names in small letters and digits alone, with what stands in brackets. */
  static List<String> letters(List<String> names) {
    return names.stream()
        .map(n -> n.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}\\p{N}]", ""))
        .toList();
  }

  /** What stands in brackets behind a name, such as its unit; empty where nothing does. */
  static String bracketed(String name) {
    Matcher b = IN_BRACKETS.matcher(name.toLowerCase(Locale.ROOT));
    return b.find() ? b.group(1) : "";
  }

  /** What a column of this name holds; {@link ColumnRole#NONE} where the name does not tell. */
  static ColumnRole role(String name) {
    return WORDS.getOrDefault(plain(name), ColumnRole.NONE);
  }
}
