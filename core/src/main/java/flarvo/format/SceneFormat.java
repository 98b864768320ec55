package flarvo.format;

import flarvo.convention.Dialect;
import flarvo.convention.SceneSetting;
import flarvo.report.Note;
import flarvo.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** One file format: how to know it, read it and write it, and what it cannot carry. */
public interface SceneFormat {

  /** Short and stable, as the command line prints it. */
  String id();

  /** What people call it. */
  String title();

  /** With the dot, in lower case; the first is the usual one. */
  List<String> extensions();

  /** By content: the first bytes of a file, at most 4,096. */
  boolean recognises(byte[] head);

  /** The nearest to a dialect that this format can state. */
  Settlement nearestSupported(Dialect wanted);

  /** Phrases of {@link #cannotCarry()} that a delivery's losses and proof go by. */
  String MESHES = "meshes";

  String CLOUDS = "clouds of points";

  String TEXTURES = "pictures on meshes";

  String SEQUENCES = "pictures on meshes that change over time";

  String MOVING_GROUPS = "groups that move";

  String PARENTS = "parents with a place and a scale";

  String MORE_CAMERAS = "more than one camera";

  String CHANGING_BACK = "a film back or lens shift that changes over time";

  String CLIP = "clipping planes";

  /** What this format can never carry; one phrase each. */
  List<String> cannotCarry();

  /** Whether trackers can be one cloud of points, which is another thing than locators there. */
  default boolean holdsClouds() {
    return false;
  }

  /** Whether files say how large locators are drawn. */
  default boolean holdsLocatorSizes() {
    return false;
  }

  /**
   * Whether meshes can show pictures of a kind.
   *
   * @param name of a picture, or what it ends with
   */
  default boolean holdsPicture(String name) {
    return !cannotCarry().contains(TEXTURES);
  }

  /**
   * What files of this format can state in a way that every importer knows. A picture size beside a
   * camera is read by few.
   */
  default Set<SceneSetting> states() {
    return EnumSet.complementOf(EnumSet.of(SceneSetting.PICTURE));
  }

  /** Whether keys lie at seconds, which become other frames in a scene of another rate. */
  default boolean timeInSeconds() {
    return false;
  }

  /** Whether deliveries can be made in it. */
  default boolean writes() {
    return true;
  }

  /**
   * @param from how the sender speaks, where the format itself is silent
   * @throws flarvo.report.InputError when the file is not whole and sound
   */
  FileScene read(Path file, Dialect from, ReadLimits limits, Progress progress);

  /**
   * The same for a file that holds several takes of its animation, of which one is wanted.
   *
   * @param take its name; formats without takes do not look at it
   */
  default FileScene read(
      Path file, Dialect from, ReadLimits limits, Optional<String> take, Progress progress) {
    return read(file, from, limits, progress);
  }

  /**
   * Writes a scene that already is in the spoken dialect's space and frames.
   *
   * @param spoken what {@link #nearestSupported} returned
   * @return what had to be changed for this scene
   */
  List<Note> write(FileScene scene, Dialect spoken, OutputStream out, Progress progress)
      throws IOException;

  /** Files that go with the main one, by the suffix that replaces the extension; usually none. */
  default List<Companion> companions() {
    return List.of();
  }

  /** A second file of the same delivery. */
  interface Companion {
    /** What takes the place of the extension. */
    String suffix();

    /** Writes the companion of a scene that is in the spoken dialect. */
    void write(FileScene scene, Dialect spoken, OutputStream out, Progress progress)
        throws IOException;
  }
}
