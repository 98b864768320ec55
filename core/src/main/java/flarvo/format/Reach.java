package flarvo.format;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/**
 * Which files a scene may have read besides itself. A file from elsewhere could otherwise name any
 * file of this machine, and tell by what happens whether it is there.
 *
 * @param anywhere whether the user allowed every place
 * @param folder what was opened, where the scene lies in it: a dropped folder, or a project's
 */
public record Reach(boolean anywhere, Optional<Path> folder) {

  /** The folder that the scene lies in. */
  public static final Reach BESIDE = new Reach(false, Optional.empty());

  public static final Reach ANYWHERE = new Reach(true, Optional.empty());

  /** What a user is told of a file that was not read. */
  public static final String REFUSED =
      "lies outside the folder that was opened, so it was not read; --allow-outside allows it, and"
          + " in the window 'Read files outside a shot's folder'";

  /** The same for scenes in a folder that was opened as a whole. */
  public Reach within(Path opened) {
    return anywhere || folder.isPresent() ? this : new Reach(false, Optional.of(opened));
  }

  /**
   * Whether a scene may have another file read. What leads out by its path is refused without a
   * look at the disk, and what leads out by a link after one.
   */
  public boolean allows(Path scene, Path other) {
    if (anywhere) {
      return true;
    }
    Path own = normal(scene).getParent();
    Path opened = folder.map(Reach::normal).filter(own::startsWith).orElse(own);
    Path o = normal(other);
    return (o.startsWith(opened) || o.startsWith(real(opened))) && !leadsOut(opened, o);
  }

  private static boolean leadsOut(Path opened, Path other) {
    return Files.exists(other) && !real(other).startsWith(real(opened));
  }

  private static Path normal(Path p) {
    return p.toAbsolutePath().normalize();
  }

  private static Path real(Path p) {
    try {
      return p.toRealPath();
    } catch (IOException e) {
      return normal(p); // not there, which whoever opens it says
    }
  }
}
