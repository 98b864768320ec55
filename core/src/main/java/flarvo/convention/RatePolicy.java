package flarvo.convention;

/** What happens when plate and recipient count time differently. */
public enum RatePolicy {
  /** Frame for frame: the picture matches, the clock does not. */
  KEEP_FRAMES("keep-frames"),
  /** Second for second: the motion is resampled. */
  KEEP_SECONDS("keep-seconds");

  private final String word;

  RatePolicy(String word) {
    this.word = word;
  }

  public String word() {
    return word;
  }
}
