package flarvo.report;

/**
 * Something a user should know of a file that was read or written.
 *
 * @param where scene path or file part; may be empty
 */
public record Note(Kind kind, String where, String text) {

  /** What became of the thing that the note is about. */
  public enum Kind {
    /** The file is silent and a default stands in. */
    ASSUMED("assumed"),
    /** There, but not understood or not followed. */
    IGNORED("ignored"),
    /** Carried in another form. */
    CHANGED("changed"),
    /** Stated twice and differently, so that recipients may take either. */
    CONFLICTING("conflicting"),
    /** The format or recipient cannot carry it. */
    LOST("lost");

    private final String word;

    Kind(String word) {
      this.word = word;
    }

    public String word() {
      return word;
    }
  }

  /** Something not stated for which a rule applies. */
  public static Note assumed(String where, String text) {
    return new Note(Kind.ASSUMED, where, text);
  }

  /** Something in a file that is not used. */
  public static Note ignored(String where, String text) {
    return new Note(Kind.IGNORED, where, text);
  }

  /** Something that a file states twice, differently. */
  public static Note conflicting(String where, String text) {
    return new Note(Kind.CONFLICTING, where, text);
  }

  /** Something that is not as it was. */
  public static Note changed(String where, String text) {
    return new Note(Kind.CHANGED, where, text);
  }

  /** Something that a file cannot contain. */
  public static Note lost(String where, String text) {
    return new Note(Kind.LOST, where, text);
  }

  @Override
  public String toString() {
    return where.isEmpty() ? text : where + ": " + text;
  }
}
