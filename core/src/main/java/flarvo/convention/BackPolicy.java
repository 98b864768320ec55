package flarvo.convention;

/** Where a recipient takes its film back from. */
public enum BackPolicy {
  /** From the file; the assumed one only where the file is silent. */
  FROM_FILE("file"),
  /** Always its own: the focal length must be rescaled to it. */
  ALWAYS_ASSUMED("always-assumed");

  private final String word;

  BackPolicy(String word) {
    this.word = word;
  }

  public String word() {
    return word;
  }
}
