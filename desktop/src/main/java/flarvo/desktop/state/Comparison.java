package flarvo.desktop.state;

/** How the shot and what is compared with it share the picture. */
public enum Comparison {
  OVERLAID("Overlaid"),
  BESIDE("Side by side"),
  WIPE("Wipe"),
  BLINK("Blink"),
  DIFFERENCE("Difference");

  private final String label;

  Comparison(String label) {
    this.label = label;
  }

  /** On screen. */
  public String label() {
    return label;
  }
}
