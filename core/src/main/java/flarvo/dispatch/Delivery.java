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
 * @param extract what of the shot: plates, frames, level
 * @param fileName relative to the folder of deliveries, a pattern as in {@link PathPattern}
 */
public record Delivery(
    String name,
    Dialect dialect,
    SceneFormat format,
    Contents contents,
    Extract extract,
    String fileName) {

  public Delivery {
    Objects.requireNonNull(name);
    Objects.requireNonNull(dialect);
    Objects.requireNonNull(format);
    Objects.requireNonNull(contents);
    Objects.requireNonNull(extract);
    Objects.requireNonNull(fileName);
  }

  /** Of the whole shot, with the undistorted plates. */
  public Delivery(
      String name, Dialect dialect, SceneFormat format, Contents contents, String fileName) {
    this(name, dialect, format, contents, Extract.WHOLE, fileName);
  }

  public Delivery withDialect(Dialect d) {
    return new Delivery(name, d, format, contents, extract, fileName);
  }

  public Delivery withContents(Contents c) {
    return new Delivery(name, dialect, format, c, extract, fileName);
  }

  /** Behind the camera, plates of another role. */
  public Delivery withPlate(PlateRole p) {
    return withExtract(extract.withPlate(p));
  }

  public Delivery withExtract(Extract e) {
    return new Delivery(name, dialect, format, contents, e, fileName);
  }

  /** Role of the plates behind the camera. */
  public PlateRole plate() {
    return extract.plate();
  }

  public Delivery withName(String n) {
    return new Delivery(n, dialect, format, contents, extract, fileName);
  }

  public Delivery withFileName(String n) {
    return new Delivery(name, dialect, format, contents, extract, n);
  }

  /** Another format; the file's extension follows. */
  public Delivery withFormat(SceneFormat f) {
    if (fileName.endsWith(".{ext}")) {
      return new Delivery(name, dialect, f, contents, extract, fileName);
    }
    int dot = fileName.lastIndexOf('.');
    String stem = dot < 0 ? fileName : fileName.substring(0, dot);
    return new Delivery(name, dialect, f, contents, extract, stem + f.extensions().get(0));
  }
}
