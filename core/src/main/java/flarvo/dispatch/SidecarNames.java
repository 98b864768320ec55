package flarvo.dispatch;

import flarvo.report.InputError;
import java.io.IOException;
import java.nio.file.DirectoryIteratorException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;

/** Sidecars of a delivery that is not known, by their names. */
public final class SidecarNames {

  static final String SHEET = "_lens.json";
  static final String TRACKS = "_tracks.csv";
  static final String PLATES = "_plates";

  /** A pattern: one or two maps, or as many for each frame. */
  static final String MAPS = "_(un|re)distort(\\.\\d+)?\\.exr";

  private static final String ENDINGS =
      String.join("|", Pattern.quote(SHEET), Pattern.quote(TRACKS), PLATES, MAPS);

  private SidecarNames() {}

  /**
   * What lies beside a file under the names that sidecars of it would have.
   *
   * @return names, in their order
   * @throws InputError when the folder cannot be listed
   */
  public static List<String> beside(Path file) {
    Path folder = file.toAbsolutePath().getParent();
    String stem = DeliveryPlace.beside(file, "").getFileName().toString();
    Pattern names = Pattern.compile(Pattern.quote(stem) + "(" + ENDINGS + ")");
    List<String> out = new ArrayList<>();
    if (folder == null || !Files.isDirectory(folder)) {
      return out;
    }
    try (DirectoryStream<Path> all = Files.newDirectoryStream(folder)) {
      for (Path p : all) {
        String name = p.getFileName().toString();
        if (names.matcher(name).matches()) {
          out.add(name);
        }
      }
    } catch (IOException | DirectoryIteratorException e) {
      throw new InputError(folder.toString(), "", "cannot be listed", "Check its rights", e);
    }
    out.sort(null);
    return out;
  }
}
