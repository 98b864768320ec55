package flarvo.recipient;

/**
 * One setting of a recipient's scene after the import.
 *
 * @param value in words
 */
public record Taken(Setting setting, String value, Whence whence) {

  /** Why a setting is what it is. */
  public enum Whence {
    FILE("file", "from the file"),
    SILENT("own, file silent", "own, because the file does not state it"),
    IGNORED("own, file ignored", "own, because the import ignores the file's"),
    OWN("own", "own");

    private final String word;
    private final String sentence;

    Whence(String word, String sentence) {
      this.word = word;
      this.sentence = sentence;
    }

    public String word() {
      return word;
    }

    public String sentence() {
      return sentence;
    }
  }
}
