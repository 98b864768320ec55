package flarvo.dispatch;

import flarvo.convention.Dialect;
import flarvo.format.SceneFormat;
import java.util.Objects;

/**
 * One file for one recipient.
 *
 * @param name what the board calls it, such as "Animation"
 * @param dialect how the recipient speaks, first frame and rate included
 * @param fileName with the format's extension, relative to the folder of deliveries
 */
public record Delivery(
    String name, Dialect dialect, SceneFormat format, Contents contents, String fileName) {

  public Delivery {
    Objects.requireNonNull(name);
    Objects.requireNonNull(dialect);
    Objects.requireNonNull(format);
    Objects.requireNonNull(contents);
    Objects.requireNonNull(fileName);
  }

  public Delivery withDialect(Dialect d) {
    return new Delivery(name, d, format, contents, fileName);
  }

  /** Another format; the file's extension follows. */
  public Delivery withFormat(SceneFormat f) {
    int dot = fileName.lastIndexOf('.');
    String stem = dot < 0 ? fileName : fileName.substring(0, dot);
    return new Delivery(name, dialect, f, contents, stem + f.extensions().get(0));
  }
}
