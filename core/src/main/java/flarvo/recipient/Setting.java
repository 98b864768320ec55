package flarvo.recipient;

/** What a recipient's scene can have otherwise than the sender meant it. */
public enum Setting {
  RATE("rate", "Rate"),
  FRAME_POLICY("frame-policy", "Frames or seconds"),
  FIRST_FRAME("first-frame", "First frame"),
  RANGE("range", "Frame range"),
  UNIT("unit", "Unit"),
  AXES("axes", "World axes"),
  CAMERA_AXES("camera-axes", "Camera axes"),
  FILM_BACK("film-back", "Film back"),
  FIT("fit", "Film fit"),
  SHIFT("shift", "Lens shift"),
  PICTURE("picture", "Render size");

  private final String word;
  private final String title;

  Setting(String word, String title) {
    this.word = word;
    this.title = title;
  }

  public String word() {
    return word;
  }

  public String title() {
    return title;
  }
}
