package flarvo.dispatch;

import flarvo.convention.Dialect;
import flarvo.format.SceneFormat;
import flarvo.scene.PlateRole;
import java.util.Objects;

/**
 * One file for one recipient.
 *
 * @param name what the board calls it, such as "Animation"
 * @param dialect how the recipient speaks, first frame and rate included
 * @param plate which plates go with the camera: where they have overscan, the camera's film back is
 *     theirs
 * @param fileName relative to the folder of deliveries, a pattern as in {@link PathPattern}
 */
public record Delivery(
    String name,
    Dialect dialect,
    SceneFormat format,
    Contents contents,
    PlateRole plate,
    String fileName) {

  public Delivery {
    Objects.requireNonNull(name);
    Objects.requireNonNull(dialect);
    Objects.requireNonNull(format);
    Objects.requireNonNull(contents);
    Objects.requireNonNull(plate);
    Objects.requireNonNull(fileName);
  }

  /** With the undistorted plates, which a camera fits. */
  public Delivery(
      String name, Dialect dialect, SceneFormat format, Contents contents, String fileName) {
    this(name, dialect, format, contents, PlateRole.UNDISTORTED, fileName);
  }

  public Delivery withDialect(Dialect d) {
    return new Delivery(name, d, format, contents, plate, fileName);
  }

  public Delivery withContents(Contents c) {
    return new Delivery(name, dialect, format, c, plate, fileName);
  }

  /** Behind the camera, plates of another role. */
  public Delivery withPlate(PlateRole p) {
    return new Delivery(name, dialect, format, contents, p, fileName);
  }

  public Delivery withName(String n) {
    return new Delivery(n, dialect, format, contents, plate, fileName);
  }

  public Delivery withFileName(String n) {
    return new Delivery(name, dialect, format, contents, plate, n);
  }

  /** Another format; the file's extension follows. */
  public Delivery withFormat(SceneFormat f) {
    if (fileName.endsWith(".{ext}")) {
      return new Delivery(name, dialect, f, contents, plate, fileName);
    }
    int dot = fileName.lastIndexOf('.');
    String stem = dot < 0 ? fileName : fileName.substring(0, dot);
    return new Delivery(name, dialect, f, contents, plate, stem + f.extensions().get(0));
  }
}
