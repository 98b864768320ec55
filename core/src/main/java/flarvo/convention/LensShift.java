package flarvo.convention;

/** Whether a recipient takes a principal point off the centre, and what its numbers mean. */
public enum LensShift {
  /** Not understood: a shift is lost. */
  IGNORED("ignored"),
  /** Positive moves the film back right and up: the principal point goes the other way. */
  MOVES_FILM_BACK("film-back"),
  /** Positive is where the principal point lies, right and up. */
  PRINCIPAL_POINT("principal-point");

  private final String word;

  LensShift(String word) {
    this.word = word;
  }

  public String word() {
    return word;
  }

  /** Factor from our principal point (right, up) to the recipient's number. */
  public int sign() {
    return switch (this) {
      case IGNORED -> 0;
      case MOVES_FILM_BACK -> -1;
      case PRINCIPAL_POINT -> 1;
    };
  }
}
