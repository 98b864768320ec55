package flarvo.convention;

/** How a picture and a film back of another aspect are brought together. */
public enum FilmFit {
  /** The picture spans the film back's width. */
  WIDTH("width"),
  /** The picture spans the film back's height. */
  HEIGHT("height"),
  /** The picture lies inside the film back and touches it. */
  FILL("fill"),
  /** The film back lies inside the picture and touches it. */
  OVERSCAN("overscan"),
  /** The picture covers the film back as it is, whatever that does to its pixels. */
  STRETCH("stretch");

  private final String word;

  FilmFit(String word) {
    this.word = word;
  }

  public String word() {
    return word;
  }

  /** The part of the film plane that the picture covers; centred on the back. */
  public FilmBack covered(FilmBack back, double pictureAspect) {
    double byWidth = back.widthMm();
    double byHeight = back.heightMm() * pictureAspect;
    double width =
        switch (this) {
          case WIDTH -> byWidth;
          case HEIGHT -> byHeight;
          case FILL -> Math.min(byWidth, byHeight);
          case OVERSCAN -> Math.max(byWidth, byHeight);
          case STRETCH -> back.widthMm();
        };
    if (this == STRETCH) {
      return back;
    }
    return new FilmBack(width, width / pictureAspect);
  }
}
