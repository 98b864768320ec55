package flarvo.scene;

/**
 * Where the shot's picture lies in plates that show more of the scene, or less.
 *
 * @param left pixels of the plates at the left of it; below zero where they begin within it
 * @param top pixels of the plates above it, likewise
 */
public record Inset(PictureSize picture, double left, double top) {

  /** In the middle of plates of a size. */
  static Inset centred(PictureSize picture, PictureSize plates) {
    return new Inset(
        picture,
        (plates.width() - picture.width()) / 2.0,
        (plates.height() - picture.height()) / 2.0);
  }

  /** Whether it is in the middle of plates of a size. */
  public boolean isCentredIn(PictureSize plates) {
    return equals(centred(picture, plates));
  }

  /** Whether plates of a size leave some of it out. */
  public boolean isCutBy(PictureSize plates) {
    return left < 0
        || top < 0
        || left + picture.width() > plates.width()
        || top + picture.height() > plates.height();
  }

  /** Whether it is all of plates of a size. */
  boolean isAllOf(PictureSize plates) {
    return picture.width() == plates.width()
        && picture.height() == plates.height()
        && left == 0
        && top == 0;
  }
}
