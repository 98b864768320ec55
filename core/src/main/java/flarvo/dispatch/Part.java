package flarvo.dispatch;

/** A part of a shot that a delivery contains, or leaves out. */
public enum Part {
  CAMERA("camera", "Camera"),
  TRACKERS("trackers", "Trackers"),
  /** Stand-ins, and locators as groups of points. */
  GEOMETRY("geometry", "Geometry");

  private final String word;
  private final String label;

  Part(String word, String label) {
    this.word = word;
    this.label = label;
  }

  /** In files. */
  public String word() {
    return word;
  }

  /** On screen. */
  public String label() {
    return label;
  }
}
