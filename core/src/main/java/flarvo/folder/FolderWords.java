package flarvo.folder;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.OptionalInt;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What names of files and folders tell: their role in a shot, their version, and the shot. */
final class FolderWords {

  /** Words for a part of a shot, in names of folders and files. */
  private static final Set<String> ROLES =
      Set.of(
          ("plate plates original originals undistorted undist distorted keyed proxy proxies scan"
                  + " scans footage solve solves incoming in track tracks tracking tracked 2d 3d"
                  + " trackers points cam cams camera cameras geo mesh meshes model models geometry"
                  + " lens lenses note notes log logs refs ref reference matchmove mm layout scene"
                  + " scenes anim fbx usd usda usdc usdz abc alembic gltf glb exr jpg jpeg png tif"
                  + " tiff csv txt main final publish published linear srgb full half hires lores")
              .split(" "));

  /** Folders of what was made from a shot, of what came back, and of what nobody wants any more. */
  private static final Set<String> MADE =
      Set.of(
          "out",
          "output",
          "deliveries",
          "delivery",
          "delivered",
          "export",
          "exports",
          "render",
          "renders",
          "returns",
          "returned",
          "archive",
          "old",
          "trash",
          "tmp",
          "temp",
          "backup");

  private static final Pattern VERSION =
      Pattern.compile("(?i)(?<![a-z0-9])v(\\d{1,5})(?![a-z0-9])");
  private static final Pattern SIZE = Pattern.compile("\\d{3,5}x\\d{3,5}|\\d{1,2}k");
  private static final Pattern NUMBERED = Pattern.compile("(?i)^([^0-9]*)\\d+.*$");

  private FolderWords() {}

  /** Whether a folder is called after a part of a shot, such as {@code plates} or {@code v002}. */
  static boolean isRole(String folder) {
    return tokens(folder).isEmpty();
  }

  /** Whether a folder is for what leaves the shot. */
  static boolean isMade(String folder) {
    String f = folder.toLowerCase(Locale.ROOT).replaceAll("^_+", "");
    return MADE.contains(f);
  }

  /** A name without its ending, version, size and the words for parts: what is left of the shot. */
  static String stem(String name) {
    int dot = name.indexOf('.', 1);
    return String.join("_", tokens(dot < 0 ? name : name.substring(0, dot)));
  }

  private static List<String> tokens(String name) {
    List<String> out = new ArrayList<>();
    for (String t : name.split("[_\\-. ]+")) {
      String low = t.toLowerCase(Locale.ROOT);
      boolean dull =
          low.isEmpty()
              || ROLES.contains(low)
              || VERSION.matcher(low).matches()
              || SIZE.matcher(low).matches();
      if (!dull) {
        out.add(t);
      }
    }
    return out;
  }

  /** The version in a name; empty where there is none. The last one counts. */
  static OptionalInt version(String name) {
    Matcher m = VERSION.matcher(name.replace('_', ' '));
    OptionalInt found = OptionalInt.empty();
    while (m.find()) {
      found = OptionalInt.of(Integer.parseInt(m.group(1)));
    }
    return found;
  }

  /** The name that all versions have in common. */
  static String unversioned(String name) {
    return VERSION.matcher(name.replace('_', ' ')).replaceAll("v#").toLowerCase(Locale.ROOT);
  }

  /**
   * What numbered names of one show have in common: {@code mer_} of mer_010_terrace, else empty.
   */
  static String series(String stem) {
    Matcher m = NUMBERED.matcher(stem);
    return m.matches() ? "#" + m.group(1).toLowerCase(Locale.ROOT) : "";
  }

  /** Whether a path contains a name as a whole word; upper and lower case do not matter. */
  static boolean names(String path, String name) {
    return Pattern.compile(
            "(?<![\\p{L}\\p{N}])" + Pattern.quote(name) + "(?![\\p{L}\\p{N}])",
            Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE)
        .matcher(path)
        .find();
  }
}
