package flarvo.dispatch;

import flarvo.report.InputError;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;

/** Where deliveries of a project are written. */
public final class DeliveryPlace {

  private DeliveryPlace() {}

  /** A neighbour of a delivery's file, named after it: {@code stem + suffix}. */
  public static Path beside(Path file, String suffix) {
    String name = file.getFileName().toString();
    int dot = name.lastIndexOf('.');
    return file.resolveSibling((dot < 0 ? name : name.substring(0, dot)) + suffix);
  }

  /** The folder beside a delivery's file that its copies of the plates lie in. */
  public static Path plates(Path file) {
    return beside(file, SidecarNames.PLATES);
  }

  /**
   * The file of a delivery. Names come with projects, also from elsewhere: what leads out of the
   * folder is refused.
   *
   * @throws InputError when a name is no path, is absolute, or climbs out of the folder
   */
  public static Path in(Path folder, String fileName) {
    Path name;
    try {
      name = Path.of(fileName);
    } catch (InvalidPathException e) {
      throw new InputError("", "delivery", "'" + fileName + "' is no file name", "Rename it", e);
    }
    Path inside = folder.toAbsolutePath().normalize();
    Path file = inside.resolve(name).normalize();
    if (name.isAbsolute() || !file.startsWith(inside) || file.equals(inside)) {
      throw new InputError(
          "",
          "delivery",
          "the project wants to write to " + fileName + ", outside the folder of its deliveries",
          "Add the delivery again; convert --out writes anywhere");
    }
    return file;
  }
}
