package flarvo.motion;

import flarvo.scene.Optics;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import java.util.Arrays;
import java.util.Optional;

/**
 * Which of a camera's lengths changes when it zooms. Only their ratio makes the picture, so each
 * can stand still on the value of the first frame while the other takes over.
 */
public enum ZoomOn {
  /** As the shot has it. */
  AS_SHOT("as-shot", "as solved"),
  /** The film back stands still, as on a real camera. */
  FOCAL_LENGTH("focal-length", "focal length"),
  /** The focal length stands still, for who animates only the film back. */
  FILM_BACK("film-back", "film back");

  private final String word;
  private final String label;

  ZoomOn(String word, String label) {
    this.word = word;
    this.label = label;
  }

  /** As files and the command line spell it. */
  public String word() {
    return word;
  }

  /** As the screen says it. */
  public String label() {
    return label;
  }

  /** The setting of a word. */
  public static Optional<ZoomOn> of(String word) {
    return Arrays.stream(values()).filter(z -> z.word.equals(word)).findFirst();
  }

  /** The same picture with the other length standing still. */
  public Shot of(Shot shot) {
    return this == AS_SHOT
        ? shot
        : shot.withCameras(shot.cameras().stream().map(this::camera).toList());
  }

  private ShotCamera camera(ShotCamera c) {
    Optics first = c.optics().at(c.frames().first());
    return c.withOptics(
        c.optics().map(o -> this == FILM_BACK ? onBack(o, first) : onFocal(o, first)));
  }

  // To the last bit: what differs in it counts as a zoom for who reads the file.

  private static Optics onBack(Optics o, Optics first) {
    Optics s = o.scaled(first.focalLengthMm() / o.focalLengthMm());
    return new Optics(
        first.focalLengthMm(),
        s.filmWidthMm(),
        s.filmHeightMm(),
        s.principalXMm(),
        s.principalYMm());
  }

  private static Optics onFocal(Optics o, Optics first) {
    Optics s = o.scaled(first.filmWidthMm() / o.filmWidthMm());
    return new Optics(
        s.focalLengthMm(),
        first.filmWidthMm(),
        s.filmHeightMm(),
        s.principalXMm(),
        s.principalYMm());
  }
}
