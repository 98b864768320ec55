package flarvo.desktop.view;

/** From where Space is looked at. */
public enum SpaceSide {
  FREE("free"),
  TOP("top"),
  SIDE("side"),
  FRONT("front");

  private final String word;

  SpaceSide(String word) {
    this.word = word;
  }

  public String word() {
    return word;
  }
}
